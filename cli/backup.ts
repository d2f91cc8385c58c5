import { createCipheriv, createDecipheriv, randomBytes, scrypt } from 'node:crypto';
import { readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  ask,
  BackupTrouble,
  FORGET_TRANSACTIONS,
  isEmpty,
  MEMBER_ROLES,
  runProgram,
  sha256,
  withFolder,
} from './postgres';

/**
 * A backup file: a line of JSON that says what it is, then the body, sealed where a passphrase was given. The body is the
 * length of a JSON head (four bytes, big endian), the head with the seal secret, and the dump in pg_dump's custom format.
 */
interface Label {
  emporikon: 'backup';
  format: 1;
  madeAt: string;
  sealed: boolean;
  salt?: string;
  iv?: string;
  tag?: string;
  /** SHA-256 of the body as it stands in the file, so that a file that was cut off is known as one. */
  sha256: string;
}

interface Settings {
  databaseUrl: string;
  /** Seals the passwords of mailboxes; without it a restored database cannot read them. */
  sealSecret: string | null;
}

/** scrypt with N = 2^17, r = 8, p = 1: OWASP's floor for it (Password Storage Cheat Sheet; from memory). */
const keyFrom = (passphrase: string, salt: Buffer): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    scrypt(passphrase, salt, 32, { N: 2 ** 17, r: 8, p: 1, maxmem: 256 * 1024 * 1024 }, (error, key) =>
      error ? reject(error) : resolve(key),
    ),
  );

async function seal(
  body: Buffer,
  passphrase: string | null,
): Promise<{ label: Partial<Label>; body: Buffer }> {
  if (passphrase === null) return { label: { sealed: false }, body };
  const [salt, iv] = [randomBytes(16), randomBytes(12)];
  const cipher = createCipheriv('aes-256-gcm', await keyFrom(passphrase, salt), iv);
  const sealed = Buffer.concat([cipher.update(body), cipher.final()]);
  const encode = (part: Buffer): string => part.toString('base64');
  return {
    label: { sealed: true, salt: encode(salt), iv: encode(iv), tag: encode(cipher.getAuthTag()) },
    body: sealed,
  };
}

async function unseal(label: Label, body: Buffer, passphrase: string | null): Promise<Buffer> {
  if (!label.sealed) return body;
  if (passphrase === null)
    throw new BackupTrouble('This backup is encrypted. Give its passphrase in EMPORIKON_PASSPHRASE.');
  const part = (text = ''): Buffer => Buffer.from(text, 'base64');
  const decipher = createDecipheriv(
    'aes-256-gcm',
    await keyFrom(passphrase, part(label.salt)),
    part(label.iv),
  );
  decipher.setAuthTag(part(label.tag));
  try {
    return Buffer.concat([decipher.update(body), decipher.final()]);
  } catch {
    throw new BackupTrouble('The passphrase is wrong, or the file was changed. Nothing was restored.');
  }
}

/**
 * Writes a backup of a running database: one consistent moment of it, with the secret that seals its passwords.
 * @param passphrase encrypts the file; null writes it in the clear
 */
export async function backup(file: string, settings: Settings, passphrase: string | null): Promise<void> {
  const dump = await withFolder(async (folder) => {
    const path = join(folder, 'dump');
    await runProgram(
      'pg_dump',
      ['--format=custom', '--no-owner', '--no-privileges', `--file=${path}`],
      settings.databaseUrl,
    );
    return readFile(path);
  });
  const head = Buffer.from(JSON.stringify({ sealSecret: settings.sealSecret }));
  const length = Buffer.alloc(4);
  length.writeUInt32BE(head.length);
  const { label, body } = await seal(Buffer.concat([length, head, dump]), passphrase);
  const whole = {
    emporikon: 'backup',
    format: 1,
    madeAt: new Date().toISOString(),
    ...label,
    sha256: sha256(body),
  } satisfies Partial<Label>;
  // Written beside it first: a backup that was cut off never stands under the name of a whole one.
  await writeFile(`${file}.part`, Buffer.concat([Buffer.from(`${JSON.stringify(whole)}\n`), body]), {
    mode: 0o600,
  });
  await rename(`${file}.part`, file);
}

