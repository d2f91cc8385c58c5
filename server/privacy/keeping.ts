import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { KeepingTimeRow, type KeepingKind } from '../db/models/privacy';
import { ProblemError } from '../http/problems';
import { defineJob } from '../jobs/job';
import { erasePerson } from './erase';
import { redactEvents } from './redactEvents';
import { ask, change } from './sql';
import { CAPTURE_STATEMENTS } from './statements';

/** People nobody works with: no open lead, deal, task or case, and neither customer, partner nor somebody's own contact. */
const IDLE = `p.erased_at IS NULL AND p.standing IN ('stranger', 'prospect', 'past customer')
  AND NOT EXISTS (SELECT 1 FROM leads l WHERE l.person_id = p.id AND l.status NOT IN ('converted', 'dropped'))
  AND NOT EXISTS (SELECT 1 FROM deal_roles o JOIN deals d ON d.id = o.deal_id JOIN stages s ON s.id = d.stage_id WHERE o.person_id = p.id AND s.kind = 'open')
  AND NOT EXISTS (SELECT 1 FROM tasks t WHERE t.person_id = p.id AND t.done_at IS NULL)
  AND NOT EXISTS (SELECT 1 FROM cases c WHERE c.person_id = p.id AND c.solved_at IS NULL)`;
/** The last entry that somebody of us or of them made, whoever may see it. */
const LAST_ENTRY = 'SELECT max(k.at) FROM ledger_links k WHERE k.person_id = p.id';

/** What a keeping time is about: `id`, `since` and `name` of what was last touched before `$until`, oldest first. */
const OLD: Readonly<Record<KeepingKind, string>> = {
  'set aside': `SELECT id, received_at AS since, coalesce(nullif(message ->> 'subject', ''), 'A ' || kind) AS name FROM captures
    WHERE state <> 'filed' AND received_at < $until::timestamptz ORDER BY received_at, id`,
  'call texts': `SELECT id, started_at AS since, 'A call' AS name FROM calls
    WHERE started_at < $until::timestamptz AND (coalesce(transcript, '') <> '' OR capture_id IS NOT NULL) ORDER BY started_at, id`,
  strangers: `SELECT p.id, p.created_at AS since, p.full_name AS name FROM people p
    WHERE p.created_at < $until::timestamptz AND ${IDLE} AND coalesce((${LAST_ENTRY}), p.created_at) < $until::timestamptz
      AND NOT EXISTS (SELECT 1 FROM turns t WHERE t.person_id = p.id AND t.spoken_at IS NOT NULL) ORDER BY p.created_at, p.id`,
  quiet: `SELECT p.id, t.spoken_at AS since, p.full_name AS name FROM people p JOIN turns t ON t.person_id = p.id
    WHERE t.spoken_at < $until::timestamptz AND coalesce((${LAST_ENTRY}), t.spoken_at) < $until::timestamptz AND ${IDLE} ORDER BY t.spoken_at, p.id`,
  'import files': `SELECT i.id, i.finished_at AS since, i.name FROM imports i
    WHERE i.finished_at < $until::timestamptz AND EXISTS (SELECT 1 FROM import_parts x WHERE x.import_id = i.id) ORDER BY i.finished_at, i.id`,
};

export interface Old {
  id: string;
  since: Date;
  name: string;
}

/** What a keeping time of so many months is over for. */
export function findOld(context: Context, kind: KeepingKind, months: number, limit: number): Promise<Old[]> {
  const until = new Date(context.now());
  until.setUTCMonth(until.getUTCMonth() - months);
  return ask<Old>(context, `${OLD[kind]} LIMIT ${limit}`, { until });
}

/** Originals that nobody filed go with what was read in them, out of the log as well. */
async function dropCaptures(context: Context, ids: readonly string[]): Promise<void> {
  const claims = await ask<{ id: string }>(
    context,
    'SELECT id FROM claims WHERE capture_id = ANY ($ids::uuid[])',
    { ids },
  );
  await ask(context, "SELECT set_config('emporikon.erasing', 'on', true)", {});
  await redactEvents(
    context,
    { person: null, gone: [...ids, ...claims.map(({ id }) => id)], emptied: [], kept: [] },
    { redact: (text) => text, redactOthers: (text) => text },
  );
  await ask(context, "SELECT set_config('emporikon.erasing', '', true)", {});
  for (const { sql } of CAPTURE_STATEMENTS) await change(context, sql, { captures: ids });
}

/** The words of a call go, in the call, its original and the log; that it was, how long and what was noted of it stays. */
async function dropCallTexts(context: Context, ids: readonly string[]): Promise<void> {
  const captures = await ask<{ id: string }>(
    context,
    'SELECT capture_id AS id FROM calls WHERE id = ANY ($ids::uuid[]) AND capture_id IS NOT NULL',
    { ids },
  );
  await dropCaptures(context, [...captures.map(({ id }) => id), ...ids]);
  await change(
    context,
    'UPDATE calls SET transcript = NULL, version = version + 1 WHERE id = ANY ($ids::uuid[])',
    { ids },
  );
}

const LOT = 100;

/** One lot of what is too old. @returns whether there may be more */
async function dropLot(tools: Tools, kind: KeepingKind, after: ReadonlySet<string>): Promise<string[]> {
  return runInTransaction(tools, null, async (context) => {
    const setting = await KeepingTimeRow.findOne({ where: { kind }, transaction: context.tx });
    if (!setting?.months) return [];
    const old = await findOld(context, kind, setting.months, LOT + after.size);
    const ids = old
      .map(({ id }) => id)
      .filter((id) => !after.has(id))
      .slice(0, LOT);
    if (!ids.length) return [];
    if (kind === 'set aside') await dropCaptures(context, ids);
    if (kind === 'call texts') await dropCallTexts(context, ids);
    if (kind === 'import files')
      await change(context, 'DELETE FROM import_parts WHERE import_id = ANY ($ids::uuid[])', { ids });
    return ids;
  });
}

/** People one by one: each is a whole erasure. One that something stands in the way of waits for another night. */
async function erasePeople(tools: Tools, ids: readonly string[]): Promise<void> {
  for (const id of ids)
    try {
      await runInTransaction(tools, null, (context) => erasePerson(context, id, { reason: 'time' }));
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
    }
}

export const keepTimesJob = defineJob({
  name: 'keepTimes',
  lane: 'long',
  cron: '40 1 * * *',
  input: z.unknown(),
  async run(tools) {
    for (const kind of ['set aside', 'call texts', 'strangers', 'quiet', 'import files'] as const) {
      const seen = new Set<string>();
      for (;;) {
        const ids = await dropLot(tools, kind, seen);
        if (!ids.length) break;
        if (kind === 'strangers' || kind === 'quiet') await erasePeople(tools, ids);
        for (const id of ids) seen.add(id);
      }
    }
  },
});
