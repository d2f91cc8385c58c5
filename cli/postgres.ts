import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import pg from 'pg';

export class BackupTrouble extends Error {}

/** The client programs of the newest PostgreSQL here, so that a dump of any older server can be made. */
function programFolder(): string {
  const base = '/usr/lib/postgresql';
  const [newest] = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  return newest ? join(base, newest, 'bin') : '';
}

/** Runs a program of the system. @throws BackupTrouble with what it said last, where it fails */
export function runTool(
  name: string,
  args: readonly string[],
  env: Record<string, string> = {},
): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(name, args, { env: { ...process.env, ...env }, stdio: ['ignore', 'ignore', 'pipe'] });
    let said = '';
    child.stderr.on('data', (chunk: Buffer) => (said += String(chunk)));
    child.on('error', () => reject(new BackupTrouble(`${basename(name)} is not installed.`)));
    child.on('close', (code) =>
      code === 0
        ? resolve()
        : reject(
            new BackupTrouble(`${basename(name)} failed: ${said.trim().split('\n').slice(-3).join(' ')}`),
          ),
    );
  });
}

/** Runs one of PostgreSQL's programs; the password goes by the environment, where no list of processes shows it. */
export function runProgram(name: string, args: readonly string[], databaseUrl: string): Promise<void> {
  const url = new URL(databaseUrl);
  return runTool(join(programFolder(), name), args, {
    PGHOST: url.hostname,
    PGPORT: url.port || '5432',
    PGUSER: decodeURIComponent(url.username),
    PGPASSWORD: decodeURIComponent(url.password),
    PGDATABASE: url.pathname.slice(1),
  });
}

export async function withFolder<Result>(work: (folder: string) => Promise<Result>): Promise<Result> {
  const folder = await mkdtemp(join(tmpdir(), 'emporikon-backup-'));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

export const sha256 = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

export async function ask<Row extends object>(databaseUrl: string, sql: string): Promise<Row[]> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    return (await client.query<Row>(sql)).rows;
  } finally {
    await client.end();
  }
}

export const isEmpty = async (databaseUrl: string): Promise<boolean> =>
  (
    await ask<{ n: number }>(
      databaseUrl,
      "SELECT count(*)::int AS n FROM information_schema.tables WHERE table_schema IN ('public', 'graphile_worker')",
    )
  )[0]?.n === 0;

/** Policies are for roles of the cluster, which no backup of one database brings along. */
export const MEMBER_ROLES = `DO $$ BEGIN
  IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'emporikon_member') THEN CREATE ROLE emporikon_member NOLOGIN; END IF;
  IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'emporikon_limited') THEN CREATE ROLE emporikon_limited NOLOGIN; END IF;
EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$`;

/** Transactions are numbered anew in another cluster: what was noted by the numbers of the old one is forgotten. */
export const FORGET_TRANSACTIONS = `
DO $$ BEGIN
  IF EXISTS (SELECT 1 FROM information_schema.columns WHERE table_name = 'imports' AND column_name = 'seen') THEN
    ALTER TABLE events DISABLE TRIGGER events_append_only;
    UPDATE events SET tx = '0';
    ALTER TABLE events ENABLE TRIGGER events_append_only;
    UPDATE imports SET seen = NULL;
  END IF;
END $$`;
