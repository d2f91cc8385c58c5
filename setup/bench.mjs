// `npm run bench [reader|imports|calls|match]`: builds and runs the benches. They print; they never decide whether a test passes.
import { join } from 'node:path';
import { checkPlace, ensurePackages, root } from './prepare.mjs';
import { main, show } from './say.mjs';

await main(async () => {
  checkPlace();
  await ensurePackages();
  const { buildCli, bundle } = await import('./build.mjs');
  const wanted = process.argv[2];
  const { withDatabase } = await import('./cluster.mjs');
  let code = 0;
  for (const name of ['reader', 'imports', 'calls', 'match'].filter((one) => !wanted || one === wanted)) {
    if (name === 'match') await buildCli();
    await bundle(`bench/${name}.ts`, `bench/dist/${name}.js`);
    const run = () =>
      show(process.execPath, [join(root, `bench/dist/${name}.js`)], { cwd: root, env: process.env });
    code ||= name === 'reader' || name === 'match' ? await run() : await withDatabase('bench', run);
  }
  return code;
});
