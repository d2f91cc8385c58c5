// `npm test`: alone on a fresh machine. Sets up what it needs, then checks, unit, server and end-to-end tests.
import { checkPlace, ensureDebian, ensurePackages, root } from './prepare.mjs';
import { main, show, step, Trouble } from './say.mjs';

const part = process.argv[2] ?? 'all';
const rest = process.argv.slice(3);
const npx = (...args) => show('npx', ['--no-install', ...args], { cwd: root, env: process.env });

async function withDatabase(work) {
  const { startCluster, ensureDatabase, dropDatabase } = await import('./cluster.mjs');
  const cluster = await startCluster();
  const name = `emporikon_test_${process.pid}`;
  try {
    await ensureDatabase(cluster, name);
    process.env.TEST_DATABASE_URL = cluster.url(name);
    return await work();
  } finally {
    await dropDatabase(cluster, name);
    await cluster.stop();
  }
}

const runs = {
  check: () => show('npm', ['run', '--silent', 'check'], { cwd: root }),
  unit: () => npx('jest', '--selectProjects', 'unit', ...rest),
  server: () => withDatabase(() => npx('jest', '--selectProjects', 'server', '--runInBand', ...rest)),
  e2e: () => withDatabase(() => npx('playwright', 'test', '--config', 'e2e/playwright.config.ts', ...rest)),
  screenshots: () =>
    withDatabase(() => npx('playwright', 'test', '--config', 'e2e/screenshots.config.ts', ...rest)),
};

await main(async () => {
  if (part !== 'all' && !(part in runs))
    throw new Trouble(`There is no part “${part}”; there are ${Object.keys(runs).join(', ')}.`);
  const parts = part === 'all' ? ['check', 'unit', 'server', 'e2e'] : [part];
  checkPlace();
  const needs = [
    ...(parts.some((one) => ['server', 'e2e', 'screenshots'].includes(one)) ? ['postgres'] : []),
    ...(parts.includes('server') ? ['dovecot'] : []),
    ...(parts.some((one) => ['e2e', 'screenshots'].includes(one)) ? ['chromium'] : []),
  ];
  await ensureDebian(...needs);
  await ensurePackages();
  if (parts.some((one) => one !== 'check')) {
    const { buildIfNeeded } = await import('./build.mjs');
    await step('building', buildIfNeeded);
  }
  for (const one of parts) {
    console.log(`\n── ${one} ──`);
    const code = await runs[one]();
    if (code !== 0) throw new Trouble(`${one} failed`);
  }
  console.log(`\n${parts.join(', ')} passed`);
});
