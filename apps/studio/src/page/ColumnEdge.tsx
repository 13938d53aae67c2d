import { moveEdge, type Section } from '@ruta/core/page';
import { type PointerEvent, useState } from 'react';
import type { useAppDispatch } from '../base/store';
import { changed } from './editorSlice';

const TWELFTHS = 12;

/** The line between two columns: dragged, or moved by the arrow keys, it makes one wider and the other narrower. */
export function ColumnEdge({ section, index, dispatch }: { section: Section; index: number; dispatch: ReturnType<typeof useAppDispatch> }) {
  const [isDragging, setDragging] = useState(false);
  const widen = (from: Section['columns'], by: number) => {
    const columns = moveEdge(from, index, by);
    if (columns[index]?.span === section.columns[index]?.span && by !== 0 && from === section.columns) return;
    dispatch(changed({ operation: { kind: 'setColumns', sectionId: section.id, columns }, mergeKey: `${section.id} edge ${index}`, at: Date.now() }));
  };
  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    const handle = event.currentTarget;
    const row = handle.closest('.row')?.getBoundingClientRect();
    if (!row) return;
    event.preventDefault();
    event.stopPropagation();
    handle.setPointerCapture(event.pointerId);
    setDragging(true);
    const start = event.clientX;
    const before = section.columns;
    let last = 0;
    const onMove = (next: globalThis.PointerEvent) => {
      const by = Math.round(((next.clientX - start) / row.width) * TWELFTHS);
      if (by === last) return;
      last = by;
      widen(before, by);
    };
    const onUp = () => {
      setDragging(false);
      handle.removeEventListener('pointermove', onMove);
    };
    handle.addEventListener('pointermove', onMove);
    handle.addEventListener('pointerup', onUp, { once: true });
    handle.addEventListener('pointercancel', onUp, { once: true });
  };
  return (
    <button
      type="button"
      className="edit-edge"
      data-edge={index}
      data-dragging={isDragging || undefined}
      aria-label={`Width of columns ${index + 1} and ${index + 2}; the arrow keys change it`}
      onPointerDown={onPointerDown}
      onClick={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        widen(section.columns, by);
      }}
    />
  );
}
