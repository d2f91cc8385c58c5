import type { Within } from '../commands/types';
import type { Change } from '../db/models/ledger';

const RECORDS = new Set(['people', 'companies', 'leads', 'deals']);
const LINKS = ['personId', 'companyId', 'leadId', 'dealId'] as const;
/** A command that touches more than this is no work with anybody in particular. */
const MOST = 60;
/** In so many days what was done counts half. */
const HALF_LIFE = 30;
const DAY = 86_400_000;

/** The records that a command's changes are about. */
function recordsOf(changes: readonly Change[]): string[] {
  const ids = new Set<string>();
  for (const { table, id, before, after } of changes) {
    if (RECORDS.has(table) && after) ids.add(id);
    const row = after ?? before ?? {};
    for (const key of LINKS) if (typeof row[key] === 'string') ids.add(row[key]);
  }
  return ids.size > MOST ? [] : [...ids].sort();
}

/** Notes in the command's own transaction whom and what its actor worked with; the find field ranks by it. */
export const keepWorkedWith: Within = async ({ sequelize, now }, tx, { actorId, changes }) => {
  if (!actorId) return;
  const ids = recordsOf(changes);
  if (!ids.length) return;
  const at = now();
  await sequelize.query(
    `INSERT INTO worked_with AS w (user_id, record_id, last_at, score)
     SELECT $actor::uuid, id, $at::timestamptz, $score FROM unnest($ids::uuid[]) AS one (id) ORDER BY id
     ON CONFLICT (user_id, record_id) DO UPDATE SET times = w.times + 1, last_at = excluded.last_at,
       score = greatest(w.score, excluded.score) + ln(1 + exp(-abs(w.score - excluded.score) * ln(2.0))) / ln(2.0)`,
    { bind: { actor: actorId, ids, at, score: at.getTime() / DAY / HALF_LIFE }, transaction: tx },
  );
};
