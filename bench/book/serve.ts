import pg from 'pg';
import { runInTransaction, systemTools, type Tools } from '@emporikon/server/commands/context';
import { connect, SHORT_QUESTIONS } from '@emporikon/server/db/connect';
import { migrate } from '@emporikon/server/db/migrate';
import { LiveFeed } from '@emporikon/server/events/live';
import { buildApp } from '@emporikon/server/http/app';

import { installed, rooms } from '@emporikon/server/rooms';
import { migrateQueue } from '@emporikon/server/jobs/queue';
import { spellNewWords } from '@emporikon/server/search/spellings';
import { fillBook, MILLION, PASSWORD, repMail } from './fill';

export interface Served {
  tools: Tools;
  base: string;
  /** A connection of PostgreSQL's own client, for the floor. */
  bare: pg.Client;
  /** Signs a rep in. @returns the cookie */
  signIn: (rep: number) => Promise<string>;
  close: () => Promise<void>;
}

/** Signs a rep in at a process of the program. @returns the cookie */
export async function signInAt(base: string, rep: number): Promise<string> {
  const signed = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: repMail(rep), password: PASSWORD }),
  });
  return String(signed.headers.get('set-cookie')).split(';')[0] ?? '';
}

/** The program on the kept book of a million people, filled first where it is empty, listening on loopback. */
export async function serveBook(poolSize: number): Promise<Served> {
  const url = process.env.TEST_DATABASE_URL ?? '';
  const owner = connect(url, 3);
  const bare = new pg.Client({ connectionString: url, options: SHORT_QUESTIONS });
  await bare.connect();
  const filled = await bare.query('SELECT 1 FROM people LIMIT 1').catch(() => null);
  if (!filled?.rowCount) await fillBook(owner, MILLION, (text) => process.stdout.write(`${text}\n`));
  await migrate(owner);
  await owner.close();
  await migrateQueue(url);
  const sequelize = connect(url, poolSize, 'member');
  const tools = systemTools(
    sequelize,
    {
      ours: ['wharfside.example'],
      currency: 'EUR',
      country: 'GB',
      publicUrl: 'http://127.0.0.1:4600',
      mapTiles: null,
    },
    {
      door: { allowed: [] },
      exchange: null,
      post: null,
      lookUps: [],
      scanner: null,
      geocoder: null,
      openId: null,
      sealKey: null,
    },
    installed,
  );
  while (await runInTransaction(tools, null, (context) => spellNewWords(context.sequelize, context.tx)));
  const app = await buildApp({ tools, rooms, live: new LiveFeed(url), webRoot: null });
  await app.listen({ port: 0, host: '127.0.0.1' });
  const at = app.server.address();
  const base = `http://127.0.0.1:${at && typeof at === 'object' ? at.port : 0}`;
  return {
    tools,
    base,
    bare,
    signIn: (rep) => signInAt(base, rep),
    close: async () => {
      await bare.end();
      await app.close();
      await sequelize.close();
    },
  };
}

export const quantile = (times: readonly number[], share: number): number => {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
};
