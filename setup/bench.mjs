// `npm run bench [reader|reading|imports|calls|match|book|find|load|enrich|score|forecast|board|pages|rows|lists|queries|bulk]`: builds and runs the benches. They print; they never decide whether a test passes.
import { join } from 'node:path';
import { checkPlace, ensurePackages, root } from './prepare.mjs';
import { main, show } from './say.mjs';

await main(async () => {
  checkPlace();
  await ensurePackages();
  const { buildCli, buildIfNeeded, bundle } = await import('./build.mjs');
  const wanted = process.argv[2];
  const { withDatabase, withKeptDatabase } = await import('./cluster.mjs');
  // Small, the book is a book of its own: the large one takes minutes to fill and is kept.
  const keptBook = (work) => withKeptDatabase(process.env.BENCH_SMALL ? 'small_book' : 'book', work);
  const run = (name) =>
    show(process.execPath, [join(root, `server/dist/bench/${name}.js`), ...process.argv.slice(3)], {
      cwd: root,
      env: process.env,
    });
  /** How each is run: without a database, with an empty one of its own, or on the book of a million people, which is kept. */
  const ways = {
    reader: (name) => run(name),
    reading: (name) => run(name),
    imports: (name) => withDatabase('bench', () => run(name)),
    bulk: (name) => withDatabase('bench', () => run(name)),
    calls: (name) => withDatabase('bench', () => run(name)),
    match: (name) => buildCli().then(() => run(name)),
    book: (name) => keptBook(() => run(name)),
    find: (name) => keptBook(() => run(name)),
    load: (name) => keptBook(() => run(name)),
    enrich: (name) => withDatabase('bench', () => run(name)),
    score: (name) => withDatabase('bench', () => run(name)),
    forecast: (name) => run(name),
    lists: (name) => keptBook(() => run(name)),
    queries: (name) => keptBook(() => run(name)),
    board: (name) => buildIfNeeded().then(() => withDatabase('bench', () => run(name))),
    rows: (name) => buildIfNeeded().then(() => withDatabase('bench', () => run(name))),
    pages: (name) => buildIfNeeded().then(() => withDatabase('bench', () => run(name))),
  };
  let code = 0;
  for (const [name, way] of Object.entries(ways)) {
    if (wanted && wanted !== name) continue;
    await bundle(`bench/${name}.ts`, `server/dist/bench/${name}.js`);
    code ||= await way(name);
  }
  return code;
});
