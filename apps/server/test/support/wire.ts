import http, { type IncomingMessage, type ServerResponse } from 'node:http';
import { freePort } from './installation';

/** What may become of a request to a processor on its way there and back. */
export const FATES = [
  'refused',
  'unsent',
  'lost',
  'down',
  'wrong',
  'stranger',
  'nonsense',
  'cut',
  'twice',
  'late',
  'ended-before',
  'ended-after',
  'through',
] as const;
export type Fate = (typeof FATES)[number];

const LATE_MS = 1400;

/**
 * The wire between a shop and its processor, which loses, doubles, cuts and garbles what goes over it, webhooks included,
 * and ends the server while it waits.
 */
export class Wire {
  /** What becomes of the next request; everything goes through while it is quiet. */
  fate: (method: string, path: string) => Fate = () => 'through';
  /** What became of the requests so far. */
  readonly seen = new Map<Fate, number>();
  /** Ends the server at once and starts it anew. */
  end: () => Promise<void> = async () => {};
  private readonly server = http.createServer((request, response) => void this.carry(request, response));

  private constructor(
    readonly port: number,
    private readonly target: string,
  ) {}

  static async to(target: string): Promise<Wire> {
    const wire = new Wire(await freePort(), target);
    await new Promise<void>((resolve) => wire.server.listen(wire.port, '127.0.0.1', resolve));
    return wire;
  }

  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }

  private async carry(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const parts: Buffer[] = [];
    for await (const part of request) parts.push(part as Buffer);
    const body = Buffer.concat(parts);
    const { method = 'GET', url = '/' } = request;
    try {
      if (url.startsWith('/hook/')) await this.hook(decodeURIComponent(url.slice('/hook/'.length)), request, body, response);
      else await this.ask(method, url, request, this.redirected(method, url, body), response);
    } catch {
      // Whoever it was for has ended meanwhile.
      response.destroy();
    }
  }

  /** The processor is told to send its webhooks over this wire, too. */
  private redirected(method: string, url: string, body: Buffer): Buffer {
    if (method !== 'PUT' || !url.endsWith('/webhook')) return body;
    const { url: to } = JSON.parse(body.toString()) as { url: string };
    return Buffer.from(JSON.stringify({ url: `http://127.0.0.1:${this.port}/hook/${encodeURIComponent(to)}` }));
  }

  private async send(method: string, to: string, request: IncomingMessage, body: Buffer) {
    const { host: _host, connection: _connection, 'content-length': _length, ...headers } = request.headers;
    const answer = await fetch(to, { method, headers: headers as Record<string, string>, ...(body.length > 0 ? { body: new Uint8Array(body) } : {}) });
    return { status: answer.status, type: answer.headers.get('content-type') ?? 'text/plain', body: Buffer.from(await answer.arrayBuffer()) };
  }

  private fateOf(method: string, url: string): Fate {
    const fate = this.fate(method, url);
    this.seen.set(fate, (this.seen.get(fate) ?? 0) + 1);
    return fate;
  }

  private async ask(method: string, url: string, request: IncomingMessage, body: Buffer, response: ServerResponse): Promise<void> {
    const fate = url.startsWith('/quayside/v1/') ? this.fateOf(method, url) : 'through';
    const say = (status: number, type: string, words: string | Buffer) => void response.writeHead(status, { 'content-type': type }).end(words);
    if (fate === 'refused') return say(503, 'application/json', '{"message":"Quayside is not available."}');
    if (fate === 'unsent') return void response.destroy();
    if (fate === 'ended-before') await this.end();
    if (fate === 'twice') await this.send(method, this.target + url, request, body);
    const answer = await this.send(method, this.target + url, request, body);
    if (fate === 'ended-after') await this.end();
    if (fate === 'late') await new Promise((resolve) => setTimeout(resolve, LATE_MS));
    if (fate === 'lost') return void response.destroy();
    if (fate === 'down') return say(503, 'application/json', '{"message":"Quayside is not available."}');
    if (fate === 'wrong') return say(400, 'application/json', '{"message":"A charge needs an amount."}');
    if (fate === 'stranger') return say(401, 'application/json', '{"message":"Unknown key."}');
    if (fate === 'nonsense') return say(200, 'text/html', '<h1>We will be back</h1>');
    if (fate === 'cut') {
      response.writeHead(answer.status, { 'content-type': answer.type, 'content-length': String(answer.body.length) });
      response.write(answer.body.subarray(0, answer.body.length / 2), () => response.destroy());
      return;
    }
    say(answer.status, answer.type, answer.body);
  }

  /** A webhook: some are lost for good, some come twice, some are said to have failed and come again. */
  private async hook(to: string, request: IncomingMessage, body: Buffer, response: ServerResponse): Promise<void> {
    const fate = this.fateOf('POST', '/hook');
    if (fate === 'refused' || fate === 'down') return void response.writeHead(503).end();
    if (['lost', 'unsent', 'wrong', 'stranger', 'nonsense'].includes(fate)) return void response.writeHead(204).end();
    if (fate === 'twice') await this.send('POST', to, request, body);
    const answer = await this.send('POST', to, request, body);
    response.writeHead(answer.status, { 'content-type': answer.type }).end(answer.body);
  }
}
