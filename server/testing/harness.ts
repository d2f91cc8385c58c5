import type { RouteName, Reply } from '@emporikon/contract';
import type { FastifyInstance, InjectOptions } from 'fastify';
import type { Sequelize } from 'sequelize';
import { systemTools, type Outside, type Tools } from '../commands/context';
import { connect } from '../db/connect';
import { migrate } from '../db/migrate';
import { Question, Stage } from '../db/models/deals';
import { PipelineRow } from '../db/models/pipelines';
import { User, type UserRole } from '../db/models/users';
import { LiveFeed } from '../events/live';
import { buildApp } from '../http/app';
import { migrateQueue, runWaitingJobs } from '../jobs/queue';
import type { RawMail } from '../outside/post';
import { installed, jobs, rooms } from '../rooms';
import { hashPassword } from '../session/secrets';
import { loadAllowedHosts } from '../settings/hosts';
import { readEdition } from '../places/towns';
import { noteAnswer } from './coverage';

export const PASSWORD = 'a-long-test-password';
export const OURS = ['wharfside.example'];

/** The address of another database of the run's cluster; what begins with the run's name goes with it. */
function urlOf(suffix: string): string {
  const base = process.env.TEST_DATABASE_URL;
  if (!base) throw new Error('TEST_DATABASE_URL is not set; run `npm run test:server`');
  return `${base}_${suffix}`;
}

/** The database of this test process: the files that run beside each other share none. */
export const databaseUrl = (): string => urlOf(`w${process.env.JEST_WORKER_ID ?? 1}`);

export interface Answer<T> {
  status: number;
  body: T;
  headers: Record<string, unknown>;
}

export interface Client {
  /** Any request, also one that the contract has no name for. */
  raw(method: string, url: string, body?: object): Promise<{ status: number; text: string; bytes: Buffer }>;
  call<Name extends RouteName>(
    name: Name,
    input?: {
      params?: Record<string, string>;
      query?: Record<string, string>;
      body?: unknown;
      raw?: string | Buffer;
      type?: string;
      headers?: Record<string, string>;
    },
  ): Promise<Answer<Reply<Name> & Record<string, unknown>>>;
}

export interface SentMail {
  id: string;
  to: string;
  subject: string;
  text: string;
  headers?: Readonly<Record<string, string>>;
}

export interface House {
  app: FastifyInstance;
  tools: Tools;
  sequelize: Sequelize;
  /** A client that carries a person's session. */
  as(email: string): Promise<Client>;
  anonymous: Client;
  count(table: string): Promise<number>;
  /** Does the background work that waits. @throws when a job fails that was not expected to */
  work(): Promise<void>;
  /** Says that jobs of this test fail, and with which words. */
  expectFailure(error: RegExp): void;
  /** What was mailed. */
  mails: SentMail[];
  /** Letters that were handed over. */
  letters: RawMail[];
  close(): Promise<void>;
}

/** Fills an empty database: the newest shape, the team and the stages. */
async function fillDatabase(sequelize: Sequelize): Promise<void> {
  await migrate(sequelize);
  const passwordHash = await hashPassword(PASSWORD);
  const team: [string, string, UserRole][] = [
    ['Pell Garrick', 'pell', 'rep'],
    ['Ines Tolland', 'ines', 'rep'],
    ['Mara Quill', 'mara', 'manager'],
  ];
  const createdAt = new Date();
  for (const [name, local, role] of team)
    await User.create({
      id: crypto.randomUUID(),
      name,
      email: `${local}@wharfside.example`,
      role,
      timeZone: 'Europe/London',
      passwordHash,
      active: true,
      createdAt,
    });
  const pipeline = await PipelineRow.findOne({ rejectOnEmpty: true });
  for (const [position, [name, kind, probability]] of (
    [
      ['Heard out', 'open', 15],
      ['Proposal', 'open', 55],
      ['Signed', 'won', 100],
    ] as const
  ).entries())
    await Stage.create({
      id: crypto.randomUUID(),
      pipelineId: pipeline.id,
      name,
      kind,
      probability,
      position,
      typicalDays: 10,
    });
  // Without its towns, which take seconds; the tests that place records load them.
  await sequelize.query('INSERT INTO gazetteer (version) VALUES (:version)', {
    replacements: { version: readEdition().version },
  });
  for (const [position, label] of ['Need', 'Budget'].entries())
    await Question.create({ id: crypto.randomUUID(), label, help: '', position, active: true });
}

const nameOf = (url: string): string => new URL(url).pathname.slice(1);

/** Makes the database that every test file copies, unless an earlier file of this run did. */
async function ensureTemplate(cluster: Sequelize): Promise<string> {
  const template = nameOf(urlOf('template'));
  const [found] = await cluster.query(`SELECT 1 FROM pg_database WHERE datname = '${template}'`);
  if (found.length) return template;
  const making = urlOf('making');
  await cluster.query(`CREATE DATABASE ${nameOf(making)}`);
  const sequelize = connect(making, 2);
  await fillDatabase(sequelize);
  await sequelize.close();
  await migrateQueue(making);
  await cluster.query(`ALTER DATABASE ${nameOf(making)} RENAME TO ${template}`);
  return template;
}

