// `npm run bench`: builds and runs the benches. They print; they never decide whether a test passes.
import { join } from 'node:path';
import { checkPlace, ensurePackages, root } from './prepare.mjs';
import { main, show } from './say.mjs';

await main(async () => {
  checkPlace();
  await ensurePackages();
  const { bundle } = await import('./build.mjs');
  await bundle('bench/reader.ts', 'bench/dist/reader.js');
  return show(process.execPath, [join(root, 'bench/dist/reader.js')], { cwd: root });
});
