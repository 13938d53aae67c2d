import type { Server } from 'node:http';

/** So long a connection stays open for the next request: longer than proxies keep theirs, who else send into one that is just being closed. */
const KEPT_OPEN_MS = 75_000;

/** Has a server listen on this computer. @throws Error in one line, with the setting, if the port is taken */
export function listen(server: Server, port: number, setting: string): Promise<Server> {
  server.keepAliveTimeout = KEPT_OPEN_MS;
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      reject(error.code === 'EADDRINUSE' ? new Error(`Port ${port} is taken. Stop what uses it, or set ${setting} to a free port.`) : error);
    });
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}
