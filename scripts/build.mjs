// Builds everything that runs: studio, server, stand-ins, page scripts and the small font files. Skips what is up to date.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureInstalled, root } from './install.mjs';

const stamp = path.join(root, 'node_modules/.ruta-built');
const SOURCES = ['packages', 'apps', 'demo', 'scripts', 'package-lock.json'];

/** The newest change among the sources, in milliseconds. */
function newestSource(entry) {
  const full = path.join(root, entry);
  const stats = statSync(full);
  if (!stats.isDirectory()) return stats.mtimeMs;
  // A folder's own time says nothing: it changes when its build output is written.
  return Math.max(
    0,
    ...readdirSync(full)
      .filter((name) => !['node_modules', 'dist', 'test'].includes(name))
      .map((name) => newestSource(path.join(entry, name))),
  );
}

export async function build({ quiet = false } = {}) {
  const newest = String(Math.max(...SOURCES.map(newestSource)));
  const outputs = [
    'apps/studio/dist/index.html',
    'apps/server/dist/main.js',
    'apps/server/dist/worker.js',
    'apps/server/dist/reader.js',
    'apps/server/dist/backup.js',
    'apps/server/dist/team.js',
    'apps/standins/dist/main.js',
    'packages/pages/dist/scripts/view.js',
  ];
  if (outputs.every((file) => existsSync(path.join(root, file))) && existsSync(stamp) && readFileSync(stamp, 'utf8') === newest) return;
  if (!quiet) console.log('Building.');
  // What runs is built the same whoever asks for it: within a test the studio would come out slower, with its own timing.
  process.env.NODE_ENV = 'production';
  const { build: esbuild } = await import('esbuild');
  const external = ['server', 'standins'].flatMap((app) =>
    Object.keys(JSON.parse(readFileSync(path.join(root, `apps/${app}/package.json`), 'utf8')).dependencies).filter((name) => !name.startsWith('@ruta/')),
  );
  const node = {
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    jsx: 'automatic',
    external: [...external, 'zod', '@stdlib/*'],
    logLevel: 'error',
    absWorkingDir: root,
    sourcemap: true,
  };
  await Promise.all([
    esbuild({ ...node, entryPoints: ['apps/server/src/main.ts'], outfile: 'apps/server/dist/main.js' }),
    esbuild({ ...node, entryPoints: ['apps/server/src/worker.ts'], outfile: 'apps/server/dist/worker.js' }),
    esbuild({ ...node, entryPoints: ['apps/server/src/reader.ts'], outfile: 'apps/server/dist/reader.js' }),
    esbuild({ ...node, entryPoints: ['apps/server/src/backupCommand.ts'], outfile: 'apps/server/dist/backup.js' }),
    esbuild({ ...node, entryPoints: ['apps/server/src/teamCommand.ts'], outfile: 'apps/server/dist/team.js' }),
    esbuild({ ...node, entryPoints: ['demo/load.ts'], outfile: 'apps/server/dist/loadDemo.js' }),
    esbuild({ ...node, entryPoints: ['apps/standins/src/main.ts'], outfile: 'apps/standins/dist/main.js' }),
    esbuild({
      bundle: true,
      minify: true,
      format: 'iife',
      target: 'es2020',
      logLevel: 'error',
      absWorkingDir: root,
      entryPoints: ['view', 'consent', 'pixel', 'outside', 'checkoutFrame', 'framed', 'checkout', 'offer', 'page'].map(
        (name) => `packages/pages/src/runtime/${name}.ts`,
      ),
      outdir: 'packages/pages/dist/scripts',
    }),
  ]);
  await buildFonts(esbuild);
  const vite = spawnSync(process.execPath, [path.join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'], {
    cwd: path.join(root, 'apps/studio'),
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (vite.status !== 0) throw new Error('The studio could not be built; the lines above say why.');
  writeFileSync(stamp, newest);
}

/** Cuts a small first file out of every typeface: the letters of English and little else, in the weights pages use. */
async function buildFonts(esbuild) {
  const folder = path.join(root, 'packages/pages/dist/fonts');
  mkdirSync(folder, { recursive: true });
  const list = path.join(root, 'packages/pages/dist/fontList.mjs');
  await esbuild({
    stdin: {
      contents: "export { FONT_PAIRS, LOOKS } from '@ruta/core/shop'; export { BASIC_CHARACTERS } from './packages/pages/src/css';",
      resolveDir: root,
      loader: 'ts',
    },
    bundle: true,
    format: 'esm',
    platform: 'node',
    outfile: list,
    external: ['zod'],
    logLevel: 'error',
  });
  const { FONT_PAIRS, LOOKS, BASIC_CHARACTERS } = await import(pathToFileURL(list).href);
  const { default: subset } = await import('subset-font');
  const faces = new Map();
  for (const pair of Object.values(FONT_PAIRS)) {
    faces.set(`${pair.body.slug}-text`, { slug: pair.body.slug, weight: { min: 400, max: 700 } });
    if (pair.heading === pair.body) continue;
    for (const weight of new Set(Object.values(LOOKS).map((look) => look.weight))) {
      faces.set(`${pair.heading.slug}-heading-${weight}`, { slug: pair.heading.slug, weight });
    }
  }
  const done = path.join(folder, '.done');
  const names = [...faces.keys()].join(' ');
  if (existsSync(done) && readFileSync(done, 'utf8') === names) return;
  const original = (slug, range) => readFileSync(path.join(root, `node_modules/@fontsource-variable/${slug}/files/${slug}-${range}-wght-normal.woff2`));
  for (const [name, { slug, weight }] of faces) {
    const small = await subset(original(slug, 'latin'), BASIC_CHARACTERS, { targetFormat: 'woff2', variationAxes: { wght: weight } });
    writeFileSync(path.join(folder, `${name}.woff2`), small);
    for (const range of ['latin', 'latin-ext']) writeFileSync(path.join(folder, `${slug}-${range}.woff2`), original(slug, range));
  }
  writeFileSync(done, names);
}

if (process.argv[1] === import.meta.filename) {
  ensureInstalled();
  await build();
}
