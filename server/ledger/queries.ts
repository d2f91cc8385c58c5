import type { Entry, Turn } from '@emporikon/contract/ledger';
import type { CallOutcome } from '@emporikon/core/ledger/composer';
import { readTurn, type Side, type TurnEntry } from '@emporikon/core/ledger/turn';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Lead } from '../db/models/deals';

export type LedgerOwner = 'personId' | 'companyId' | 'leadId' | 'dealId';

/**
 * Whose entries count for whom. A company shows everything said with all of its people (common practice); a deal what
 * is linked to it. Fixed SQL, chosen by key.
 */
const SCOPES: Record<LedgerOwner, string> = {
  personId: 'k.person_id = :id',
  companyId: '(k.company_id = :id OR k.person_id IN (SELECT id FROM people WHERE company_id = :id))',
  leadId: 'k.lead_id = :id',
  dealId: 'k.deal_id = :id',
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

/** Entries of one record, newest first. */
export async function entriesOf(
  context: Context,
  owner: LedgerOwner,
  id: string,
  limit: number,
): Promise<Entry[]> {
  return (await rowsOf(context, owner, id, limit)).map((row) => ({
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
}

function rowsOf(context: Context, owner: LedgerOwner, id: string, limit: number): Promise<Row[]> {
  return context.sequelize.query<Row>(
    `SELECT n.id, n.at, n.side, n.kind, n.headline, n.body, n.asks, n.outcome, n.capture_id, u.name AS actor,
            (SELECT coalesce(jsonb_agg(jsonb_build_object('id', p.id, 'name', p.full_name)), '[]') FROM ledger_links l JOIN people p ON p.id = l.person_id WHERE l.entry_id = n.id) AS people
       FROM ledger_entries n LEFT JOIN users u ON u.id = n.actor_id
      WHERE EXISTS (SELECT 1 FROM ledger_links k WHERE k.entry_id = n.id AND ${SCOPES[owner]})
      ORDER BY n.at DESC, n.id LIMIT :limit`,
    { replacements: { id, limit }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

const asTurnEntry = (row: Pick<Row, 'side' | 'kind' | 'at' | 'asks' | 'outcome'>): TurnEntry => ({
  side: row.outcome && row.outcome !== 'spoke' ? 'within' : row.side,
  kind: row.kind,
  at: row.at.toISOString(),
  asks: row.asks,
});

/** Whose turn it is with one record. A lead's is that of its person: they are one and the same to talk with. */
export async function turnOf(context: Context, owner: LedgerOwner, id: string): Promise<Turn> {
  const lead = owner === 'leadId' ? await Lead.findByPk(id, { transaction: context.tx }) : null;
  const rows = await (lead ? rowsOf(context, 'personId', lead.personId, 30) : rowsOf(context, owner, id, 30));
  return readTurn(rows.map(asTurnEntry));
}

/** Whose turn it is on each of some deals, in one query. */
export async function turnsOfDeals(context: Context, ids: readonly string[]): Promise<Map<string, Turn>> {
  if (!ids.length) return new Map();
  const rows = await context.sequelize.query<Row & { deal_id: string }>(
    `SELECT DISTINCT ON (k.deal_id) k.deal_id, n.at, n.side, n.kind, n.asks, n.outcome
       FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
      WHERE k.deal_id = ANY(ARRAY[:ids]::uuid[]) AND n.side <> 'within' AND coalesce(n.outcome, 'spoke') = 'spoke' ORDER BY k.deal_id, n.at DESC`,
    { replacements: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.map((row) => [row.deal_id, readTurn([asTurnEntry(row)])]));
}
