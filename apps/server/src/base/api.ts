import { setImmediate as breathe } from 'node:timers/promises';
import { isTooDeep } from '@ruta/core/json';
import type { Role } from '@ruta/core/team';
import type { NextFunction, Request, Response, Router } from 'express';
import { z } from 'zod';
import { fieldProblems, Refusal } from './problem';
import { type Writes, whenFree } from './writes';

type Method = 'get' | 'post' | 'put' | 'delete';

export interface Operation<B extends z.ZodType, R extends z.ZodType, Q extends z.ZodType> {
  method: Method;
  /** Below `/api`, with `:name` for parameters. */
  path: string;
  summary: string;
  body?: B;
  /** What may stand after the `?`. */
  query?: Q;
  /** What leaves the server: whatever else a handler gives is taken off. */
  response?: R;
  /** Whether it is open to people who are not signed in. */
  open?: boolean;
  /** Who may do it, if not as usual: viewers look, editors change. */
  role?: Role;
}

interface Described {
  method: Method;
  path: string;
  summary: string;
  body?: z.ZodType | undefined;
  query?: z.ZodType | undefined;
  response?: z.ZodType | undefined;
  /** Takes a file, in the field `file` of a form. */
  takesFile?: true;
  /** Who may do it. */
  role: Role | 'open';
}

const A_FILE = { type: 'object', required: ['file'], properties: { file: { type: 'string', contentMediaType: 'application/octet-stream' } } };

/** The studio's API: every operation is declared once, and from that come validation and the OpenAPI document. */
export class Api {
  private readonly described: Described[] = [];
  private document: Promise<string> | undefined;

  constructor(
    private readonly router: Router,
    private readonly guard: (request: Request, role?: Role) => void,
    private readonly writes: Pick<Writes, 'held' | 'free'>,
  ) {}

  /**
   * Adds an operation. Body and query are parsed by their schemas; what does not fit gets 400 naming each path. The
   * answer is parsed by its own on the way out, so that nothing leaves that the studio does not need.
   */
  on<B extends z.ZodType, R extends z.ZodType, Q extends z.ZodType>(
    operation: Operation<B, R, Q>,
    handle: (input: {
      body: z.infer<B>;
      query: z.infer<Q>;
      params: Record<string, string>;
      request: Request;
      response: Response;
    }) => Promise<z.input<R>> | z.input<R>,
  ): void {
    const { method, path, summary, body, query, response: output } = operation;
    this.described.push({
      method,
      path,
      summary,
      body,
      query,
      response: output,
      role: operation.open ? 'open' : (operation.role ?? (method === 'get' ? 'viewer' : 'editor')),
    });
    this.router[method](path, async (request: Request, response: Response, next: NextFunction) => {
      try {
        if (!operation.open) this.guard(request, operation.role);
        if (isTooDeep(request.body)) throw new Refusal(400, 'This nests too deep to be read.');
        const parsed = body?.safeParse(request.body ?? {});
        if (parsed && !parsed.success) throw new Refusal(400, 'Some of this does not fit.', fieldProblems(parsed.error));
        const asked = query?.safeParse(request.query);
        if (asked && !asked.success) throw new Refusal(400, 'Some of this address does not fit.', fieldProblems(asked.error));
        const params = Object.fromEntries(Object.entries(request.params).map(([key, value]) => [key, String(value)]));
        const answer = () => handle({ body: parsed?.data as z.infer<B>, query: asked?.data as z.infer<Q>, params, request, response });
        // Whoever may write waits for another program that holds the database; what is put somewhere may be put there again.
        if (method !== 'get' && method !== 'put') await this.writes.free();
        const result = await (method === 'put' ? whenFree(this.writes, answer) : answer());
        if (response.headersSent) return;
        if (result === undefined) response.status(204).end();
        else response.status(method === 'post' ? 201 : 200).json(output ? output.parse(result) : result);
      } catch (error) {
        next(error);
      }
    });
  }

  /** Tells of an operation that takes a file, and is answered by a router of its own. */
  takesFile(path: string, summary: string, response: z.ZodType): void {
    this.described.push({ method: 'post', path, summary, response, takesFile: true, role: 'editor' });
  }

  /** The OpenAPI 3.1 document of all operations, as it is sent: made once, an operation at a time, so that nobody waits for it. */
  openApi(): Promise<string> {
    this.document ??= this.describe().then((document) => JSON.stringify(document));
    return this.document;
  }

  private async describe(): Promise<object> {
    const paths: Record<string, Record<string, object>> = {};
    const schemaOf = (schema: z.ZodType) => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', target: 'draft-2020-12' });
    for (const { method, path, summary, body, query, response, role, takesFile } of this.described) {
      await breathe();
      const inPath = [...path.matchAll(/:(\w+)/g)].map((match) => ({ name: match[1], in: 'path', required: true, schema: { type: 'string' } }));
      const inQuery = Object.entries(query ? ((schemaOf(query) as { properties?: object }).properties ?? {}) : {}).map(([name, schema]) => ({
        name,
        in: 'query',
        required: false,
        schema,
      }));
      const parameters = [...inPath, ...inQuery];
      const address = `/api${path.replace(/:(\w+)/g, '{$1}')}`;
      paths[address] ??= {};
      paths[address][method] = {
        summary,
        'x-role': role,
        ...(parameters.length > 0 ? { parameters } : {}),
        ...(body ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(body) } } } } : {}),
        ...(takesFile ? { requestBody: { required: true, content: { 'multipart/form-data': { schema: A_FILE } } } } : {}),
        responses: {
          [method === 'post' ? '201' : response ? '200' : '204']: {
            description: 'Done',
            ...(response ? { content: { 'application/json': { schema: schemaOf(response) } } } : {}),
          },
          default: { description: 'A problem document (RFC 9457)', content: { 'application/problem+json': {} } },
        },
      };
    }
    return { openapi: '3.1.0', info: { title: 'Ruta', version: '0.1.0' }, paths };
  }
}
