import { readConfig } from './config';
import { startStandins } from './standins';

const config = readConfig();
try {
  const standins = await startStandins(config);
  console.log(`stand-ins listen on http://127.0.0.1:${config.port}`);
  const stop = () => void standins.stop().then(() => process.exit(0));
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(
    taken
      ? `Port ${config.port} or ${config.smtpPort} is taken. Stop what uses it, or set RUTA_STANDINS_PORT and RUTA_SMTP_PORT to free ports.`
      : `The stand-ins could not start: ${(error as Error).message}`,
  );
  process.exit(1);
}
