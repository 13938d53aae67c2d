import { pino } from 'pino';
import { readConfig } from './base/config';
import { startServer } from './server';

// What is written is readable by whoever runs the server, and nobody else on this computer.
process.umask(0o077);

// To standard error, as every message of a program that serves: whoever starts it sees what went wrong.
const log = pino({ level: process.env.RUTA_LOG ?? 'warn' }, pino.destination(2));
try {
  const config = readConfig();
  const server = await startServer(config, log);
  log.info({ studio: config.studioUrl, site: config.siteUrl }, 'listening');
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void server.stop().then(() => process.exit(0));
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}
