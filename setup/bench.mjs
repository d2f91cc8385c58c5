// `npm run bench [reader|imports|calls]`: builds and runs the benches. They print; they never decide whether a test passes.
import { join } from 'node:path';
import { checkPlace, ensurePackages, root } from './prepare.mjs';
import { main, show } from './say.mjs';

/** A database of its own, gone after the bench. */
async function withDatabase(work) {
  const { startCluster, ensureDatabase, dropDatabase } = await import('./cluster.mjs');
  const cluster = await startCluster();
  const name = `emporikon_bench_${process.pid}`;
  try {
    await ensureDatabase(cluster, name);
    process.env.TEST_DATABASE_URL = cluster.url(name);
    return await work();
  } finally {
    await dropDatabase(cluster, name);
    await cluster.stop();
  }
}

await main(async () => {
  checkPlace();
  await ensurePackages();
  const { bundle } = await import('./build.mjs');
  const wanted = process.argv[2];
  let code = 0;
  for (const name of ['reader', 'imports', 'calls'].filter((one) => !wanted || one === wanted)) {
    await bundle(`bench/${name}.ts`, `bench/dist/${name}.js`);
    const run = () =>
      show(process.execPath, [join(root, `bench/dist/${name}.js`)], { cwd: root, env: process.env });
    code ||= name === 'reader' ? await run() : await withDatabase(run);
  }
  return code;
});
