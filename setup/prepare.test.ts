import fs from 'node:fs';
import { checkPlace, ensureDebian, ensurePackages, findPostgres, home, root } from './prepare.mjs';

const ran: string[][] = [];
jest.mock('./say.mjs', () => ({
  ...jest.requireActual<object>('./say.mjs'),
  step: (_title: string, work: () => Promise<unknown>) => work(),
  run: (command: string, args: string[]) => {
    ran.push([command, ...args]);
    return Promise.resolve('');
  },
}));

const GB = 2 ** 30;
const real = { ...fs };
let files: Record<string, string | string[]>;
beforeEach(() => {
  ran.length = 0;
  files = {};
  jest.spyOn(console, 'log').mockImplementation(() => undefined);
  jest.spyOn(fs, 'existsSync').mockImplementation((path) => String(path) in files);
  jest.spyOn(fs, 'readdirSync').mockImplementation(((path: string) => files[path] ?? []) as never);
});
afterEach(() => jest.restoreAllMocks());
const has = (version: string, ...programs: string[]): void => {
  const base = '/usr/lib/postgresql';
  files[base] = [...((files[base] as string[] | undefined) ?? []), version];
  for (const program of programs) files[`${base}/${version}/bin/${program}`] = '';
};

describe('the PostgreSQL that is used', () => {
  it('is the newest that is whole, and none older than 15', () => {
    has('13', 'initdb', 'pg_ctl');
    expect(findPostgres()).toBeNull();
    has('15', 'initdb', 'pg_ctl');
    has('17', 'initdb');
    expect(findPostgres()).toBe('/usr/lib/postgresql/15/bin');
    has('16', 'initdb', 'pg_ctl');
    expect(findPostgres()).toBe('/usr/lib/postgresql/16/bin');
  });

  it('is the one whose data there are, even beside a newer one', () => {
    has('15', 'initdb', 'pg_ctl');
    has('16', 'initdb', 'pg_ctl');
    expect(findPostgres('15')).toBe('/usr/lib/postgresql/15/bin');
    expect(findPostgres('14')).toBeNull();
  });
});

describe('what Debian has to bring', () => {
  const asRoot = (id: number) => jest.spyOn(process, 'getuid').mockReturnValue(id);

  it('is not touched where it is there', async () => {
    has('15', 'initdb', 'pg_ctl');
    files['/usr/bin/chromium'] = '';
    await ensureDebian('postgres', 'chromium');
    expect(ran).toEqual([]);
  });

  it('is installed by root, and looked for after it', async () => {
    asRoot(0);
    files['/usr/bin/apt-get'] = '';
    await expect(ensureDebian('chromium')).rejects.toThrow(/chromium is still not there/);
    expect(ran.map((call) => call.slice(0, 2))).toEqual([
      ['apt-get', 'update'],
      ['apt-get', 'install'],
    ]);
    expect(ran[1]).toEqual(expect.arrayContaining(['--no-install-recommends', 'chromium']));
  });

  it('is asked for in one line of anybody else', async () => {
    asRoot(1000);
    files['/usr/bin/apt-get'] = '';
    await expect(ensureDebian('postgres', 'dovecot')).rejects.toThrow(
      /sudo sh -c "apt-get update && apt-get install -y --no-install-recommends postgresql dovecot-imapd"/,
    );
    expect(ran).toEqual([]);
  });

  it('on another system is named and left to its owner', async () => {
    await expect(ensureDebian('chromium')).rejects.toThrow(/Missing: chromium. This is not a Debian machine/);
  });
});

describe('the packages of npm', () => {
  const stamp = `${root}/node_modules/.emporikon-lock`;
  let lock = 'lock 1';
  const written: string[] = [];
  beforeEach(() => {
    written.length = 0;
    jest
      .spyOn(fs, 'readFileSync')
      .mockImplementation(((path: string) =>
        path.endsWith('package-lock.json') ? lock : (files[path] ?? '')) as never);
    jest.spyOn(fs, 'writeFileSync').mockImplementation((path, text) => {
      written.push(String(path));
      files[String(path)] = String(text);
    });
  });

  it('are installed once for each lock file', async () => {
    await ensurePackages();
    await ensurePackages();
    expect([ran.length, written]).toEqual([1, [stamp]]);
    lock = 'lock 2';
    await ensurePackages();
    expect(ran.map((call) => call.slice(0, 2))).toEqual([
      ['npm', 'ci'],
      ['npm', 'ci'],
    ]);
  });
});

describe('the place', () => {
  const here = process.versions;
  const version = (node: string) =>
    Object.defineProperty(process, 'versions', { value: { ...here, node }, configurable: true });
  afterEach(() => Object.defineProperty(process, 'versions', { value: here, configurable: true }));
  const free = (bytes: number) =>
    jest.spyOn(fs, 'statfsSync').mockReturnValue({ bavail: bytes / 4096, bsize: 4096 } as never);
  beforeEach(() => {
    jest.spyOn(fs, 'mkdirSync').mockReturnValue(undefined);
    jest.spyOn(fs, 'accessSync').mockReturnValue(undefined);
    jest.spyOn(fs, 'writeFileSync').mockReturnValue(undefined);
    free(9 * GB);
  });

  it.each(['18.20.0', '20.18.3', '14.0.0'])('is refused with Node %s', (node) => {
    version(node);
    expect(() => checkPlace()).toThrow(/is too old: 20\.19 or newer is needed/);
  });

  it.each(['20.19.0', '20.20.1', '22.1.0', '24.0.0'])('is taken with Node %s', (node) => {
    version(node);
    expect(() => checkPlace()).not.toThrow();
  });

  it('says what is wrong with the disk before anything is begun', () => {
    free(0.1 * GB);
    expect(() => checkPlace()).toThrow(
      /nearly full: 102 MB are free.*400 MB are needed\. Nothing was changed/s,
    );
    jest.spyOn(fs, 'writeFileSync').mockImplementation(() => {
      throw Object.assign(new Error(''), { code: 'ENOSPC' });
    });
    expect(() => checkPlace()).toThrow(/The disk is full/);
  });

  it('says whose folder it has to be', () => {
    jest.spyOn(fs, 'accessSync').mockImplementation(() => {
      throw Object.assign(new Error(''), { code: 'EACCES' });
    });
    expect(() => checkPlace()).toThrow(`No permission to write to ${home}`);
    expect(real.existsSync(root)).toBe(true);
  });
});
