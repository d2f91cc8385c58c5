import type { Examples } from '@emporikon/core/matching/linkage/learn';
import { answersOf, PERSON_PLAN } from '@emporikon/core/matching/lookAlikes';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { personCells } from './book';
import { pairPrint, printsOf } from './judge';
import type { RecordKind } from './links';
import { ask } from './move';

interface Side {
  given_name: string;
  family_name: string;
  job_title: string | null;
  address: string | null;
  birthday: string | null;
  company: string | null;
  keys: string[];
}
interface MergedRow {
  gone: Side;
  kept: Side;
}

const MOST = 5000;
const SIDE = (row: string, company: string, keys: string): string =>
  `jsonb_build_object('given_name', ${row}->>'given_name', 'family_name', ${row}->>'family_name', 'job_title', ${row}->>'job_title', 'address', ${row}->>'address',
     'birthday', ${row}->>'birthday', 'company', ${company}.name, 'keys', ${keys})`;

/** Pairs that reps called the same, as each stood before they became one. */
const MERGED = `SELECT ${SIDE("(m.moved->'record')", 'c', "coalesce(m.moved->'own'->'merged', '[]')")} AS gone,
    ${SIDE('to_jsonb(p.*)', 'd', "coalesce(m.moved->'own'->'survivor', '[]')")} AS kept
  FROM merges m JOIN people p ON p.id = m.survivor_id LEFT JOIN companies c ON c.id::text = m.moved->'record'->>'company_id'
  LEFT JOIN companies d ON d.id = p.company_id
  WHERE m.kind = 'person' AND m.unmerged_at IS NULL ORDER BY m.at DESC LIMIT ${MOST}`;
const KEYS = (alias: string): string =>
  `coalesce((SELECT jsonb_agg(k.normalized) FROM contact_points k WHERE k.person_id = ${alias}.id AND k.kind IN ('email', 'phone')), '[]')`;
const APART = `SELECT ${SIDE('to_jsonb(p.*)', 'c', KEYS('p'))} AS gone, ${SIDE('to_jsonb(q.*)', 'd', KEYS('q'))} AS kept
  FROM kept_apart a JOIN people p ON p.id = a.one JOIN people q ON q.id = a.other LEFT JOIN companies c ON c.id = p.company_id LEFT JOIN companies d ON d.id = q.company_id
  WHERE a.kind = 'person' ORDER BY a.said_at DESC LIMIT ${MOST}`;

const cellsOf = (side: Side): string[] =>
  personCells(
    side,
    side.keys.filter((key) => key.includes('@')),
    side.keys.filter((key) => key.startsWith('+')),
  );

/** What reps judged so far, to learn from. */
export async function judgedPairs(tools: Tools): Promise<{ judged: Examples | null; answers: number }> {
  const of = async (sql: string, isSame: boolean): Promise<Parameters<typeof answersOf>[0][number][]> => {
    const rows = await runInTransaction(tools, null, ({ sequelize, tx }) =>
      sequelize.query<MergedRow>(sql, { type: QueryTypes.SELECT, transaction: tx }),
    );
    return rows.map((row) => ({ rows: [cellsOf(row.gone), cellsOf(row.kept)] as const, isSame }));
  };
  const all = [...(await of(MERGED, true)), ...(await of(APART, false))];
  return { answers: all.length, judged: all.length ? answersOf(all, PERSON_PLAN) : null };
}

/** Pairs of rows that reps told apart and whose facts are still those they saw, as `lower × rows + higher`. */
export async function toldApart(
  context: Context,
  kind: RecordKind,
  ids: readonly string[],
): Promise<number[]> {
  const kept = await ask<{ one: string; other: string; facts: string; how: string }>(
    context,
    `SELECT coalesce(f.to_id, a.one)::text AS one, coalesce(g.to_id, a.other)::text AS other, a.facts, a.how
       FROM kept_apart a LEFT JOIN forwardings f ON f.id = a.one LEFT JOIN forwardings g ON g.id = a.other WHERE a.kind = $kind`,
    { kind },
  );
  const prints = await printsOf(context, kind, [...new Set(kept.flatMap((pair) => [pair.one, pair.other]))]);
  const rowOf = new Map(ids.map((id, row) => [id, row]));
  return kept.flatMap(({ one, other, facts, how }) => {
    const [a, b] = [rowOf.get(one), rowOf.get(other)];
    if (a === undefined || b === undefined) return [];
    // Whoever is known to be somebody else stays so, whatever the records come to have in common.
    if (how === 'different' && pairPrint(prints, one, other) !== facts) return [];
    return [Math.min(a, b) * ids.length + Math.max(a, b)];
  });
}
