import type { PictureInfo } from '@ruta/core/catalog';
import { type Crop, type Focus, type PictureShape, SHAPE_RATIOS } from '@ruta/core/elements';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { Button } from '../ui/Button';
import { Modal } from '../ui/Modal';

const WHOLE: Crop = { x: 0, y: 0, width: 1, height: 1 };
const LEAST = 0.08;
const STEP = 0.02;

const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/**
 * The largest part of a picture with a shape's proportions that lies in the middle of what is wished.
 * @param ratio width divided by height in pixels; null for any
 */
function fitted(wish: Crop, ratio: number | null, picture: PictureInfo): Crop {
  if (ratio === null) return wish;
  const share = (ratio * picture.height) / picture.width;
  const height = Math.min(wish.height, wish.width / share);
  const width = height * share;
  return { x: within(wish.x + (wish.width - width) / 2, 0, 1 - width), y: within(wish.y + (wish.height - height) / 2, 0, 1 - height), width, height };
}

interface CropProps {
  picture: PictureInfo;
  shape: PictureShape;
  crop: Crop | undefined;
  focus: Focus | undefined;
  onChange: (changes: { crop: Crop | undefined; focus: Focus | undefined }) => void;
  onClose: () => void;
}

/** Cuts a picture by dragging, and sets the point that stays in sight; arrow keys do the same. */
export function CropDialog({ picture, shape, crop, focus, onChange, onClose }: CropProps) {
  const ratio = SHAPE_RATIOS[shape];
  const [part, setPart] = useState<Crop>(crop ?? fitted(WHOLE, ratio, picture));
  const [isCut, setCut] = useState(crop !== undefined);
  const [point, setPoint] = useState<Focus>(focus ?? { x: 0.5, y: 0.5 });
  const field = useRef<HTMLDivElement>(null);

  const move = (dx: number, dy: number) => {
    setCut(true);
    setPart((now) => ({ ...now, x: within(now.x + dx, 0, 1 - now.width), y: within(now.y + dy, 0, 1 - now.height) }));
  };
  const grow = (dx: number, dy: number) => {
    setCut(true);
    setPart((now) => {
      const width = within(now.width + dx, LEAST, 1 - now.x);
      if (ratio === null) return { ...now, width, height: within(now.height + dy, LEAST, 1 - now.y) };
      const share = (ratio * picture.height) / picture.width;
      const height = within(width / share, LEAST, 1 - now.y);
      return { ...now, height, width: height * share };
    });
  };
  const drag = (act: (dx: number, dy: number) => void) => (event: PointerEvent<HTMLElement>) => {
    event.preventDefault();
    event.stopPropagation();
    const box = field.current?.getBoundingClientRect();
    if (!box) return;
    let [x, y] = [event.clientX, event.clientY];
    const onMove = (next: globalThis.PointerEvent) => {
      act((next.clientX - x) / box.width, (next.clientY - y) / box.height);
      [x, y] = [next.clientX, next.clientY];
    };
    const onUp = () => {
      removeEventListener('pointermove', onMove);
      removeEventListener('pointerup', onUp);
    };
    addEventListener('pointermove', onMove);
    addEventListener('pointerup', onUp);
  };
  const keys = (act: (dx: number, dy: number) => void) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    act(by[0] ?? 0, by[1] ?? 0);
  };
  const percent = (share: number) => `${share * 100}%`;
  return (
    <Modal
      open
      onClose={onClose}
      title="Crop and focus"
      description="Drag the frame, or its corner; the dot stays in sight where a shape cuts the picture."
      wide
    >
      <div ref={field} className="relative mx-auto w-fit overflow-hidden select-none">
        <img src={`/media/${picture.id}/${picture.widths.at(-1)}.webp`} alt="" draggable={false} className="block max-h-[58vh] max-w-full" />
        {/* biome-ignore lint/a11y/useSemanticElements: a frame that is dragged; no element says so */}
        <div
          role="group"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: moved by the arrow keys
          tabIndex={0}
          aria-label="Part that is shown; the arrow keys move it"
          data-crop-frame=""
          onPointerDown={drag(move)}
          onKeyDown={keys(move)}
          className="absolute cursor-move border-2 border-white shadow-[0_0_0_9999px_rgb(0_0_0/0.45)]"
          style={{ left: percent(part.x), top: percent(part.y), width: percent(part.width), height: percent(part.height), outline: '2px solid #10262B' }}
        >
          <button
            type="button"
            aria-label="Size of the part; the arrow keys change it"
            data-crop-corner=""
            onPointerDown={drag(grow)}
            onKeyDown={keys(grow)}
            className="absolute -right-2 -bottom-2 size-5 rounded-full bg-way border-2 border-ink cursor-nwse-resize"
          />
        </div>
        <button
          type="button"
          aria-label="Point that stays in sight; the arrow keys move it"
          data-crop-focus=""
          onPointerDown={drag((dx, dy) => setPoint((now) => ({ x: within(now.x + dx, 0, 1), y: within(now.y + dy, 0, 1) })))}
          onKeyDown={keys((dx, dy) => setPoint((now) => ({ x: within(now.x + dx, 0, 1), y: within(now.y + dy, 0, 1) })))}
          className="absolute size-5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white bg-info cursor-grab"
          style={{ left: percent(point.x), top: percent(point.y) }}
        />
      </div>
      <div className="flex gap-2 justify-end mt-4">
        <Button look="quiet" onClick={() => onChange({ crop: undefined, focus: undefined })}>
          Show all of it
        </Button>
        <Button look="main" onClick={() => onChange({ crop: isCut ? part : undefined, focus: point.x === 0.5 && point.y === 0.5 ? undefined : point })}>
          Done
        </Button>
      </div>
    </Modal>
  );
}
