import type { Entry, Turn } from '@emporikon/contract/ledger';
import type { CallOutcome } from '@emporikon/core/ledger/composer';
import { readTurn, type Side, type TurnEntry } from '@emporikon/core/ledger/turn';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Lead } from '../db/models/deals';
import { decodeCursor, encodeCursor } from '../http/paging';

export type LedgerOwner = 'personId' | 'companyId' | 'leadId' | 'dealId';

const COLUMNS: Record<LedgerOwner, string> = {
  personId: 'person_id',
  companyId: 'company_id',
  leadId: 'lead_id',
  dealId: 'deal_id',
};

interface Row {
  id: string;
  at: Date;
  side: Side;
  kind: Entry['kind'];
  headline: string;
  body: string;
  asks: string[];
  outcome: CallOutcome | null;
  capture_id: string | null;
  actor: string | null;
  people: { id: string; name: string }[];
}

interface PageOfEntries {
  kind?: Entry['kind'] | undefined;
  cursor?: string | undefined;
  limit: number;
}

/** The newest links of one column to one record, as SQL. */
const newest = (column: string, owner: string, after: string): string =>
  `SELECT k.entry_id, k.at FROM ledger_links k WHERE k.${column} = ${owner} ${after} ORDER BY k.at DESC, k.entry_id DESC LIMIT :most`;

/**
 * The entries of a record, newest first. A company shows everything said with all of its people (common practice): each
 * of them gives its newest by its own index, so that a page costs the same however much was said.
 */
async function pageOfEntries(
  context: Context,
  owner: LedgerOwner,
  id: string,
  { kind, cursor, limit }: PageOfEntries,
): Promise<{ ids: string[]; next: string | null }> {
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const after = [
    last ? 'AND (k.at, k.entry_id) < (:at::timestamptz, :last::uuid)' : '',
    kind ? 'AND EXISTS (SELECT 1 FROM ledger_entries n WHERE n.id = k.entry_id AND n.kind = :kind)' : '',
  ].join(' ');
  const own = newest(COLUMNS[owner], ':id::uuid', after);
  const sql =
    owner === 'companyId'
      ? `SELECT DISTINCT entry_id, at FROM (
           (${own}) UNION ALL
           SELECT said.* FROM people p CROSS JOIN LATERAL (${newest('person_id', 'p.id', after)}) said WHERE p.company_id = :id) every
          ORDER BY at DESC, entry_id DESC LIMIT :most`
      : own;
  const rows = await context.sequelize.query<{ id: string; key: string }>(
    `SELECT entry_id AS id, at::text AS key FROM (${sql}) page ORDER BY at DESC, entry_id DESC`,
    {
      replacements: { id, at, last, kind: kind ?? null, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const page = rows.slice(0, limit);
  const end = page.at(-1);
  return {
    ids: page.map((row) => row.id),
    next: rows.length > page.length && end ? encodeCursor([end.key, end.id]) : null,
  };
}

/** Entries of one record, newest first. */
export async function entriesOf(
  context: Context,
  owner: LedgerOwner,
  id: string,
  paged: PageOfEntries,
): Promise<{ items: Entry[]; next: string | null }> {
  const { ids, next } = await pageOfEntries(context, owner, id, paged);
  const rows = await rowsOf(context, ids);
  const items = rows.map((row) => ({
    id: row.id,
    at: row.at.toISOString(),
    side: row.side,
    kind: row.kind,
    headline: row.headline,
    body: row.body,
    actor: row.actor,
    captureId: row.capture_id,
    outcome: row.outcome,
    people: row.people,
  }));
  return { items, next };
}

async function rowsOf(context: Context, ids: readonly string[]): Promise<Row[]> {
  if (!ids.length) return [];
  return context.sequelize.query<Row>(
    `SELECT n.id, n.at, n.side, n.kind, n.headline, n.body, n.asks, n.outcome, n.capture_id, u.name AS actor,
            (SELECT coalesce(jsonb_agg(jsonb_build_object('id', p.id, 'name', p.full_name)), '[]') FROM ledger_links l JOIN people p ON p.id = l.person_id WHERE l.entry_id = n.id) AS people
       FROM ledger_entries n LEFT JOIN users u ON u.id = n.actor_id WHERE n.id IN (:ids) ORDER BY n.at DESC, n.id DESC`,
    { replacements: { ids }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

/** So many of the newest entries say whose turn it is. */
const LOOKED_BACK = 30;

const asTurnEntry = (row: Pick<Row, 'side' | 'kind' | 'at' | 'asks' | 'outcome'>): TurnEntry => ({
  side: row.outcome && row.outcome !== 'spoke' ? 'within' : row.side,
  kind: row.kind,
  at: row.at.toISOString(),
  asks: row.asks,
});

/** Whose turn it is with one record. A lead's is that of its person: they are one and the same to talk with. */
export async function turnOf(context: Context, owner: LedgerOwner, id: string): Promise<Turn> {
  const lead = owner === 'leadId' ? await Lead.findByPk(id, { transaction: context.tx }) : null;
  const { ids } = await pageOfEntries(context, lead ? 'personId' : owner, lead?.personId ?? id, {
    limit: LOOKED_BACK,
  });
  return readTurn((await rowsOf(context, ids)).map(asTurnEntry));
}

/** Whose turn it is on each of some deals, in one query. */
export async function turnsOfDeals(context: Context, ids: readonly string[]): Promise<Map<string, Turn>> {
  if (!ids.length) return new Map();
  const rows = await context.sequelize.query<Row & { deal_id: string }>(
    `SELECT wanted.id AS deal_id, said.* FROM unnest(ARRAY[:ids]::uuid[]) wanted (id)
       CROSS JOIN LATERAL (
         SELECT n.at, n.side, n.kind, n.asks, n.outcome FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
          WHERE k.deal_id = wanted.id AND n.side <> 'within' AND coalesce(n.outcome, 'spoke') = 'spoke'
          ORDER BY k.at DESC, k.entry_id DESC LIMIT 1) said`,
    { replacements: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.map((row) => [row.deal_id, readTurn([asTurnEntry(row)])]));
}
