import { useReactFlow } from '@xyflow/react';
import { Download, Expand, Maximize, Minus, Plus, Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { useMapState } from '../funnel/mapSlice';
import type { MapHand } from '../funnel/useMap';
import { Button, IconButton } from '../ui/Button';
import { Menu, MenuItem, MenuList, MenuTrigger } from '../ui/Menu';
import { savePng, saveSvg } from './exportMap';
import { LENSES, type Lens } from './lenses';

const PERIODS = [7, 30, 90, 365];

interface ToolProps {
  lens: Lens;
  onLens: (lens: Lens) => void;
  days: number;
  onDays: (days: number) => void;
  fit: () => void;
  /** Keeps what is seen of the map as it is now. */
  keepView: () => void;
  /** Undoes and redoes what was done to the map. */
  hand: Pick<MapHand, 'undo' | 'redo'>;
  fullScreen: () => void;
  /** The map as SVG. */
  drawing: () => string;
  /** Of the file it is kept in. */
  name: string;
  /** What the whole funnel comes to, through the lens; empty for nothing. */
  summary: string;
}

/** What stands under the map: its lenses, the period, how near it is, and the drawing to take along. */
export function MapTools({ lens, onLens, days, onDays, fit, keepView, hand, fullScreen, drawing, name, summary }: ToolProps) {
  const flow = useReactFlow();
  const [problem, setProblem] = useState('');
  const { undo, redo } = useMapState();
  return (
    <div className="flex flex-wrap items-center gap-2">
      <fieldset className="flex rounded-md border border-line bg-white p-0.5">
        <legend className="sr-only">What the map shows</legend>
        {(Object.entries(LENSES) as Array<[Lens, string]>).map(([key, words]) => (
          <button
            key={key}
            type="button"
            aria-pressed={lens === key}
            onClick={() => onLens(key)}
            className={`px-3 h-8 rounded-sm font-semibold ${lens === key ? 'bg-ink text-white' : 'text-ink hover:bg-band'}`}
          >
            {words}
          </button>
        ))}
      </fieldset>
      {lens === 'build' ? null : (
        <label className="flex items-center gap-2 rounded-md border border-line bg-white px-3 min-h-9">
          <span className="text-soft">Last</span>
          <select aria-label="Period" value={days} onChange={(event) => onDays(Number(event.target.value))} className="font-semibold bg-transparent">
            {PERIODS.map((period) => (
              <option key={period} value={period}>
                {period} days
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="flex items-center gap-1 rounded-md border border-line bg-white px-1 py-0.5">
        <IconButton name="Undo (Ctrl Z)" disabled={undo.length === 0} onClick={hand.undo}>
          <Undo2 size={17} />
        </IconButton>
        <IconButton name="Redo (Ctrl Shift Z)" disabled={redo.length === 0} onClick={hand.redo}>
          <Redo2 size={17} />
        </IconButton>
      </div>
      <div className="flex items-center gap-1 rounded-md border border-line bg-white px-1 py-0.5">
        <IconButton name="Smaller" onClick={() => void flow.zoomOut().then(keepView)}>
          <Minus size={17} />
        </IconButton>
        <IconButton name="Larger" onClick={() => void flow.zoomIn().then(keepView)}>
          <Plus size={17} />
        </IconButton>
        <Button look="quiet" onClick={fit}>
          <Maximize size={15} aria-hidden="true" /> Fit
        </Button>
        <IconButton name="Full screen" onClick={fullScreen}>
          <Expand size={16} />
        </IconButton>
        <Menu>
          <MenuTrigger aria-label="Take the map along" title="Take the map along" className="grid place-items-center size-8 rounded-md text-soft hover:bg-band">
            <Download size={16} />
          </MenuTrigger>
          <MenuList align="end">
            <MenuItem onSelect={() => saveSvg(name, drawing())}>As a drawing (SVG)</MenuItem>
            <MenuItem
              onSelect={() => void savePng(name, drawing()).catch(() => setProblem('This browser could not draw the picture. Take it as a drawing instead.'))}
            >
              As a picture (PNG)
            </MenuItem>
          </MenuList>
        </Menu>
      </div>
      {summary ? <p className="basis-full rounded-md border border-line bg-white px-3 py-1.5 figures order-first">{summary}</p> : null}
      {problem ? (
        <p role="alert" className="text-stop font-semibold">
          {problem}
        </p>
      ) : null}
    </div>
  );
}
