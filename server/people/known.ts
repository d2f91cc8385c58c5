import type { Caller } from '@emporikon/contract/calls';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { turnOf } from '../ledger/queries';
import { nextMoves } from '../tasks/queries';

interface Row {
  id: string;
  full_name: string;
  job_title: string | null;
  tags: string[];
  company_id: string | null;
  company: string | null;
  owner: string | null;
  last_at: Date | null;
  last_headline: string | null;
  last_side: 'theirs' | 'ours' | 'within' | null;
}
interface DealRow {
  person_id: string;
  id: string;
  name: string;
  stage: string;
  amount_minor: number | null;
  currency: string;
}

export type KnownPerson = Caller & { tags: string[] };

/**
 * What a rep needs of somebody in the first seconds: who they are, whose turn it is, the last words, open deals, the next
 * move. In the order of `ids`.
 */
export async function knownPeople(context: Context, ids: readonly string[]): Promise<KnownPerson[]> {
  if (!ids.length) return [];
  const options = {
    replacements: { ids: [...ids] },
    type: QueryTypes.SELECT as const,
    transaction: context.tx,
  };
  const rows = await context.sequelize.query<Row>(
    `SELECT p.id, p.full_name, p.job_title, p.tags, c.id AS company_id, c.name AS company, u.name AS owner,
            n.at AS last_at, n.headline AS last_headline, n.side AS last_side
       FROM people p LEFT JOIN companies c ON c.id = p.company_id LEFT JOIN users u ON u.id = p.owner_id
       LEFT JOIN LATERAL (SELECT e.at, e.headline, e.side FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
                           WHERE k.person_id = p.id AND e.kind <> 'change' ORDER BY k.at DESC, k.entry_id DESC LIMIT 1) n ON true
      WHERE p.id IN (:ids)`,
    options,
  );
  const deals = await context.sequelize.query<DealRow>(
    `SELECT r.person_id, d.id, d.title AS name, s.name AS stage, d.amount_minor, d.currency
       FROM deal_roles r JOIN deals d ON d.id = r.deal_id JOIN stages s ON s.id = d.stage_id
      WHERE s.kind = 'open' AND r.person_id IN (:ids) ORDER BY d.created_at DESC`,
    options,
  );
  const leads = await context.sequelize.query<{ person_id: string; id: string; name: string }>(
    `SELECT person_id, id, title AS name FROM leads
      WHERE status IN ('new', 'working', 'qualified') AND deal_id IS NULL AND person_id IN (:ids) ORDER BY created_at DESC`,
    options,
  );
  const moves = await nextMoves(context, 'person_id', ids);
  const known: KnownPerson[] = [];
  for (const id of ids) {
    const row = rows.find((row) => row.id === id);
    if (!row) continue;
    known.push({
      person: { id, name: row.full_name },
      jobTitle: row.job_title,
      company: row.company_id && row.company ? { id: row.company_id, name: row.company } : null,
      owner: row.owner,
      tags: row.tags,
      turn: await turnOf(context, 'personId', id),
      lastWords:
        row.last_at && row.last_side
          ? { at: row.last_at.toISOString(), headline: row.last_headline ?? '', side: row.last_side }
          : null,
      deals: deals
        .filter((deal) => deal.person_id === id)
        .map((deal) => ({
          id: deal.id,
          name: deal.name,
          stage: deal.stage,
          amountMinor: deal.amount_minor,
          currency: deal.currency,
        })),
      leads: leads.filter((lead) => lead.person_id === id).map((lead) => ({ id: lead.id, name: lead.name })),
      nextMove: moves.get(id) ?? null,
    });
  }
  return known;
}
