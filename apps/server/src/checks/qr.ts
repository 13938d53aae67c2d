import type { Response } from 'express';
import { toBuffer, toString as toText } from 'qrcode';
import { z } from 'zod';

export const QrQuerySchema = z.object({
  address: z.url({ protocol: /^https?$/, error: 'Give a web address.' }).max(1000, 'Keep the address under 1,000 characters.'),
  as: z.enum(['svg', 'png']).default('svg').describe('Drawn in lines, or as a picture of 1,024 pixels'),
  download: z.enum(['yes', 'no']).default('no'),
});

const TYPES = { svg: 'image/svg+xml', png: 'image/png' };
/** Still read with a quarter of it covered or worn. */
const CORRECTION = 'Q';

/** Answers with an address as a QR code. */
export async function sendQr(response: Response, { address, as, download }: z.infer<typeof QrQuerySchema>): Promise<void> {
  const options = { errorCorrectionLevel: CORRECTION, margin: 4 } as const;
  const code = as === 'svg' ? await toText(address, { ...options, type: 'svg' }) : await toBuffer(address, { ...options, width: 1024 });
  response
    .set({
      'content-type': TYPES[as],
      'cache-control': 'private, max-age=3600',
      ...(download === 'yes' ? { 'content-disposition': `attachment; filename="qr-code.${as}"` } : {}),
    })
    .send(code);
}
