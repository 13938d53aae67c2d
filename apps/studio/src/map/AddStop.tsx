import { BANDS, STEP_KINDS, type StepKind } from '@ruta/core/funnel';
import { Link2, Plus } from 'lucide-react';
import { StopMark } from '../funnel/StopMark';
import { Menu, MenuGroup, MenuItem, MenuLabel, MenuLine, MenuList, MenuTrigger } from '../ui/Menu';

export interface AddStopProps {
  /** Where the new stop will stand, in words: `between “Order” and “Thank you”`. */
  place: string;
  onAdd: (kind: StepKind) => void;
  /** Puts offers here that another funnel has already. */
  onShare?: () => void;
  /** Beside the plus; the plus alone on a line. */
  words?: string;
  /** Opened by the keyboard from the stop before it. */
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

/** A plus that puts a stop of any kind where it stands. */
export function AddStop({ place, words, onAdd, onShare, open, onOpenChange }: AddStopProps) {
  return (
    <Menu {...(open === undefined ? {} : { open })} {...(onOpenChange ? { onOpenChange } : {})}>
      <MenuTrigger
        aria-label={`Put a stop ${place}`}
        title={`Put a stop ${place}`}
        className={
          words
            ? 'inline-flex items-center gap-2 rounded-md border border-line bg-white px-3.5 min-h-9 font-semibold hover:border-soft'
            : 'grid place-items-center size-6 rounded-full border-2 border-ink bg-white text-ink hover:bg-way'
        }
      >
        <Plus size={words ? 15 : 14} strokeWidth={2.5} aria-hidden="true" /> {words}
      </MenuTrigger>
      <MenuList
        align="center"
        // The stop it makes is looked at next; the plus it came from has moved.
        onCloseAutoFocus={(event) => event.preventDefault()}
      >
        {BANDS.map((band) => {
          const kinds = STEP_KINDS.filter((kind) => kind.band === band);
          return kinds.length === 0 ? null : (
            <MenuGroup key={band}>
              <MenuLabel>{band}</MenuLabel>
              {kinds.map(({ kind, name }) => (
                <MenuItem key={kind} onSelect={() => onAdd(kind)}>
                  <StopMark kind={kind} current={false} size={18} /> {name}
                </MenuItem>
              ))}
            </MenuGroup>
          );
        })}
        {onShare ? (
          <>
            <MenuLine />
            <MenuItem onSelect={onShare}>
              <Link2 size={18} aria-hidden="true" /> Offers of another funnel
            </MenuItem>
          </>
        ) : null}
      </MenuList>
    </Menu>
  );
}
