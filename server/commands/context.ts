import { randomUUID } from 'node:crypto';
import { DateTime } from 'luxon';
import type { Sequelize } from 'sequelize';
import type { EventRow } from '../db/models/ledger';
import { holdingConnection } from '../db/connect';
import { hiddenTwinOf, refuseHiddenTwin } from './hidden';
import { enterAs } from './sight';
import { Readers } from '../reading/readers';
import { isRetryableConflict } from '../db/conflicts';
import type { Actor, Context, House, Outside, Tools } from './types';
import { Writer } from './writer';

export type { Actor, Context, House, Outside, Tools } from './types';

export const systemTools = (
  sequelize: Sequelize,
  house: House,
  outside: Outside,
  installed: Pick<Tools, 'followers' | 'effects' | 'tables'>,
): Tools => ({
  sequelize,
  house,
  outside,
  ...installed,
  cause: null,
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
export async function runInTransaction<Result>(
  tools: Tools,
  actor: Actor | null,
  command: (context: Context) => Promise<Result>,
  takes: EventRow['roles'] = null,
): Promise<Result> {
  for (let left = TRIES; ;) {
    try {
      return await tools.sequelize.transaction((tx) =>
        holdingConnection(async () => {
          await enterAs(tools, tx, actor);
          return command({ ...tools, actor, tx, write: new Writer(tools, tx, actor, takes) });
        }),
      );
    } catch (error) {
      const hidden = actor && hiddenTwinOf(error);
      if (hidden) throw await refuseHiddenTwin(tools, actor, hidden);
      if (--left === 0 || !isRetryableConflict(error)) throw error;
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
