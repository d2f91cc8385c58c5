// `npm run train [reading|matching]`: trains what finds names, firms and titles in notes, or what tells whether two rows are one person,
// and writes its weights. The same each time.
import { join } from 'node:path';
import { checkPlace, ensurePackages, root } from './prepare.mjs';
import { main, show } from './say.mjs';

const PROGRAMS = { reading: 'train', matching: 'trainMatching' };

await main(async () => {
  checkPlace();
  await ensurePackages();
  const program = PROGRAMS[process.argv[2] ?? 'reading'];
  if (!program) throw new Error(`what is trained is one of ${Object.keys(PROGRAMS).join(', ')}`);
  const { bundle } = await import('./build.mjs');
  await bundle(`bench/${program}.ts`, `server/dist/bench/${program}.js`);
  return show(process.execPath, [join(root, `server/dist/bench/${program}.js`)], {
    cwd: root,
    env: process.env,
  });
});
