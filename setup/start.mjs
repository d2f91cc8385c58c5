// `npm start`: from a fresh checkout to a running program, with nothing but Node and npm.
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import { join } from 'node:path';
import { checkPlace, ensureDebian, ensurePackages, home, root } from './prepare.mjs';
import { main, run, step, Trouble } from './say.mjs';

const HOST = '127.0.0.1';
const port = Number(process.env.PORT ?? 4600);
const mailPort = Number(process.env.MAIL_PORT ?? port + 2);
const dropPort = Number(process.env.POST_PORT ?? port + 25);
const rollcallPort = Number(process.env.ROLLCALL_PORT ?? port + 30);
const exchangePort = Number(process.env.EXCHANGE_PORT ?? port + 31);
const shopPort = Number(process.env.SHOP_PORT ?? port + 32);
const outboxPort = Number(process.env.OUTBOX_PORT ?? port + 33);
const lookUpsPort = Number(process.env.LOOKUPS_PORT ?? port + 34);
const calendarPort = Number(process.env.CALENDAR_PORT ?? port + 35);
const lock = join(home, 'start.lock');
const OURS = process.env.EMPORIKON_OURS ?? 'wharfside.example';

const isTaken = (one) =>
  new Promise((resolve) => {
    const socket = createConnection({ host: HOST, port: one });
    socket.once('connect', () => resolve(socket.destroy() && true));
    socket.once('error', () => resolve(false));
  });

const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return /start\.mjs/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'));
  } catch {
    return false;
  }
};

const children = [];

/** The lock holds the process of the start and, after it, those it launched, so that a killed start leaves none behind. */
async function takeLock() {
  if (existsSync(lock)) {
    const [pid = 0, ...launched] = readFileSync(lock, 'utf8').trim().split(/\s+/).map(Number);
    if (isAlive(pid))
      throw new Trouble(
        `Emporikon runs already from this folder (process ${pid}). End that one first, with Ctrl-C where it was started.`,
      );
    console.log('  a lock of a start that is gone was found and removed');
    const left = launched.filter(isOurs);
    for (const one of left) process.kill(one, 'SIGTERM');
    if (left.length) console.log(`  ${left.length} of its processes were still there and were ended`);
    for (let tries = 0; left.some(isOurs) && tries < 50; tries++)
      await new Promise((done) => setTimeout(done, 100));
  }
  writeLock();
}

const writeLock = () => writeFileSync(lock, [process.pid, ...children.map((child) => child.pid)].join('\n'));

/** Whether a process is one that a start from this folder launched. */
function isOurs(pid) {
  try {
    const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    return ['server', 'standins'].some((part) => words.includes(join(root, part, 'dist')));
  } catch {
    return false;
  }
}

async function checkPorts() {
  for (const [one, what, variable] of [
    [port, 'the program', 'PORT'],
    [mailPort, 'incoming mail', 'MAIL_PORT'],
    [dropPort, 'the post office', 'POST_PORT'],
    [rollcallPort, 'Rollcall', 'ROLLCALL_PORT'],
    [exchangePort, 'the exchange', 'EXCHANGE_PORT'],
    [shopPort, 'the shop window', 'SHOP_PORT'],
    [outboxPort, 'what went out', 'OUTBOX_PORT'],
    [lookUpsPort, 'the look-up sources', 'LOOKUPS_PORT'],
    [calendarPort, 'the daybook', 'CALENDAR_PORT'],
  ])
    if (await isTaken(one))
      throw new Trouble(
        `Port ${one}, meant for ${what}, is taken by another program. End that one, or choose another port: ${variable}=${one + 100} npm start`,
      );
}

/**
 * glibc keeps what was freed, in an arena a thread and in ever larger pieces, unless it is told not to: a process that read
 * a large file once would stay large (mallopt(3)).
 */
const GIVES_BACK = {
  MALLOC_ARENA_MAX: '2',
  MALLOC_MMAP_THRESHOLD_: '65536',
  MALLOC_TRIM_THRESHOLD_: '65536',
};

const [SOONEST_MS, LATEST_MS] = [500, 30_000];
/** A process that stood for so long has recovered from what felled it before. */
const RECOVERED_MS = 60_000;
const SAID_AFTER_FALLS = 5;

/**
 * Starts one of our processes, waits for the line that says it is ready, and starts it again whenever it falls: at once,
 * then ever later. One that falls before it was ever ready ends the start, because waiting would not mend it.
 */
function launch(name, file, env, ready) {
  let falls = 0;
  let wasReady = false;
  const begin = () =>
    new Promise((resolve, reject) => {
      const startedAt = Date.now();
      const child = spawn(process.execPath, ['--enable-source-maps', join(root, file)], {
        cwd: root,
        env: { ...GIVES_BACK, ...process.env, ...env },
        stdio: ['ignore', 'pipe', 'inherit'],
        detached: true,
      });
      children.push(child);
      writeLock();
      child.stdout.on('data', (chunk) => {
        if (!ready.test(String(chunk))) return;
        if (falls) console.log(`  ${name.toLowerCase()} runs again`);
        wasReady = true;
        resolve(child);
      });
      child.once('exit', (code, signal) => {
        children.splice(children.indexOf(child), 1);
        if (stopping) return;
        writeLock();
        if (!wasReady) {
          reject(new Trouble(`${name} ended before it was ready (${code ?? signal}); its words are above.`));
          void stop(1, `${name} ended by itself (${code ?? signal})`);
          return;
        }
        falls = Date.now() - startedAt > RECOVERED_MS ? 1 : falls + 1;
        const wait = Math.min(LATEST_MS, SOONEST_MS * 2 ** (falls - 1));
        console.log(
          `  ${name.toLowerCase()} ended (${code ?? signal}); it is started again in ${wait / 1000} s`,
        );
        if (falls === SAID_AFTER_FALLS)
          console.log(
            `  ${name.toLowerCase()} has ended ${falls} times in a row. What it says is above and in .emporikon/log; end all with Ctrl-C, mend it and start again.`,
          );
        setTimeout(() => (stopping ? undefined : begin().catch(() => undefined)), wait);
      });
    });
  return begin();
}

