import type { ShrinkAnswer, ShrinkQuestion } from './shrinkPicture';

/** Draws a large picture smaller, away from the window, which goes on answering meanwhile. */
const scope = self as unknown as { onmessage: (event: MessageEvent<ShrinkQuestion>) => void; postMessage: (answer: ShrinkAnswer) => void };
const QUALITY = 0.92;

scope.onmessage = async ({ data: { file, width } }) => {
  try {
    const picture = await createImageBitmap(file);
    const share = Math.min(1, width / picture.width);
    if (share === 1) return scope.postMessage({ blob: null });
    const canvas = new OffscreenCanvas(Math.round(picture.width * share), Math.round(picture.height * share));
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    const blob = await canvas.convertToBlob({ type: 'image/webp', quality: QUALITY });
    scope.postMessage({ blob: blob.size < file.size ? blob : null });
  } catch {
    // What this browser cannot draw is sent as it is: the server says whether it can.
    scope.postMessage({ blob: null });
  }
};
