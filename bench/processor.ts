import { createServer } from 'node:http';

/** A card processor that takes every charge at once and remembers nothing, so that only the shop itself is measured. Runs as a process of its own. */
let charges = 0;
createServer((request, response) => {
  const answer = (body: object) => response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(body));
  request.resume();
  if (request.url?.endsWith('/accounts')) return answer({ id: 'acct_bench', publicKey: 'pk', secretKeys: { test: 'test', live: 'live' } });
  if (request.url?.endsWith('/webhook')) return answer({ secret: 'whsec_YmVuY2hiZW5jaGJlbmNoYmVuY2g=' });
  if (!request.url?.endsWith('/charges')) return answer({ status: 'ok' });
  charges++;
  return answer({
    id: `qs_bench_${charges}`,
    status: 'captured',
    declineCode: null,
    card: { last4: '0019' },
    method: `qs_pm_bench_${charges}`,
    idempotencyKey: String(request.headers['idempotency-key']),
  });
}).listen(Number(process.env.PROCESSOR_PORT), '127.0.0.1');