/** A secret of this folder, made once: it seals passwords and signs what the exchange tells. */
function secret(name) {
  const file = join(home, name);
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

/** Where the services outside are: the stand-ins, unless real ones are named. */
const outside = () => ({
  PUBLIC_URL: process.env.PUBLIC_URL ?? `http://${HOST}:${port}`,
  FETCH_ALLOWED:
    process.env.FETCH_ALLOWED ?? [rollcallPort, shopPort, calendarPort].map((one) => `${HOST}:${one}`).join(),
  EXCHANGE_URL: process.env.EXCHANGE_URL ?? `http://${HOST}:${exchangePort}`,
  EXCHANGE_SECRET: process.env.EXCHANGE_SECRET ?? `whsec_${secret('exchange.secret')}`,
  EMPORIKON_SECRET: process.env.EMPORIKON_SECRET ?? secret('seal.secret'),
  POST_SERVER: process.env.POST_SERVER ?? `${HOST}:${dropPort}`,
  ROLLCALL_PORT: String(rollcallPort),
  EXCHANGE_PORT: String(exchangePort),
  SHOP_PORT: String(shopPort),
  OUTBOX_PORT: String(outboxPort),
  LOOKUPS_PORT: String(lookUpsPort),
  CALENDAR_PORT: String(calendarPort),
  CALENDAR_FOLDER: process.env.CALENDAR_FOLDER ?? join(home, 'daybook'),
  CALENDAR_URL: process.env.CALENDAR_URL ?? `http://${HOST}:${calendarPort}/pell/`,
  ...lookUpSources(),
});

/** The three stand-in sources, each unless a real one is named. */
function lookUpSources() {
  const own = (name) => ({
    [`${name.toUpperCase()}_URL`]:
      process.env[`${name.toUpperCase()}_URL`] ?? `http://${HOST}:${lookUpsPort}/${name}`,
    [`${name.toUpperCase()}_KEY`]: process.env[`${name.toUpperCase()}_KEY`] ?? `${name}-demo-key`,
  });
  return { ...own('register'), ...own('finder'), ...own('directory') };
}

let stopping = false;
let cluster = null;

async function stop(code, why) {
  if (stopping) return;
  stopping = true;
  console.log(`\n${why}`);
  await Promise.all(
    children.map(
      (child) =>
        new Promise((done) => {
          if (child.exitCode !== null || child.signalCode) return done();
          child.once('exit', done);
          child.kill('SIGTERM');
          setTimeout(() => child.kill('SIGKILL'), 5000).unref();
        }),
    ),
  );
  await cluster?.stop().catch((error) => console.error(error.message));
  rmSync(lock, { force: true });
  console.log('stopped');
  process.exit(code);
}

await main(async () => {
  checkPlace();
  await takeLock();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0, 'stopping …'));
  try {
    await checkPorts();
    if (!process.env.DATABASE_URL) await ensureDebian('postgres');
    await ensurePackages();
    const { buildIfNeeded, needsBuild } = await import('./build.mjs');
    if (needsBuild()) await step('building', buildIfNeeded);
    const { startCluster, ensureDatabase, dropDatabase } = await import('./cluster.mjs');
    let databaseUrl = process.env.DATABASE_URL;
    let isNew = false;
    if (!databaseUrl) {
      cluster = await startCluster();
      isNew = await ensureDatabase(cluster, 'emporikon');
      databaseUrl = cluster.url('emporikon');
    }
    const env = {
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      MAIL_PORT: String(mailPort),
      POST_PORT: String(dropPort),
      EMPORIKON_OURS: OURS,
      WEB_ROOT: join(root, 'web', 'dist'),
      LOG_FOLDER: process.env.LOG_FOLDER ?? join(home, 'log'),
      ...outside(),
    };
    await step('loading the demo', () =>
      run(process.execPath, [join(root, 'demo/dist/main.js')], { env: { ...process.env, ...env } }),
    ).catch(async (error) => {
      // Half of it would look like records of somebody's own at the next start.
      if (isNew) await dropDatabase(cluster, 'emporikon').catch(() => undefined);
      throw error;
    });
    await step('starting the server', () => launch('The server', 'server/dist/main.js', env, /listening/));
    await launch('The worker', 'server/dist/worker.js', env, /worker ready/);
    await launch('The stand-ins', 'standins/dist/main.js', env, /post office/);
    cluster?.keepRunning((text) => console.log(`  ${text}`));
  } catch (error) {
    if (!stopping) await cluster?.stop().catch(() => undefined);
    rmSync(lock, { force: true });
    for (const child of children) child.kill('SIGTERM');
    throw error;
  }
  console.log(`
  Emporikon     http://${HOST}:${port}
  sign in as    pell@wharfside.example   password  long-bikes-carry
  post office   smtp://${HOST}:${dropPort}   drop address  arrivals@wharfside.example
  Rollcall      http://${HOST}:${rollcallPort}
  the exchange  http://${HOST}:${exchangePort}
  shop window   http://${HOST}:${shopPort}
  what went out http://${HOST}:${outboxPort}
  look-ups      http://${HOST}:${lookUpsPort}
  the daybook   http://${HOST}:${calendarPort}

  Ctrl-C stops everything.`);
  await new Promise(() => undefined);
});
