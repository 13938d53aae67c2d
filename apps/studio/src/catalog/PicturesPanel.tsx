import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, ImagePlus, Trash2 } from 'lucide-react';
import { useUpload } from '../files/useUpload';
import { IconButton } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { UploadButton } from '../ui/UploadButton';
import { ProductPicture } from './ProductPicture';
import { useSheetFields } from './useSheetFields';

const MOST_PICTURES = 12;

/** The product's pictures in their order: the first one leads. Dragged, or moved with Space and the arrow keys. */
export function PicturesPanel({
  ids,
  onChange,
  error,
}: {
  ids: string[];
  onChange: (change: (ids: string[]) => string[]) => void;
  error?: string | undefined;
}) {
  const field = useSheetFields();
  // Those that are there may have been moved or removed while these were on their way.
  const { busy, problemWords, send } = useUpload<{ id: string }>('pictures', (added) =>
    onChange((present) => [...present, ...added.map(({ id }) => id)].slice(0, MOST_PICTURES)),
  );
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onChange((present) => arrayMove(present, present.indexOf(String(active.id)), present.indexOf(String(over.id))));
  };
  return (
    <Panel title="Pictures">
      {ids.length === 0 ? <p className="text-soft mb-3">No pictures yet. The first one leads: on pages, at the checkout and in link previews.</p> : null}
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
          <ul className="flex flex-wrap gap-3 mb-3">
            {ids.map((id, index) => (
              <Picture key={id} id={id} index={index} onRemove={() => onChange((present) => present.filter((other) => other !== id))} />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      <FormProblem>{problemWords ?? error}</FormProblem>
      <div className="grid gap-4 mt-3">
        {ids.length < MOST_PICTURES ? (
          <UploadButton
            label={ids.length > 0 ? 'Add more pictures' : 'Choose pictures'}
            accept="image/*"
            busy={busy}
            onFiles={(files) => send(files.slice(0, MOST_PICTURES - ids.length))}
            icon={ImagePlus}
            several
          />
        ) : null}
        <TextField
          label="Link to a live preview"
          hint="Where people can see the goods before they buy. Empty: none."
          placeholder="https://"
          {...field('previewUrl')}
        />
      </div>
    </Panel>
  );
}

function Picture({ id, index, onRemove }: { id: string; index: number; onRemove: () => void }) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`w-36 rounded-md border bg-white ${index === 0 ? 'border-ink' : 'border-line'} ${isDragging ? 'relative z-10 outline outline-soft' : ''}`}
    >
      <ProductPicture id={id} className="w-full h-24 rounded-b-none" />
      <span className="flex items-center justify-between pl-2">
        <span className="text-[0.86rem] font-semibold">{index === 0 ? 'Leads' : `Picture ${index + 1}`}</span>
        <span className="flex">
          <button
            type="button"
            aria-label={`Move picture ${index + 1}`}
            title="Drag to move; or Space, then the arrow keys"
            className="grid place-items-center size-8 text-soft cursor-grab"
            {...attributes}
            {...listeners}
          >
            <GripVertical size={15} aria-hidden="true" />
          </button>
          <IconButton name={`Remove picture ${index + 1}`} onClick={onRemove}>
            <Trash2 size={15} />
          </IconButton>
        </span>
      </span>
    </li>
  );
}
