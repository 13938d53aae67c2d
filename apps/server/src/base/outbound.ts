import { lookup as lookUp } from 'node:dns';
import { request as plain } from 'node:http';
import { request as secure } from 'node:https';
import { BlockList, isIP, type LookupFunction } from 'node:net';

/** Addresses that lie within one's own house: loopback, private, link-local, shared, multicast, and what is kept for documents. */
const HOUSE = new BlockList();
for (const [net, prefix] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const) {
  HOUSE.addSubnet(net, prefix, 'ipv4');
}
/**
 * Of the long addresses only those of the internet at large are outside (RFC 4291, 2000::/3), without those of them that stand for
 * a short one, which may be anybody's: 6to4, Teredo and what else is kept for protocols, and those for documents.
 */
const OUTSIDE = new BlockList();
OUTSIDE.addSubnet('2000::', 3, 'ipv6');
for (const [net, prefix] of [
  ['2001::', 23],
  ['2001:db8::', 32],
  ['2002::', 16],
  ['3fff::', 20],
] as const) {
  HOUSE.addSubnet(net, prefix, 'ipv6');
}

/** Whether an address lies within one's own house, where nothing is sent that somebody else named. */
export function isWithinHouse(address: string): boolean {
  const ip = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1] ?? address;
  switch (isIP(ip)) {
    case 4:
      return HOUSE.check(ip, 'ipv4');
    case 6:
      return !OUTSIDE.check(ip, 'ipv6') || HOUSE.check(ip, 'ipv6');
    default:
      return true;
  }
}

const TIMEOUT_MS = 15_000;
const MAX_ANSWER = 2000;

export interface Answer {
  status: number;
  /** Its beginning. */
  text: string;
}

/**
 * Posts to an address that a person has typed. It is looked up once and that very address is called, so that a name cannot
 * lead elsewhere in between; redirects are not followed.
 * @param inside hosts with their ports within the house that may be called all the same: `127.0.0.1:4602`
 * @throws Error in words if there is no such place, it lies within the house, or nobody answers in time
 */
export function postOutside(url: string, headers: Record<string, string>, body: string, inside: readonly string[]): Promise<Answer> {
  const { hostname, protocol, port } = new URL(url);
  const mayStayInside = inside.includes(`${hostname}:${port || (protocol === 'https:' ? 443 : 80)}`);
  const bare = hostname.replace(/^\[|\]$/g, '');
  if (!mayStayInside && isIP(bare) !== 0 && isWithinHouse(bare)) return Promise.reject(new Error(INSIDE));
  const lookup: LookupFunction = (host, options, callback) =>
    lookUp(host, { ...options, all: true }, (error, addresses) => {
      const found = error ? [] : addresses;
      const [first] = found;
      if (error || !first) callback(error ?? new Error(`There is no ${host}.`), '', 0);
      else if (!mayStayInside && found.some(({ address }) => isWithinHouse(address))) callback(new Error(INSIDE), '', 0);
      else if (options.all) callback(null, found as never);
      else callback(null, first.address, first.family);
    });
  return new Promise((resolve, reject) => {
    const send = (protocol === 'https:' ? secure : plain)(
      url,
      { method: 'POST', headers: { ...headers, 'content-length': String(Buffer.byteLength(body)) }, lookup, timeout: TIMEOUT_MS, agent: false },
      (response) => {
        let text = '';
        response.setEncoding('utf8');
        const done = () => resolve({ status: response.statusCode ?? 0, text: text.slice(0, MAX_ANSWER) });
        response.on('data', (part: string) => {
          text += part;
          // However much is answered, its beginning is enough.
          if (text.length > MAX_ANSWER) response.destroy();
        });
        response.on('end', done);
        response.on('close', done);
        response.on('error', done);
      },
    );
    send.on('timeout', () => send.destroy(new Error(`Nobody answered within ${TIMEOUT_MS / 1000} seconds.`)));
    send.on('error', reject);
    send.end(body);
  });
}

const INSIDE = 'This address lies inside this network, where nothing is sent.';
