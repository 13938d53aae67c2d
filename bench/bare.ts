import express from 'express';

/** The bare baselines: Express sending the same bytes, and Express answering 204. Runs as a process of its own, as the server does. */
const app = express().disable('x-powered-by').disable('etag');
let bytes = Buffer.alloc(0);
app.put('/bytes', express.raw({ type: '*/*', limit: '5mb' }), (request, response) => {
  bytes = Buffer.from(request.body as Buffer);
  response.status(204).end();
});
app.get('/bytes', (_request, response) => {
  response.set({ 'content-type': 'text/html; charset=utf-8', 'content-encoding': 'gzip' }).end(bytes);
});
app.post('/nothing', (_request, response) => {
  response.status(204).end();
});
app.listen(Number(process.env.BARE_PORT), '127.0.0.1');
