import { type ChildProcess, spawn } from 'node:child_process';
import path from 'node:path';
import { freePort, Installation } from '../apps/server/test/support/installation';

/** Works with a shop whose processor takes every charge at once, and ends both whatever becomes of it. */
export async function inInstantShop<T>(work: (ruta: Installation) => Promise<T>): Promise<T> {
  const port = await freePort();
  const processor: ChildProcess = spawn(process.execPath, ['--import', 'tsx', path.join(import.meta.dirname, 'processor.ts')], {
    env: { ...process.env, PROCESSOR_PORT: String(port) },
    stdio: 'inherit',
  });
  let ruta: Installation | undefined;
  try {
    // Mails go out by the clock, after the buyer has been answered; here the clock stands.
    ruta = await Installation.start({ standinsAt: port, settings: { NODE_ENV: 'production', RUTA_JOBS_EVERY_MS: '600000' } });
    return await work(ruta);
  } finally {
    processor.kill();
    await ruta?.stop();
  }
}
