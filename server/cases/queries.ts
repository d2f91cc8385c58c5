import type { Parsed } from '@emporikon/contract';
import type { CaseDetail, CaseRow } from '@emporikon/contract/cases';
import type { Turn } from '@emporikon/contract/ledger';
import { caseState } from '@emporikon/core/lifecycle/cases';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { askWithFixedPlan } from '../db/prepared';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';
import { turnsOfCases } from '../ledger/turns';
import { textQueryOf } from '../search/textQuery';
import { openMoves } from '../tasks/queries';

interface Row {
  id: string;
  version: number;
  title: string;
  urgency: CaseRow['urgency'];
  person: CaseRow['person'];
  company: CaseRow['company'];
  owner_id: string;
  owner: string;
  came_by: CaseRow['cameBy'];
  opened_at: Date;
  answer_by: Date;
  solve_by: Date;
  solved_at: Date | null;
  answered_at: Date | null;
  key: string;
}

/** What counts as spoken with them, as SQL over an entry `n` of a case. */
const SPOKEN = `n.kind IN ('mail', 'call', 'meeting', 'visit', 'form') AND coalesce(n.outcome, 'spoke') = 'spoke'`;
/** When a case was answered first, as SQL over a case `s`. */
export const ANSWERED = `(SELECT min(n.at) FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
                           WHERE k.case_id = s.id AND n.side = 'ours' AND ${SPOKEN} AND n.at >= s.opened_at)`;
const named = (table: string, label: string, column: string): string =>
  `(SELECT jsonb_build_object('id', r.id, 'name', r.${label}) FROM ${table} r WHERE r.id = s.${column})`;
const SHOWN = `
  SELECT s.id, s.version, s.title, s.urgency, ${named('people', 'full_name', 'person_id')} AS person, ${named('companies', 'name', 'company_id')} AS company,
         s.owner_id, u.name AS owner, s.came_by, s.opened_at, s.answer_by, s.solve_by, s.solved_at, ${ANSWERED} AS answered_at, $key AS key
    FROM cases s JOIN users u ON u.id = s.owner_id`;

const asRow = (row: Row, turn: Turn['turn'], context: Context): CaseRow => ({
  id: row.id,
  version: row.version,
  title: row.title,
  urgency: row.urgency,
  ...caseState(
    {
      answerBy: row.answer_by.toISOString(),
      solveBy: row.solve_by.toISOString(),
      answeredAt: row.answered_at?.toISOString() ?? null,
      turn,
      solvedAt: row.solved_at?.toISOString() ?? null,
    },
    context.now().toISOString(),
  ),
  person: row.person,
  company: row.company,
  owner: { id: row.owner_id, name: row.owner },
  cameBy: row.came_by,
  openedAt: row.opened_at.toISOString(),
  answerBy: row.answer_by.toISOString(),
  answeredAt: row.answered_at?.toISOString() ?? null,
  solveBy: row.solve_by.toISOString(),
  solvedAt: row.solved_at?.toISOString() ?? null,
});

/** Rows as they are shown, by their ids. */
async function asRows(context: Context, rows: readonly Row[]): Promise<Map<string, CaseRow>> {
  const turns = await turnsOfCases(
    context,
    rows.map(({ id }) => id),
  );
  return new Map(rows.map((row) => [row.id, asRow(row, turns.get(row.id)?.turn ?? 'nobody', context)]));
}

const KEYS = {
  dueAt: { sql: 's.solve_by', type: 'timestamptz', natural: 'asc' },
  openedAt: { sql: 's.opened_at', type: 'timestamptz', natural: 'desc' },
  title: { sql: 'folded(s.title)', type: 'text', natural: 'asc' },
} as const;

export async function listCases(
  context: Context,
  { cursor, limit, sort, direction, state, q, ...narrowed }: Parsed<'GET /api/cases', 'query'>,
): Promise<{ items: CaseRow[]; next: string | null }> {
  const { sql: key, type, natural } = KEYS[sort];
  const way = direction ?? natural;
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const sought = q?.trim() ? textQueryOf(q) : null;
  if (q?.trim() && sought === null) return { items: [], next: null };
  const where = [
    state === 'all' ? '' : state === 'open' ? 's.solved_at IS NULL' : 's.solved_at IS NOT NULL',
    narrowed.urgency ? 's.urgency = :urgency' : '',
    narrowed.owner ? 's.owner_id = :owner' : '',
    narrowed.personId ? 's.person_id = :personId' : '',
    narrowed.companyId ? 's.company_id = :companyId' : '',
    sought ? 's.names @@ :sought::tsquery' : '',
    last ? `(${key}, s.id) ${way === 'asc' ? '>' : '<'} (:at::${type}, :last::uuid)` : '',
  ].filter(Boolean);
  const rows = await context.sequelize.query<Row>(
    `${SHOWN.replace('$key', `(${key})::text`)} ${where.length ? `WHERE ${where.join(' AND ')}` : ''}
      ORDER BY ${key} ${way}, s.id ${way} LIMIT :most`,
    {
      replacements: { ...narrowed, sought, at, last, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const shown = await asRows(context, rows);
  return pageOf(
    rows,
    limit,
    (row) => shown.get(row.id) as CaseRow,
    (row) => [row.key, row.id],
  );
}

/** Some cases by their ids, in no order. */
export async function casesByIds(context: Context, ids: readonly string[]): Promise<CaseRow[]> {
  if (!ids.length) return [];
  const rows = await askWithFixedPlan<Row>(
    context,
    `${SHOWN.replace('$key', "''")} WHERE s.id = ANY ($ids::uuid[])`,
    { ids: [...ids] },
  );
  return [...(await asRows(context, rows)).values()];
}

interface Whole extends Row {
  words: string;
  solution: string;
  deal: CaseDetail['deal'];
  capture_id: string | null;
  opener: string | null;
}

/** One case with its times and open tasks. @throws 404 */
export async function caseDetail(context: Context, id: string): Promise<CaseDetail> {
  const [row] = await context.sequelize.query<Whole>(
    `${SHOWN.replace(
      '$key AS key',
      `'' AS key, s.words, s.solution, s.capture_id, ${named('deals', 'title', 'deal_id')} AS deal,
       (SELECT o.name FROM users o WHERE o.id = s.opened_by) AS opener`,
    )} WHERE s.id = :id`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!row) throw notFound('There is no such case.');
  return {
    ...((await asRows(context, [row])).get(id) as CaseRow),
    words: row.words,
    solution: row.solution,
    deal: row.deal,
    captureId: row.capture_id,
    openedBy: row.opener,
    moves: await openMoves(context, 'case_id', id),
  };
}
