import { lockNames } from '../commands/locks';
import { z } from 'zod';
import { defineJob } from '../jobs/job';
import type { CompanyFacts } from '@emporikon/core/matching/firms';
import { FeatureBuilder } from '@emporikon/core/matching/linkage/features';
import { PERSON_PLAN, type FoundGroup } from '@emporikon/core/matching/lookAlikes';
import type { Weights } from '@emporikon/core/matching/weights';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { allCompanies, allPeople } from './book';
import { judgedPairs, toldApart } from './judged';
import type { RecordKind } from './links';
import { ask } from './move';
import { searchInThread, type Task } from './search';

const WRITTEN_AT_ONCE = 1000;
const KEPT_WEIGHTS = 20;

async function readBook(tools: Tools, kind: RecordKind): Promise<{ ids: string[]; task: Task }> {
  const ids: string[] = [];
  const companies: CompanyFacts[] = [];
  const builder = new FeatureBuilder(PERSON_PLAN);
  if (kind === 'person')
    for await (const { id, cells } of allPeople(tools)) {
      ids.push(id);
      builder.add(cells);
    }
  else
    for await (const { id, facts } of allCompanies(tools)) {
      ids.push(id);
      companies.push(facts);
    }
  const features = kind === 'person' ? builder.finish() : null;
  return { ids, task: { features, companies, judged: null, apart: [] } };
}

const keyOf = (members: readonly string[]): string => [...members].sort().join(' ');

/** Puts what was found in place of what stood open: a group found again keeps its id, so that a page that shows it stays true. */
async function putGroups(
  context: Context,
  kind: RecordKind,
  groups: readonly FoundGroup[],
  ids: readonly string[],
): Promise<number> {
  const found = new Map(
    groups.map((group) => {
      const members = group.rows.map((row) => ids[row] ?? '');
      return [keyOf(members), { members, probability: group.probability }];
    }),
  );
  // Two looks that end at once must not both put the same groups.
  await lockNames(context, [`look-alikes:${kind}`]);
  const open = await ask<{ id: string; members: string[] }>(
    context,
    `SELECT id, members FROM look_alikes WHERE kind = $kind AND state = 'open' FOR UPDATE`,
    { kind },
  );
  const rows: { id: string; members: string[]; probability: number }[] = [];
  const gone: string[] = [];
  for (const group of open) {
    const again = found.get(keyOf(group.members));
    if (again) {
      rows.push({ id: group.id, ...again });
      found.delete(keyOf(group.members));
    } else gone.push(group.id);
  }
  for (const group of found.values()) rows.push({ id: context.newId(), ...group });
  await context.sequelize.query('DELETE FROM look_alikes WHERE id = ANY ($gone::uuid[])', {
    bind: { gone },
    transaction: context.tx,
  });
  for (let from = 0; from < rows.length; from += WRITTEN_AT_ONCE)
    await context.sequelize.query(
      `INSERT INTO look_alikes AS g (id, kind, members, probability, found_at)
       SELECT id, $kind, members, probability, $at::timestamptz FROM jsonb_to_recordset($rows::jsonb) AS r (id uuid, members uuid[], probability real)
        WHERE NOT EXISTS (SELECT 1 FROM unnest(members) m WHERE NOT EXISTS (SELECT 1 FROM ${kind === 'person' ? 'people' : 'companies'} t WHERE t.id = m))
       ON CONFLICT (id) DO UPDATE SET probability = excluded.probability`,
      {
        bind: { kind, at: context.now(), rows: JSON.stringify(rows.slice(from, from + WRITTEN_AT_ONCE)) },
        transaction: context.tx,
      },
    );
  return rows.length;
}

async function keepWeights(context: Context, weights: Weights, answers: number): Promise<void> {
  await context.sequelize.query(
    `INSERT INTO match_weights (id, kind, made_at, records, answers, weights) VALUES ($id::uuid, 'person', $at::timestamptz, $records, $answers, $weights::jsonb)`,
    {
      bind: {
        id: context.newId(),
        at: context.now(),
        records: weights.records,
        answers,
        weights: JSON.stringify(weights),
      },
      transaction: context.tx,
    },
  );
  await context.sequelize.query(
    `DELETE FROM match_weights WHERE kind = 'person' AND id NOT IN (SELECT id FROM match_weights WHERE kind = 'person' ORDER BY made_at DESC LIMIT ${KEPT_WEIGHTS})`,
    { transaction: context.tx },
  );
}

/**
 * Looks through the whole book for records that may be the same, learns its weights from it, and puts the groups where
 * the page reads them. What reps told apart stays apart unless the facts changed since.
 */
export async function findLookAlikes(tools: Tools, kind: RecordKind): Promise<void> {
  const id = tools.newId();
  const { sequelize } = tools;
  await sequelize.query(
    'INSERT INTO look_alike_runs (id, kind, started_at) VALUES ($id::uuid, $kind, $at::timestamptz)',
    { bind: { id, kind, at: tools.now() } },
  );
  try {
    const { ids, task } = await readBook(tools, kind);
    const { judged, answers } = kind === 'person' ? await judgedPairs(tools) : { judged: null, answers: 0 };
    const { groups, weights } = await searchInThread({
      ...task,
      judged,
      apart: await runInTransaction(tools, null, (context) => toldApart(context, kind, ids)),
    });
    await runInTransaction(tools, null, async (context) => {
      const count = await putGroups(context, kind, groups, ids);
      if (weights) await keepWeights(context, weights, answers);
      await sequelize.query(
        'UPDATE look_alike_runs SET finished_at = $at::timestamptz, records = $records, groups = $count WHERE id = $id::uuid',
        { bind: { id, at: tools.now(), records: ids.length, count }, transaction: context.tx },
      );
      await sequelize.query(`SELECT pg_notify('emporikon_events', $payload)`, {
        bind: {
          payload: JSON.stringify({ command: 'find look-alikes', touched: [{ table: 'look_alikes', id }] }),
        },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      });
    });
  } catch (error) {
    await sequelize.query(
      'UPDATE look_alike_runs SET trouble = $trouble, finished_at = $at::timestamptz WHERE id = $id::uuid',
      {
        bind: {
          id,
          at: tools.now(),
          trouble: error instanceof Error ? error.message.slice(0, 300) : String(error),
        },
      },
    );
    throw error;
  }
}

export const lookAlikesJob = defineJob({
  name: 'findLookAlikes',
  lane: 'long',
  input: z.object({ kind: z.enum(['person', 'company']) }),
  run: (tools, { kind }) => findLookAlikes(tools, kind),
});

export const allLookAlikesJob = defineJob({
  name: 'findAllLookAlikes',
  lane: 'long',
  input: z.unknown(),
  cron: '30 3 * * *',
  async run(tools) {
    await findLookAlikes(tools, 'company');
    await findLookAlikes(tools, 'person');
  },
});
