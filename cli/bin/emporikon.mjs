#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');
const built = join(home, 'dist', 'main.js');
if (!existsSync(built)) {
  const { buildCli } = await import('../../setup/build.mjs');
  await buildCli();
}
const { main } = await import(pathToFileURL(built).href);
process.exitCode = await main(process.argv.slice(2));
