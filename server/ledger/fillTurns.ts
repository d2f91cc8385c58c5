import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Tools } from '../commands/context';
import { defineJob } from '../jobs/job';
import { keepTurns } from './turns';

/** So many people at a time, each lot in a transaction of its own. */
const AT_ONCE = 200;

/** People of whom something is said and nothing kept: of a database of before, or loaded past the program. */
const NOT_KEPT = `SELECT p.id FROM people p WHERE p.id > :after::uuid
  AND NOT EXISTS (SELECT 1 FROM turns t WHERE t.person_id = p.id)
  AND EXISTS (SELECT 1 FROM ledger_links k WHERE k.person_id = p.id) ORDER BY p.id LIMIT ${AT_ONCE}`;

async function keepNext(tools: Tools, after: string): Promise<string | null> {
  return runInTransaction(tools, null, async (context) => {
    const rows = await context.sequelize.query<{ id: string }>(NOT_KEPT, {
      replacements: { after },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    });
    await keepTurns(
      context,
      rows.map((row) => row.id),
    );
    return rows.at(-1)?.id ?? null;
  });
}

/** Keeps whose turn it is with everybody of whom that is not kept yet, every night. Until then it is read when asked for. */
export const fillTurnsJob = defineJob({
  name: 'fillTurns',
  lane: 'long',
  input: z.unknown(),
  cron: '40 2 * * *',
  run: async (tools) => {
    for (
      let after: string | null = '00000000-0000-0000-0000-000000000000';
      after;
      after = await keepNext(tools, after)
    );
  },
});
