import { spawn } from 'node:child_process';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import type autocannon from 'autocannon';
import { freePort, Installation, until } from '../apps/server/test/support/installation';
import { type Measurement, measured, requestsPerSecond } from './measure';
import { quoteBench } from './quoteCart';

/** What each ratio must hold, as the design states it. */
const HOLD: Record<string, (ratio: number) => boolean> = {
  'page.throughput': (ratio) => ratio >= 0.6,
  'events.ingest': (ratio) => ratio >= 0.5,
  quote: (ratio) => ratio <= 6,
};

/** Pages that one visitor looks at, as people do. */
const VIEWS_EACH = 3;

const results: Measurement[] = [quoteBench()];
const barePort = await freePort();
const bareUrl = `http://127.0.0.1:${barePort}`;
const bare = spawn(process.execPath, ['--import', 'tsx', path.join(import.meta.dirname, 'bare.ts')], {
  env: { ...process.env, BARE_PORT: String(barePort), NODE_ENV: 'production' },
  stdio: 'inherit',
});
const ruta = await Installation.start({ demo: true, settings: { NODE_ENV: 'production' } });
try {
  await until(async () => (await fetch(`${bareUrl}/nothing`, { method: 'POST' }).catch(() => null))?.status === 204, 'the baseline answers');
  const page = `${ruta.site}/moon-month`;
  const html = await (await fetch(page)).text();
  await fetch(`${bareUrl}/bytes`, { method: 'PUT', body: gzipSync(html, { level: 9 }), headers: { 'content-type': 'text/html' } });
  const headers = {
    'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/131.0 Safari/537.36',
    'accept-encoding': 'gzip',
    cookie: 'ruta_visitor=vis_benchbenchbench',
  };
  const bareBytes = await requestsPerSecond({ url: `${bareUrl}/bytes`, headers });
  const pages = await requestsPerSecond({ url: page, headers });
  results.push(measured('page.throughput', 'requests/s', pages, bareBytes));

  // Every view has an id of its own, so that every one is written.
  let count = 0;
  const views = (path: string) => ({
    method: 'POST' as const,
    requests: [
      {
        setupRequest: (request: autocannon.Request) => {
          count++;
          const id = count.toString(36).padStart(12, '0');
          return {
            ...request,
            method: 'POST' as const,
            path: `${path}?id=evt_bench${id}&path=%2Fmoon-month&query=%3Futm_source%3Dbench`,
            headers: {
              ...headers,
              cookie: `ruta_visitor=vis_bench${Math.floor(count / VIEWS_EACH)
                .toString(36)
                .padStart(12, '0')}`,
            },
          };
        },
      },
    ],
  });
  const bareAnswers = await requestsPerSecond({ url: bareUrl, ...views('/nothing') });
  count = 0;
  const ingested = await requestsPerSecond({ url: ruta.site, ...views('/e') });
  results.push(measured('events.ingest', 'views/s', ingested, bareAnswers));
} finally {
  bare.kill();
  await ruta.stop();
}

if (process.argv.includes('--json')) console.log(JSON.stringify(results));
else {
  for (const { name, value, unit, baseline, ratio } of results) {
    console.log(
      `${name.padEnd(18)} ${String(value).padStart(8)} ${unit.padEnd(11)} baseline ${String(baseline).padStart(8)}  ratio ${ratio}  ${HOLD[name]?.(ratio) ? 'holds' : 'DOES NOT HOLD'}`,
    );
  }
}
process.exitCode = results.every(({ name, ratio }) => HOLD[name]?.(ratio) ?? true) ? 0 : 1;
