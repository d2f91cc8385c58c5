import { binned, refit } from '@emporikon/core/reading/refit';
import type { CaptureKind } from '@emporikon/core/reading/types';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { ReadingFitRow, type ReadingFit } from '../db/models/captures';
import { defineJob } from '../jobs/job';

/** So many of the captures that were filed last are looked at: what the reader was like long ago says nothing of it now. */
const MOST_CAPTURES = 5000;
/** How many counts are kept, to look back on. */
const KEPT = 100;

interface Row {
  kind: CaptureKind;
  field: string;
  shown: number;
  given: number;
  outcome: 'right' | 'wrong' | 'missed';
}

/**
 * What people decided of claims before they filed a capture: left as they were, corrected or refused, or added because they were
 * missing. A table is decided row by row in its import, and is not looked at.
 */
const DECIDED = `
  WITH last AS (
    SELECT id, kind FROM captures WHERE state = 'filed' AND kind <> 'row' ORDER BY filed_at DESC LIMIT ${MOST_CAPTURES}
  )
  SELECT last.kind, c.field, c.confidence AS shown, coalesce(c.read_confidence, c.confidence) AS given,
         CASE WHEN c.by_hand THEN 'missed'
              WHEN c.fate = 'rejected' OR r.id IS NOT NULL THEN 'wrong'
              ELSE 'right' END AS outcome
    FROM last
    JOIN claims c ON c.capture_id = last.id
    LEFT JOIN claims r ON r.capture_id = c.capture_id AND r.replaces = c.id AND r.by_hand
   WHERE c.look_up_id IS NULL AND (NOT c.by_hand OR c.replaces IS NULL)`;

/** Counts what was decided and fits confidences to it, by kind of capture and field. */
async function countDecided(context: Context): Promise<{ captures: number; fits: ReadingFit[] }> {
  const rows = await context.sequelize.query<Row>(DECIDED, {
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const [counted] = await context.sequelize.query<{ count: number }>(
    `SELECT count(*)::int AS count FROM (SELECT 1 FROM captures WHERE state = 'filed' AND kind <> 'row' LIMIT ${MOST_CAPTURES}) one`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const key = `${row.kind} ${row.field}`;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  const fits = [...groups.values()].flatMap((group): ReadingFit[] => {
    const [first] = group;
    if (!first) return [];
    const read = group.filter(({ outcome }) => outcome !== 'missed');
    const isRight = ({ outcome }: Row): boolean => outcome === 'right';
    return [
      {
        kind: first.kind,
        field: first.field,
        right: read.filter(isRight).length,
        wrong: read.filter((row) => !isRight(row)).length,
        missed: group.length - read.length,
        bins: binned(read.map((row) => ({ confidence: row.shown, isRight: isRight(row) }))),
        steps: refit(read.map((row) => ({ confidence: row.given, isRight: isRight(row) }))),
      },
    ];
  });
  fits.sort((a, b) => a.kind.localeCompare(b.kind) || b.right + b.wrong - (a.right + a.wrong));
  return { captures: counted?.count ?? 0, fits };
}

/** Fits the confidences of the reader to what people decided, and forgets the oldest counts. */
async function fitReading(tools: Tools): Promise<void> {
  await runInTransaction(tools, null, async (context) => {
    const counted = await countDecided(context);
    await ReadingFitRow.create(
      { id: context.newId(), madeAt: context.now(), ...counted },
      { transaction: context.tx },
    );
    await context.sequelize.query(
      `DELETE FROM reading_fits WHERE id IN (SELECT id FROM reading_fits ORDER BY made_at DESC OFFSET ${KEPT})`,
      { transaction: context.tx },
    );
  });
}

export const fitJob = defineJob({
  name: 'fitReading',
  lane: 'long',
  input: z.unknown(),
  cron: '15 3 * * *',
  run: fitReading,
});
