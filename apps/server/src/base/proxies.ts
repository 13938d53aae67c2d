import type { IncomingMessage } from 'node:http';
import proxyAddr from 'proxy-addr';

/** Whether what a computer says of those behind it is believed; `hop` counts from 0, the one that asks itself. */
export type Trusts = (address: string, hop: number) => boolean;

/** A proxy that ends TLS usually stands on this very machine. Of others on its network anybody might make up whom they stand for. */
const NEAR = 'loopback';

/**
 * Reads which proxies are believed, so that limits count people and not the proxy: `none`; how many there are, from the
 * server outwards; or their addresses and networks with commas between them. By default those on this machine.
 * @throws Error with a one-line message if it cannot be read
 */
export function readProxies(text = NEAR): Trusts {
  const said = text.trim().toLowerCase() || NEAR;
  if (said === 'none') return () => false;
  if (/^\d{1,2}$/.test(said)) return (_address, hop) => hop < Number(said);
  try {
    return proxyAddr.compile(said.split(/[\s,]+/).filter(Boolean));
  } catch {
    throw new Error(`RUTA_PROXIES must be “none”, a number of proxies, or their addresses with commas between them, not “${text}”.`);
  }
}

/** The address of the computer that asks: what believed proxies say of it, else its own. */
export function addressOf(trusts: Trusts, request: IncomingMessage): string | null {
  if (!request.socket.remoteAddress) return null;
  return proxyAddr(request, trusts) ?? null;
}
