import type { After } from '../commands/types';
import type { Change } from '../db/models/ledger';
import { addJob } from '../jobs/job';
import { scoreAllJob, scoreTouched, type Touched } from './jobs';

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
/** From so many records on, all are scored again by one job. */
const MANY = 300;

function touchedBy(changes: readonly Change[]): Touched {
  const found = { leads: new Set<string>(), people: new Set<string>(), companies: new Set<string>() };
  for (const { table, before, after } of changes)
    for (const [column, of] of MOVES[table] ?? []) {
      const id = (after ?? before)?.[column];
      if (typeof id === 'string') found[of].add(id);
    }
  return { leads: [...found.leads], people: [...found.people], companies: [...found.companies] };
}

/** The scores of the leads that an event touched are made again, right after it. */
export const scoreAfter: After = {
  name: 'scores',
  concerns: ({ changes }) =>
    changes.some(({ table, before, after }) =>
      (MOVES[table] ?? []).some(([column]) => typeof (after ?? before)?.[column] === 'string'),
    ),
  async follow(context, { changes }) {
    const touched = touchedBy(changes);
    const count = touched.leads.length + touched.people.length + touched.companies.length;
    if (count > MANY) await addJob(context, scoreAllJob, {}, 'score-all');
    else await scoreTouched(context, touched);
  },
};
