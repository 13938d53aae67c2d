import { spawn } from 'node:child_process';
import path from 'node:path';
import { freePort, Installation, until } from '../apps/server/test/support/installation';
import { checkoutBench } from './checkout';
import { checkoutWithOffersBench } from './checkoutWithOffers';
import { editorBench } from './editor';
import { forecastBench } from './forecast';
import { heldBench } from './held';
import { inInstantShop } from './instantShop';
import { largeBench } from './largeShop';
import { listsBench } from './lists';
import { lookedAtBench } from './lookedAt';
import type { Measurement } from './measure';
import { quoteBench } from './quoteCart';
import { reportBench } from './reportMillion';
import { rushBench } from './rush';
import { pagesBench, versionsBench, viewsBench } from './servedPages';

/** What each ratio must hold, as the design states it. */
const HOLD: Record<string, (ratio: number) => boolean> = {
  'page.throughput': (ratio) => ratio >= 1,
  'page.versions': (ratio) => ratio >= 1,
  'events.ingest': (ratio) => ratio >= 0.9,
  quote: (ratio) => ratio <= 1.5,
  checkout: (ratio) => ratio >= 0.2,
  'checkout.page': (ratio) => ratio >= 0.3,
  'quote.http': (ratio) => ratio >= 0.3,
  'checkout.offers': (ratio) => ratio >= 0.2,
  lists: (ratio) => ratio <= 3,
  'report.million': (ratio) => ratio <= 0.1,
  forecast: (ratio) => ratio <= 3,
  'reports.large': (ratio) => ratio <= 10,
  'checkout.looked-at': (ratio) => ratio <= 2,
  'pages.held': (ratio) => ratio <= 10,
  editor: (ratio) => ratio <= 3,
};

// Names after the options run those rows alone.
const asked = process.argv.slice(2).filter((argument) => !argument.startsWith('--'));
const isAsked = (name: string) => asked.length === 0 || asked.includes(name);

const results: Measurement[] = [];
const measure = async (name: string, bench: () => Promise<Measurement>) => {
  if (isAsked(name)) results.push(await bench());
};
await measure('quote', quoteBench);
await measure('forecast', forecastBench);
await measure('lists', listsBench);
await measure('reports.large', largeBench);
await measure('checkout.looked-at', lookedAtBench);
await measure('pages.held', heldBench);
await measure('report.million', reportBench);
await measure('editor', editorBench);
if (['page.throughput', 'page.versions', 'events.ingest', 'checkout', 'checkout.offers', 'checkout.page', 'quote.http'].some(isAsked)) {
  const barePort = await freePort();
  const bareUrl = `http://127.0.0.1:${barePort}`;
  const bare = spawn(process.execPath, ['--import', 'tsx', path.join(import.meta.dirname, 'bare.ts')], {
    env: { ...process.env, BARE_PORT: String(barePort), NODE_ENV: 'production' },
    stdio: 'inherit',
  });
  try {
    await until(async () => (await fetch(`${bareUrl}/nothing`, { method: 'POST' }).catch(() => null))?.status === 204, 'the baseline answers');
    if (isAsked('page.throughput') || isAsked('events.ingest')) {
      const ruta = await Installation.start({ demo: true, settings: { NODE_ENV: 'production' } });
      try {
        await measure('page.throughput', () => pagesBench(ruta, bareUrl));
        await measure('events.ingest', () => viewsBench(ruta, bareUrl));
      } finally {
        await ruta.stop();
      }
    }
    await measure('page.versions', () => inInstantShop((ruta) => versionsBench(ruta, bareUrl)));
    if (isAsked('checkout.page') || isAsked('quote.http'))
      results.push(...(await inInstantShop((ruta) => rushBench(ruta, bareUrl))).filter(({ name }) => isAsked(name)));
    await measure('checkout', () => checkoutBench(bareUrl));
    await measure('checkout.offers', () => checkoutWithOffersBench(bareUrl));
  } finally {
    bare.kill();
  }
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
