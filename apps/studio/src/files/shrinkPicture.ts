export interface ShrinkQuestion {
  file: File;
  /** Widest, in pixels. */
  width: number;
}
export interface ShrinkAnswer {
  /** Null if the picture is small enough, or cannot be drawn here. */
  blob: Blob | null;
}

/** Pages show pictures at most 1,600 pixels wide; this leaves room to crop. */
const WIDEST = 3200;
/** Smaller files are sent as they are: drawing them anew would cost more than it saves. */
const FROM_BYTES = 3 * 1024 * 1024;
const DRAWN = ['image/jpeg', 'image/png', 'image/webp', 'image/avif'];

/** A picture that is larger than any page shows it, made smaller in a worker; every other file just as it is. */
export async function shrinkPicture(file: File): Promise<File> {
  if (file.size < FROM_BYTES || !DRAWN.includes(file.type) || typeof OffscreenCanvas === 'undefined') return file;
  const worker = new Worker(new URL('./shrink.worker.ts', import.meta.url), { type: 'module' });
  const blob = await new Promise<Blob | null>((resolve) => {
    worker.onmessage = ({ data }: MessageEvent<ShrinkAnswer>) => resolve(data.blob);
    worker.onerror = () => resolve(null);
    worker.postMessage({ file, width: WIDEST } satisfies ShrinkQuestion);
  });
  worker.terminate();
  return blob ? new File([blob], file.name, { type: blob.type }) : file;
}