/** Opens a backup. @throws BackupTrouble for what is none, was cut off, or is sealed under another passphrase */
export async function openBackup(
  file: string,
  passphrase: string | null,
): Promise<{ label: Label; dump: Buffer; sealSecret: string | null }> {
  const bytes = await readFile(file);
  const end = bytes.indexOf(10);
  let label: Label;
  try {
    label = JSON.parse(bytes.subarray(0, end).toString('utf8')) as Label;
  } catch {
    throw new BackupTrouble(`${file} is not a backup of Emporikon.`);
  }
  if (label.emporikon !== 'backup' || label.format !== 1)
    throw new BackupTrouble(`${file} is not a backup this version can read.`);
  const sealed = bytes.subarray(end + 1);
  if (sha256(sealed) !== label.sha256)
    throw new BackupTrouble(`${file} is damaged or was cut off. Nothing was restored.`);
  const body = await unseal(label, sealed, passphrase);
  const length = body.readUInt32BE(0);
  const { sealSecret } = JSON.parse(body.subarray(4, 4 + length).toString('utf8')) as {
    sealSecret: string | null;
  };
  return { label, dump: body.subarray(4 + length), sealSecret };
}

async function load(dump: Buffer, databaseUrl: string): Promise<void> {
  await ask(databaseUrl, MEMBER_ROLES);
  await withFolder(async (folder) => {
    const path = join(folder, 'dump');
    await writeFile(path, dump, { mode: 0o600 });
    await runProgram(
      'pg_restore',
      [
        '--no-owner',
        '--no-privileges',
        '--exit-on-error',
        '--single-transaction',
        `--dbname=${new URL(databaseUrl).pathname.slice(1)}`,
        path,
      ],
      databaseUrl,
    );
  });
}

/** Runs work on a database that is made for it on the same server and dropped after. */
async function withScratch<Result>(
  databaseUrl: string,
  work: (url: string) => Promise<Result>,
): Promise<Result> {
  const name = `emporikon_check_${randomBytes(6).toString('hex')}`;
  await ask(databaseUrl, `CREATE DATABASE ${name}`);
  try {
    const url = new URL(databaseUrl);
    url.pathname = `/${name}`;
    return await work(url.href);
  } finally {
    await ask(databaseUrl, `DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  }
}

/** Restores a backup into a scratch database and looks whether it holds what it should. @returns how many people are in it */
export async function checkBackup(
  file: string,
  databaseUrl: string,
  passphrase: string | null,
): Promise<number> {
  const { dump } = await openBackup(file, passphrase);
  return withScratch(databaseUrl, async (url) => {
    await load(dump, url);
    const [row] = await ask<{ people: number; migrations: number }>(
      url,
      'SELECT (SELECT count(*)::int FROM people) AS people, (SELECT count(*)::int FROM migrations) AS migrations',
    );
    if (!row?.migrations)
      throw new BackupTrouble('The backup can be read but holds no records of Emporikon.');
    return row.people;
  });
}

/**
 * Restores a backup into an empty database. All of it or nothing.
 * @returns the secret that seals the passwords in it, to be set as EMPORIKON_SECRET
 */
export async function restore(
  file: string,
  databaseUrl: string,
  passphrase: string | null,
): Promise<string | null> {
  const { dump, sealSecret } = await openBackup(file, passphrase);
  if (!(await isEmpty(databaseUrl)))
    throw new BackupTrouble(
      'This database is not empty. Restore into a new one, so that nothing is overwritten.',
    );
  await load(dump, databaseUrl);
  await ask(databaseUrl, FORGET_TRANSACTIONS);
  return sealSecret;
}
