import type { Transaction } from 'sequelize';
import type { Tools } from '../commands/context';
import type { Change } from '../db/models/ledger';
import { addJob } from '../jobs/queue';

/** Which column of a changed row names whose score it moves. */
const MOVES: Readonly<
  Record<string, readonly (readonly [column: string, of: 'leads' | 'people' | 'companies'])[]>
> = {
  leads: [['id', 'leads']],
  lead_answers: [['leadId', 'leads']],
  deals: [['leadId', 'leads']],
  ledger_links: [
    ['leadId', 'leads'],
    ['personId', 'people'],
  ],
  people: [['id', 'people']],
  contact_points: [['personId', 'people']],
  signals: [['personId', 'people']],
  companies: [['id', 'companies']],
};
/** From so many records on, all are scored anew by one job. */
const MANY = 300;

/** Asks that the scores of the leads that a command touched are made anew, right after it. */
export async function noteScores(
  tools: Pick<Tools, 'sequelize'>,
  tx: Transaction,
  changes: readonly Change[],
): Promise<void> {
  const found = { leads: new Set<string>(), people: new Set<string>(), companies: new Set<string>() };
  for (const { table, before, after } of changes)
    for (const [column, of] of MOVES[table] ?? []) {
      const id = (after ?? before)?.[column];
      if (typeof id === 'string') found[of].add(id);
    }
  const count = found.leads.size + found.people.size + found.companies.size;
  if (!count) return;
  const context = { sequelize: tools.sequelize, tx };
  if (count > MANY) return addJob(context, 'scoreAllLeads', {}, 'score-all');
  return addJob(context, 'scoreLeads', {
    leads: [...found.leads],
    people: [...found.people],
    companies: [...found.companies],
  });
}
