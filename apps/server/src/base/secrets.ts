import { createCipheriv, createDecipheriv, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { writeWhole } from './durable';

/** Encrypts what must not be readable in the database, and signs links; the key is a file beside it. */
export interface Secrets {
  encrypt(text: string): string;
  decrypt(sealed: string): string;
  sign(text: string): string;
  verify(text: string, signature: string): boolean;
  sessionSecret: string;
}

const KEY_BYTES = 32;

/**
 * Reads the key file of a data folder, or makes it on the first start (readable by its owner only). To be called before
 * the database is opened: beside one that is there already, a key made anew would read nothing of it.
 * @throws Error with a one-line message saying what to do if the key is missing or damaged
 */
export function openSecrets(dataDir: string): Secrets {
  const file = path.join(dataDir, 'secret.key');
  const whatToDo = `Put ${file} back from a backup. Without it the connections cannot be read and links that were sent end; to go on all the same, write 64 hexadecimal digits of your own into it.`;
  if (!existsSync(file)) {
    if (existsSync(path.join(dataDir, 'shop.sqlite'))) throw new Error(`The key file of this shop is missing. ${whatToDo}`);
    writeWhole(file, randomBytes(KEY_BYTES).toString('hex'));
  }
  const text = readFileSync(file, 'utf8').trim();
  if (!/^[0-9a-f]+$/i.test(text) || text.length !== 2 * KEY_BYTES) throw new Error(`The key file of this shop is damaged. ${whatToDo}`);
  const key = Buffer.from(text, 'hex');
  const derived = (purpose: string) => createHmac('sha256', key).update(purpose).digest();
  const signingKey = derived('links');
  const sign = (text: string) => createHmac('sha256', signingKey).update(text).digest('base64url');
  return {
    // AES-256-GCM with a fresh nonce: nonce, tag and text in one base64 string.
    encrypt(text) {
      const nonce = randomBytes(12);
      const cipher = createCipheriv('aes-256-gcm', derived('connections'), nonce);
      const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
    },
    decrypt(sealed) {
      const bytes = Buffer.from(sealed, 'base64');
      const decipher = createDecipheriv('aes-256-gcm', derived('connections'), bytes.subarray(0, 12));
      decipher.setAuthTag(bytes.subarray(12, 28));
      return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
    },
    sign,
    verify(text, signature) {
      const expected = Buffer.from(sign(text));
      const given = Buffer.from(signature);
      return expected.length === given.length && timingSafeEqual(expected, given);
    },
    sessionSecret: derived('sessions').toString('hex'),
  };
}
