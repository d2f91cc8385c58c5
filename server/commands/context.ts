import { randomUUID } from 'node:crypto';
import { DateTime } from 'luxon';
import type { Sequelize, Transaction } from 'sequelize';
import type { UserRole } from '../db/models/users';
import type { Exchange } from '../outside/exchange';
import type { Post } from '../outside/post';
import type { Door } from '../outside/door';
import type { LookUpSource } from '../outside/lookups/source';
import { holdingConnection } from '../db/connect';
import { Readers } from '../reading/readers';
import { isCrossed } from '../db/crossed';
import { Writer } from './writer';

/** Who acts. Captures that come by post have no actor. */
export interface Actor {
  id: string;
  name: string;
  email: string;
  role: UserRole;
  timeZone: string;
}

/** The settings every command may need. */
export interface House {
  /** Our own domains and addresses, lower case. */
  ours: readonly string[];
  currency: string;
  /** ISO 3166-1 alpha-2: whose numbers are written without a country code. */
  country: string;
  /** Where people outside reach us, for links in mail and snippets; no slash at its end. */
  publicUrl: string;
}

export interface Tools {
  sequelize: Sequelize;
  house: House;
  outside: Outside;
  /** Reads files that somebody else made, beside the process's own work. */
  readers: Readers;
  now: () => Date;
  newId: () => string;
}

/** The services outside, each behind its own interface; null where none is set up. */
export interface Outside {
  /** Which servers a person may make us reach. */
  door: Door;
  exchange: Exchange | null;
  post: Post | null;
  /** Who can be asked for missing facts; none where none is set up. */
  lookUps: readonly LookUpSource[];
  /** Seals the passwords of mailboxes; null when no key was given, and then none can be kept. */
  sealKey: string | null;
}

/** What a command is given: the one transaction it works in, who acts, the clock, where ids come from. */
export interface Context extends Tools {
  actor: Actor | null;
  tx: Transaction;
  write: Writer;
}

export const systemTools = (sequelize: Sequelize, house: House, outside: Outside): Tools => ({
  sequelize,
  house,
  outside,
  readers: new Readers(),
  now: () => new Date(),
  newId: randomUUID,
});

const TRIES = 4;
const PAUSE_MS = 40;

/**
 * Runs one command in one transaction; what it wrote and its event are committed together or not at all. Where two
 * commands waited for each other and the database ended this one, nothing of it was kept, and it is run again.
 */
export async function perform<Result>(
  tools: Tools,
  actor: Actor | null,
  command: (context: Context) => Promise<Result>,
  roles: readonly UserRole[] | null = null,
): Promise<Result> {
  for (let left = TRIES; ;) {
    try {
      return await tools.sequelize.transaction((tx) =>
        holdingConnection(() => command({ ...tools, actor, tx, write: new Writer(tools, tx, roles) })),
      );
    } catch (error) {
      if (--left === 0 || !isCrossed(error)) throw error;
      // Unevenly, so that the two do not meet again.
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS * (0.5 + Math.random()) * (TRIES - left)));
    }
  }
}

/** The actor of a command that only a signed-in person can give. */
export function requireActor(context: Pick<Context, 'actor'>): Actor {
  if (!context.actor) throw new Error('this command needs an actor');
  return context.actor;
}

/** The present on the actor's clock, ISO 8601 with their offset. */
export const localNow = (context: Pick<Context, 'now' | 'actor'>): string =>
  DateTime.fromJSDate(context.now(), { zone: context.actor?.timeZone ?? 'utc' }).toISO({
    suppressMilliseconds: true,
  }) ?? context.now().toISOString();
