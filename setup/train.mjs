// `npm run train`: trains the model that finds names, firms and titles in notes, and writes its weights. The same each time.
import { join } from 'node:path';
import { checkPlace, ensurePackages, root } from './prepare.mjs';
import { main, show } from './say.mjs';

await main(async () => {
  checkPlace();
  await ensurePackages();
  const { bundle } = await import('./build.mjs');
  await bundle('bench/train.ts', 'server/dist/bench/train.js');
  return show(process.execPath, [join(root, 'server/dist/bench/train.js')], { cwd: root, env: process.env });
});
