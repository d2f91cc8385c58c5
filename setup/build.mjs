// Bundles the server, the stand-ins and the command line with esbuild, and the interface with Vite.
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
  mkdirSync,
} from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { townLines } from './towns.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const OURS = /^@emporikon\//;

/** Everything but our own workspaces stays in node_modules. */
const external = {
  name: 'external',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, (args) =>
      args.kind === 'entry-point' || OURS.test(args.path) ? null : { external: true },
    );
  },
};

export async function bundle(entry, outfile) {
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: root,
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: 'linked',
    logLevel: 'warning',
    plugins: [external],
  });
}

export const buildCli = () =>
  Promise.all([
    bundle('cli/main.ts', 'cli/dist/main.js'),
    bundle('cli/matchWorker.ts', 'cli/dist/matchWorker.js'),
  ]);

export async function buildServer() {
  await Promise.all([
    bundle('server/main.ts', 'server/dist/main.js'),
    bundle('server/worker.ts', 'server/dist/worker.js'),
    bundle('server/lookAlikeThread.ts', 'server/dist/lookAlikeThread.js'),
    bundle('server/forecastThread.ts', 'server/dist/forecastThread.js'),
    bundle('server/readingThread.ts', 'server/dist/readingThread.js'),
    bundle('standins/main.ts', 'standins/dist/main.js'),
    bundle('demo/main.ts', 'demo/dist/main.js'),
    buildCli(),
  ]);
  writeFileSync(join(root, 'server/dist/towns.tsv.gz'), gzipSync(townLines(), { level: 9 }));
}

/** The browser companion: everything it needs in its own files, because a browser loads it from the folder. */
async function buildClipper() {
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: root,
    entryPoints: ['background', 'content', 'sheet', 'options'].map((name) => `clipper/${name}.ts`),
    outdir: 'clipper/dist',
    bundle: true,
    platform: 'browser',
    target: 'chrome120',
    format: 'esm',
    logLevel: 'warning',
  });
  for (const font of ['commissioner', 'literata'])
    copyFileSync(
      join(root, `node_modules/@fontsource-variable/${font}/files/${font}-latin-wght-normal.woff2`),
      join(root, `clipper/dist/${font}.woff2`),
    );
}

async function buildWeb() {
  const { build } = await import('vite');
  await build({ root: join(root, 'web'), logLevel: 'warn' });
  compressAssets(join(root, 'web/dist/assets'));
}

const LEAST_BYTES = 1000;

/** Beside each file that shrinks, what goes over the wire: made once, as small as it gets. */
function compressAssets(folder) {
  for (const name of readdirSync(folder).filter((one) => /\.(?:js|css|svg|json)$/.test(one))) {
    const raw = readFileSync(join(folder, name));
    if (raw.length < LEAST_BYTES) continue;
    writeFileSync(join(folder, `${name}.br`), brotliCompressSync(raw));
    writeFileSync(join(folder, `${name}.gz`), gzipSync(raw, { level: 9 }));
  }
}

function* sourceFiles(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'corpus', 'fixtures'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sourceFiles(path);
    else if (!entry.name.includes('.test.')) yield path;
  }
}

/** A fingerprint of every source that goes into the build, by name, size and time or content. */
function fingerprint() {
  const hash = createHash('sha256');
  for (const folder of ['core', 'contract', 'server', 'web', 'standins', 'demo', 'cli', 'clipper'])
    for (const file of sourceFiles(join(root, folder)))
      hash.update(relative(root, file)).update(readFileSync(file));
  hash.update(readFileSync(join(root, 'package-lock.json')));
  return hash.digest('hex');
}

const stamp = join(root, '.emporikon', 'build.stamp');
const outputs = [
  'server/dist/main.js',
  'server/dist/worker.js',
  'server/dist/lookAlikeThread.js',
  'server/dist/forecastThread.js',
  'server/dist/readingThread.js',
  'server/dist/towns.tsv.gz',
  'standins/dist/main.js',
  'demo/dist/main.js',
  'cli/dist/main.js',
  'clipper/dist/sheet.js',
  'web/dist/index.html',
];

/** Whether a source changed since the last build, or a part of it is missing. */
export function needsBuild() {
  const whole = outputs.every((file) => existsSync(join(root, file)) && statSync(join(root, file)).size > 0);
  return !whole || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== fingerprint();
}

/** Builds when a source changed since the last build; says whether it did. */
export async function buildIfNeeded() {
  if (!needsBuild()) return false;
  const print = fingerprint();
  await buildServer();
  await buildClipper();
  await buildWeb();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, print);
  return true;
}

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href) {
  const built = await buildIfNeeded();
  console.log(built ? 'built' : 'nothing changed since the last build');
}
