import { type PointerEvent, useState } from 'react';
import { useAppDispatch } from '../base/store';
import { WIDTH_RANGE, widthChosen } from './editorSlice';

const STEP = 10;
const BIG_STEP = 100;

/** The edge of the page: dragged, or moved by the arrow keys, it shows the page at any width. */
export function WidthEdge({ width, scale }: { width: number; scale: number }) {
  const dispatch = useAppDispatch();
  const [isDragging, setDragging] = useState(false);
  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    const handle = event.currentTarget;
    event.preventDefault();
    handle.setPointerCapture(event.pointerId);
    setDragging(true);
    const start = event.clientX;
    // The page stands in the middle, so that its edge moves half as far as its width grows.
    const onMove = (next: globalThis.PointerEvent) => dispatch(widthChosen(width + ((next.clientX - start) * 2) / scale));
    const onUp = () => {
      setDragging(false);
      handle.removeEventListener('pointermove', onMove);
    };
    handle.addEventListener('pointermove', onMove);
    handle.addEventListener('pointerup', onUp, { once: true });
    handle.addEventListener('pointercancel', onUp, { once: true });
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a separator that is moved has no element of its own
    <div
      role="separator"
      tabIndex={0}
      aria-orientation="vertical"
      aria-label="Width of the page"
      aria-valuenow={width}
      aria-valuemin={WIDTH_RANGE.least}
      aria-valuemax={WIDTH_RANGE.most}
      aria-valuetext={`${width} pixels`}
      title={`${width} pixels wide. Drag, or use the arrow keys.`}
      className={`absolute top-0 bottom-0 -right-3.5 w-3 cursor-ew-resize touch-none rounded-sm ${isDragging ? 'bg-way' : 'bg-line hover:bg-way focus-visible:bg-way'}`}
      onPointerDown={onPointerDown}
      onClick={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        dispatch(widthChosen(width + by * (event.shiftKey ? BIG_STEP : STEP)));
      }}
    >
      {isDragging ? <span className="sticky top-2 block w-max -translate-x-full rounded-sm bg-ink px-2 py-1 text-white">{width} px</span> : null}
    </div>
  );
}