/** Drops the database of this test process and makes it anew, empty or as a copy. */
export async function renewDatabase(from: 'empty' | 'template'): Promise<void> {
  const cluster = connect(process.env.TEST_DATABASE_URL ?? '', 1);
  try {
    // One connection, so that this lock is held until it closes: the files beside this one wait for the template.
    await cluster.query("SELECT pg_advisory_lock(hashtext('template of the tests'))");
    const name = nameOf(databaseUrl());
    const template = from === 'empty' ? 'template0' : await ensureTemplate(cluster);
    await cluster.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
    await cluster.query(`CREATE DATABASE ${name} TEMPLATE ${template}`);
    await cluster.query(`ALTER DATABASE ${name} SET synchronous_commit = off`);
  } finally {
    await cluster.close();
  }
}

export async function openHouse(outside: Partial<Outside> = {}): Promise<House> {
  await renewDatabase('template');
  const sequelize = connect(databaseUrl(), 2);
  const mails: SentMail[] = [];
  const letters: RawMail[] = [];
  const expectedFailures: RegExp[] = [];
  const members = connect(databaseUrl(), 2, 'member');
  const tools = systemTools(
    members,
    { ours: OURS, currency: 'EUR', country: 'GB', publicUrl: 'http://127.0.0.1:4600', mapTiles: null },
    {
      door: { allowed: [], alsoAllowed: () => loadAllowedHosts(members) },
      exchange: null,
      post: {
        send: async (message) => void mails.push(message),
        async handOver(mail) {
          letters.push(mail);
          return [];
        },
      },
      lookUps: [],
      scanner: null,
      geocoder: null,
      openId: null,
      sealKey: 'a key for the tests',
      ...outside,
    },
    installed,
  );
  const live = new LiveFeed(databaseUrl());
  const app = await buildApp({ tools, rooms, live, webRoot: null });
  const client = (cookie: string): Client => ({
    async raw(method, url, body) {
      const response = await app.inject({
        method: method as 'GET',
        url,
        ...(body ? { payload: body } : {}),
        headers: cookie ? { cookie } : {},
      });
      return { status: response.statusCode, text: response.body, bytes: response.rawPayload };
    },
    async call(name, input = {}) {
      const [method = 'GET', path = '/'] = name.split(' ');
      const url = path.replace(/:(\w+)/g, (_, key: string) => input.params?.[key] ?? '');
      const payload = input.raw ?? (input.body === undefined ? undefined : JSON.stringify(input.body));
      const type =
        input.type ??
        (input.raw === undefined
          ? input.body === undefined
            ? undefined
            : 'application/json'
          : 'message/rfc822');
      const response = await app.inject({
        method: method as InjectOptions['method'],
        url,
        query: input.query,
        payload,
        headers: {
          ...(type ? { 'content-type': type } : {}),
          ...(cookie ? { cookie } : {}),
          ...input.headers,
        },
      } as InjectOptions);
      noteAnswer(name, response.statusCode, input.query ?? {});
      return { status: response.statusCode, body: response.json(), headers: response.headers };
    },
  });
  return {
    app,
    tools,
    sequelize,
    anonymous: client(''),
    async as(email) {
      const response = await app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { email, password: PASSWORD },
      });
      return client(String(response.headers['set-cookie']).split(';')[0] ?? '');
    },
    async count(table) {
      const [rows] = await sequelize.query(`SELECT count(*)::int AS n FROM ${table}`);
      return (rows[0] as { n: number }).n;
    },
    mails,
    letters,
    async work() {
      await runWaitingJobs(databaseUrl(), tools, jobs);
      const [failed] = await sequelize.query(
        'SELECT task_identifier AS job, last_error AS error FROM graphile_worker.jobs WHERE last_error IS NOT NULL',
      );
      for (const one of failed as { job: string; error: string }[])
        if (!expectedFailures.some((pattern) => pattern.test(one.error)))
          throw new Error(`${one.job} failed: ${one.error}`);
    },
    expectFailure: (pattern) => void expectedFailures.push(pattern),
    async close() {
      await app.close();
      await members.close();
      await sequelize.close();
    },
  };
}

/**
 * A house of a test file with a client for each of the team, open from before its first test to after its last. What it
 * returns is filled before the first test, and not to be used earlier.
 */
export function useHouse(outside: Partial<Outside> = {}): {
  house: House;
  pell: Client;
  ines: Client;
  mara: Client;
} {
  const house = {} as House;
  const team = { pell: {} as Client, ines: {} as Client, mara: {} as Client };
  beforeAll(async () => {
    Object.assign(house, await openHouse(outside));
    for (const [name, client] of Object.entries(team))
      Object.assign(client, await house.as(`${name}@wharfside.example`));
  });
  afterAll(() => house.close());
  return { house, ...team };
}

let serial = 0;

/** A message by made-up people; every call gives other bytes. */
export function mail(
  over: Partial<{ from: string; subject: string; body: string; sign: string }> = {},
): string {
  const {
    from = 'Ines Duarte <ines@padariasol.example>',
    subject = 'Eight bikes',
    body = 'Could you send the quote before Thursday? We would like eight long bikes for about 40,000 euros.',
    sign = 'Ines Duarte\nBuyer\nPadaria Sol\nM +351 910 555 014',
  } = over;
  return `From: ${from}\nTo: pell@wharfside.example\nSubject: ${subject}\nDate: Mon, 23 Nov 2026 16:40:00 +0000\nMessage-ID: <${++serial}@test.example>\n\nHello Pell,\n\n${body}\n\nBest wishes,\n\n${sign}\n`.replace(
    /\n/g,
    '\r\n',
  );
}
