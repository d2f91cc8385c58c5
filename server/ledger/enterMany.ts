import type { Context } from '../commands/context';
import { readingOf, type Concerned } from './write';

/** What is entered for one of many records. */
export interface Line {
  /** The entry's id. */
  id: string;
  headline: string;
  about: Concerned;
}

const COLUMNS = ['person_id', 'company_id', 'lead_id', 'deal_id'] as const;
const KEYS = {
  person_id: 'personId',
  company_id: 'companyId',
  lead_id: 'leadId',
  deal_id: 'dealId',
} as const;

/** Enters what changed on many records at once, a line for each. It is no part of the event: it goes with `withdrawMany`. */
export async function enterMany(
  context: Context,
  lines: readonly Line[],
  because: { actorId: string; at: Date },
): Promise<void> {
  if (!lines.length) return;
  const readings = new Map<string, unknown>();
  const entries = lines.map(({ id, headline }) => {
    if (!readings.has(headline))
      readings.set(headline, readingOf({ side: 'within', kind: 'change', headline, body: '' }));
    return { id, headline: headline.slice(0, 500), reading: readings.get(headline) };
  });
  const links = lines.flatMap(({ id, about }) =>
    COLUMNS.flatMap((column) =>
      about[KEYS[column]] ? { id: context.newId(), entry_id: id, [column]: about[KEYS[column]] } : [],
    ),
  );
  const run = (sql: string, bind: Record<string, unknown>): Promise<unknown> =>
    context.sequelize.query(sql, { bind, transaction: context.tx });
  await run(
    `INSERT INTO ledger_entries (id, at, side, kind, headline, body, actor_id, reading, created_at)
     SELECT r.id, $at::timestamptz, 'within', 'change', r.headline, '', $actor::uuid, r.reading, $at::timestamptz
       FROM jsonb_to_recordset($rows::jsonb) AS r (id uuid, headline text, reading jsonb)`,
    { rows: JSON.stringify(entries), actor: because.actorId, at: because.at },
  );
  await run(
    `INSERT INTO ledger_links (id, entry_id, ${COLUMNS.join(', ')})
     SELECT r.id, r.entry_id, ${COLUMNS.map((column) => `r.${column}`).join(', ')}
       FROM jsonb_to_recordset($rows::jsonb) AS r (id uuid, entry_id uuid, ${COLUMNS.map((column) => `${column} uuid`).join(', ')})`,
    { rows: JSON.stringify(links) },
  );
}

/** Takes back what `enterMany` entered, but for what somebody pinned or wrote beside since. */
export async function withdrawMany(context: Context, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await context.sequelize.query(
    `WITH gone AS (SELECT n.id FROM ledger_entries n WHERE n.id = ANY ($ids::uuid[]) AND n.pinned_at IS NULL
                      AND NOT EXISTS (SELECT 1 FROM annotations a WHERE a.entry_id = n.id)),
          links AS (DELETE FROM ledger_links k USING gone WHERE k.entry_id = gone.id)
     DELETE FROM ledger_entries n USING gone WHERE n.id = gone.id`,
    { bind: { ids: [...ids] }, transaction: context.tx },
  );
}
