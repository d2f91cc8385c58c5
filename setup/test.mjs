// `npm test`: alone on a fresh machine. Sets up what it needs, then checks, unit, server and end-to-end tests.
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { checkPlace, ensureDebian, ensurePackages, home, root } from './prepare.mjs';
import { main, show, step, Trouble } from './say.mjs';

const part = process.argv[2] ?? 'all';
const rest = process.argv.slice(3);
const npx = (...args) => show('npx', ['--no-install', ...args], { cwd: root, env: process.env });

const withDatabase = async (work) => (await import('./cluster.mjs')).withDatabase('test', work);

const script = (name) => show('npm', ['run', '--silent', name], { cwd: root });

/** The types beside everything else `npm run check` looks at, because they take as long as all of it together. */
async function checkInTwo() {
  const others = async () => {
    for (const name of ['check:format', 'check:lint', 'check:unused']) {
      const code = await script(name);
      if (code !== 0) return code;
    }
    return 0;
  };
  const codes = await Promise.all([script('check:types'), others()]);
  return codes.find((code) => code !== 0) ?? 0;
}

/** Every bench once, small: whether they still run after a change of the schema, not how fast. */
function runBenchesSmall() {
  return show(process.execPath, [join(root, 'setup/bench.mjs')], {
    cwd: root,
    env: { ...process.env, BENCH_SMALL: '1' },
  });
}

/** The server tests, and after all of them a look at which routes and parameters none of them used. */
async function runServerTests() {
  const seen = join(home, 'routes-seen.jsonl');
  const document = join(home, 'openapi.json');
  for (const file of [seen, document]) rmSync(file, { force: true });
  Object.assign(process.env, { ROUTE_COVERAGE: seen, ROUTE_DOCUMENT: document });
  const code = await npx('jest', '--selectProjects', 'server', '--ci', ...rest);
  if (code !== 0 || rest.length) return code;
  const { findGaps } = await import('../server/testing/coverageReport.mjs');
  const gaps = findGaps(JSON.parse(readFileSync(document, 'utf8')), seen);
  for (const gap of gaps) console.error(`✗ ${gap}`);
  console.log(`${gaps.length} routes or parts of a query are not used by any server test`);
  return gaps.length ? 1 : 0;
}

const playwright = (...args) =>
  withDatabase(() => npx('playwright', 'test', '--config', 'e2e/playwright.config.ts', ...args, ...rest));

/** First what looks at every page, two at a time, then whole jobs, one after the other; both, whatever the first finds. */
async function runEndToEnd() {
  if (rest.length) return playwright();
  const recap = join(home, 'e2e-recap.txt');
  rmSync(recap, { force: true });
  process.env.E2E_RECAP = recap;
  const pages = await playwright('--project=pages', '--workers=2');
  const jobs = await playwright('--project=jobs');
  // What failed an hour ago is said again where it is looked for.
  if (existsSync(recap))
    console.error(`\n✗ failed in the pages or the jobs:\n${readFileSync(recap, 'utf8')}`);
  return pages || jobs;
}

const runs = {
  check: checkInTwo,
  unit: () => npx('jest', '--selectProjects', 'unit', ...rest),
  server: () => withDatabase(runServerTests),
  benches: runBenchesSmall,
  e2e: runEndToEnd,
  screenshots: () =>
    withDatabase(() => npx('playwright', 'test', '--config', 'e2e/screenshots.config.ts', ...rest)),
};

await main(async () => {
  if (part !== 'all' && !(part in runs))
    throw new Trouble(`There is no part “${part}”; there are ${Object.keys(runs).join(', ')}.`);
  const parts = part === 'all' ? ['check', 'unit', 'server', 'benches', 'e2e'] : [part];
  checkPlace();
  const needs = [
    ...(parts.some((one) => ['server', 'benches', 'e2e', 'screenshots'].includes(one)) ? ['postgres'] : []),
    ...(parts.includes('server') ? ['dovecot', 'radicale', 'vobject'] : []),
    ...(parts.some((one) => ['benches', 'e2e', 'screenshots'].includes(one)) ? ['chromium'] : []),
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
