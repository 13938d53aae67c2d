import { pino } from 'pino';
import { readConfig } from './base/config';
import { startServer } from './server';
import { setupCode } from './team/setupCode';

// What is written is readable by whoever runs the server, and nobody else on this computer.
process.umask(0o077);

// To standard error, as every message of a program that serves: whoever starts it sees what went wrong.
const log = pino({ level: process.env.RUTA_LOG ?? 'warn' }, pino.destination(2));
try {
  const config = readConfig();
  const server = await startServer(config, log);
  const code = setupCode(server.services);
  // To standard output, which goes into no log.
  if (code) console.log(`Set-up code ${code}: the first visit to ${config.studioUrl} asks for it.`);
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
