// Brings a fresh machine to the point where the program can be built and run: Debian packages and npm packages.
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statfsSync,
  writeFileSync,
  accessSync,
  constants,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { run, step, Trouble } from './say.mjs';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');
export const home = join(root, '.emporikon');
const ENOUGH_BYTES = 400 * 1024 * 1024;

/** Checks Node, the disk and the right to write, each with its own words. */
export function checkPlace() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Trouble(`Node ${process.versions.node} is too old: 20.19 or newer is needed.`);
  try {
    mkdirSync(home, { recursive: true });
    accessSync(home, constants.W_OK | constants.X_OK);
    writeFileSync(join(home, 'can-write'), '');
  } catch (error) {
    if (error.code === 'ENOSPC')
      throw new Trouble(
        `The disk is full: nothing can be written to ${home}. Free some space and start again.`,
      );
    throw new Trouble(`No permission to write to ${home}. Give this user the folder, or start as its owner.`);
  }
  const { bavail, bsize } = statfsSync(home);
  if (bavail * bsize < ENOUGH_BYTES)
    throw new Trouble(
      `The disk is nearly full: ${Math.round((bavail * bsize) / 1048576)} MB are free in ${root}, ${ENOUGH_BYTES / 1048576} MB are needed. Nothing was changed.`,
    );
}

/**
 * The server programs of a PostgreSQL, 15 or newer; null when there are none.
 * @param version the one whose data they must read; left out, the newest that is installed
 */
export function findPostgres(version) {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base)
    ? readdirSync(base)
        .filter((one) => (version ? one === version : Number(one) >= 15))
        .sort((a, b) => Number(b) - Number(a))
    : [];
  const found = versions
    .map((one) => join(base, one, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'pg_ctl')));
  return found ?? null;
}

const chromium = () =>
  ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path)) ?? null;

const WANTED = {
  // The one of this Debian release: 15 on bookworm, a newer one after it.
  postgres: { packages: ['postgresql'], why: 'PostgreSQL keeps the records', here: () => findPostgres() },
  vobject: {
    packages: ['python3-vobject'],
    why: 'python3-vobject is the other reader of cards in the tests',
    here: () => (existsSync('/usr/lib/python3/dist-packages/vobject') ? '/usr/bin/python3' : null),
  },
  dovecot: {
    packages: ['dovecot-imapd'],
    why: 'Dovecot is the other end of IMAP in the tests',
    here: () => (existsSync('/usr/sbin/dovecot') ? '/usr/sbin/dovecot' : null),
  },
  radicale: {
    packages: ['radicale'],
    why: 'Radicale is the calendar server in the tests',
    here: () => (existsSync('/usr/bin/radicale') ? '/usr/bin/radicale' : null),
  },
  chromium: { packages: ['chromium'], why: 'Chromium runs the end-to-end tests', here: chromium },
};

/** Installs what is missing from Debian, saying what and why; without the right to, says the one line to run. */
export async function ensureDebian(...names) {
  const missing = names.filter((name) => WANTED[name].here() === null);
  if (!missing.length) return;
  const packages = missing.flatMap((name) => WANTED[name].packages);
  const line = `apt-get update && apt-get install -y --no-install-recommends ${packages.join(' ')}`;
  for (const name of missing)
    console.log(`  ${WANTED[name].why}; installing ${WANTED[name].packages.join(' ')}`);
  if (!existsSync('/usr/bin/apt-get'))
    throw new Trouble(
      `Missing: ${packages.join(', ')}. This is not a Debian machine; install them in its own way and start again.`,
    );
  if (process.getuid?.() !== 0)
    throw new Trouble(
      `Missing: ${packages.join(', ')}. Only root may install them. Run this line, then start again:\n\n  sudo sh -c "${line}"\n`,
    );
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await step('reading the list of Debian packages', () => run('apt-get', ['update', '-qq'], { env }));
  await step(`installing ${packages.join(', ')}`, () =>
    run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { env }),
  );
  const still = missing.filter((name) => WANTED[name].here() === null);
  if (still.length)
    throw new Trouble(
      `Installed ${packages.join(', ')}, but ${still.join(', ')} is still not there. Run: ${line}`,
    );
}

/** `npm ci` when the lock file is not the one that was installed. */
export async function ensurePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.emporikon-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  await step('installing the npm packages of package-lock.json', () =>
    run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root }).catch((error) => {
      throw new Trouble(`${error.message}\nIs the npm registry reachable, and is there space on the disk?`);
    }),
  );
  writeFileSync(stamp, lock);
}
