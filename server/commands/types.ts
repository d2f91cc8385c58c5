import type { Right } from '@emporikon/core/rights/rights';
import type { Attributes, CreationAttributes, Model, ModelStatic, Sequelize, Transaction } from 'sequelize';
import type { Change } from '../db/models/ledger';
import type { OutboxRow } from '../db/models/outbox';
import type { UserRole } from '../db/models/users';
import type { TableRule } from '../db/tables';
import type { Geocoder } from '../outside/geocoder';
import type { OpenId } from '../outside/openId';
import type { Door } from '../outside/door';
import type { Exchange } from '../outside/exchange';
import type { LookUpSource } from '../outside/lookups/source';
import type { Post } from '../outside/post';
import type { Scanner } from '../outside/scanner';
import type { Readers } from '../reading/readers';

/** Who acts. Captures that come by post have no actor. */
export interface Actor {
  id: string;
  name: string;
  email: string;
  role: UserRole;
  timeZone: string;
  /** What a role of the organisation's own lets them do; left out where theirs is one that is always there. */
  granted?: readonly Right[];
  /** Has to set up signing in with a code before anything else. */
  mustAddCode?: true;
  /** What an access token is held to, where somebody comes by one that may not do everything. */
  rights?: 'read' | 'capture';
}

/** The settings every command may need. */
export interface House {
  /** Our own domains and addresses, lower case. */
  ours: readonly string[];
  currency: string;
  /** ISO 3166-1 alpha-2: whose numbers are written without a country code. */
  country: string;
  /** Pictures of the map from a server of theirs, `https://…/{z}/{x}/{y}.png`, and whose they are; null shows countries and towns alone. */
  mapTiles: { url: string; words: string } | null;
  /** Where people outside reach us, for links in mail and snippets; no slash at its end. */
  publicUrl: string;
}

export interface Tools {
  sequelize: Sequelize;
  house: House;
  outside: Outside;
  /** Reads files that somebody else made, beside the process's own work. */
  readers: Readers;
  /** What follows the events of commands. */
  followers: Followers;
  /** What can be done outside the house. */
  effects: readonly AnyEffect[];
  /** Every table with what it points to. */
  tables: readonly TableRule[];
  /** Why these commands are given, where nobody asked for them. */
  cause: Cause | null;
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
  /** Looks for harmful programs in files. */
  scanner: Scanner | null;
  /** Lets people in whom it knows, besides those with a password. */
  openId: OpenId | null;
  /** Reads TXT records of the name servers; the system's resolver where left out. Null where it did not answer. */
  texts?: (host: string) => Promise<readonly string[] | null>;
  /** Says where street addresses are. */
  geocoder: Geocoder | null;
  /** Seals the passwords of mailboxes; null when no key was given, and then none can be kept. */
  sealKey: string | null;
}

/** What a command is given: the one transaction it works in, who acts, the clock, where ids come from. */
export interface Context extends Tools {
  actor: Actor | null;
  tx: Transaction;
  write: Write;
}

/** The one door for writes (`commands/writer.ts`). */
export interface Write {
  insert<M extends Model>(model: ModelStatic<M>, values: CreationAttributes<M>): Promise<M>;
  update<M extends Model>(instance: M, patch: Partial<Attributes<M>>, expected?: number): Promise<M>;
  remove(instance: Model): Promise<void>;
  /** Runs what comes of a command of itself, which asks for no right of its own. */
  asConsequence<Result>(run: () => Promise<Result>): Promise<Result>;
  note(change: Change): void;
  /** A sentence of whoever acts on why, for the ledger. */
  because(words: string | undefined): void;
  event(
    command: string,
    label: string,
    actorId: string | null,
    undoes?: string | null,
  ): Promise<string | null>;
}

/** The event because of which commands are given with nobody asking; how many events led to it. */
export interface Cause {
  eventId: string;
  depth: number;
}

/** A command's event as followers see it. */
export interface Followed {
  id: string;
  command: string;
  actorId: string | null;
  changes: readonly Change[];
  /** The event that this one took back. */
  undoes: string | null;
  at: Date;
  causeId: string | null;
  depth: number;
}

/** What belongs to an event although its command does not say so: rows written into it just before it is appended. */
export type Completes = (
  tools: Tools,
  write: Pick<Write, 'insert'>,
  event: Omit<Followed, 'id'> & { because: string },
  tx: Transaction,
) => Promise<void>;

/** What is kept beside the records, in the transaction of the event. */
export type Within = (tools: Tools, tx: Transaction, event: Followed) => Promise<void>;

/** What comes of an event afterwards, in a transaction of its own, once. */
export interface After {
  /** Stands in the queue and in `followed`; never renamed. */
  name: string;
  /** Whether it has to do with this event. Asked in the event's own transaction, and so cheap. */
  concerns: (event: Followed) => boolean;
  follow: (context: Context, event: Followed) => Promise<void>;
}

/** Everything that follows events, as `server/followers.ts` lists it. */
export interface Followers {
  completes: readonly Completes[];
  within: readonly Within[];
  after: readonly After[];
}

/** Groups of workers that do not hold up each other (`jobs/job.ts`). */
export type Lane = 'now' | 'outside' | 'mail' | 'long' | 'short';

/** Any job (`jobs/job.ts`), once its input no longer matters. */
export interface AnyJob {
  name: string;
  lane: Lane;
  /** When it is done without being asked for: five fields of crontab(5), UTC. */
  cron?: string;
  handle: (tools: Tools, payload: unknown) => Promise<void>;
}

/** Any kind of effect outside (`jobs/effect.ts`), once its input no longer matters. */
export interface AnyEffect {
  name: string;
  job: AnyJob;
  repeat: (context: Context, row: OutboxRow) => Promise<void>;
}
