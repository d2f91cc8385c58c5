import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';

/**
 * Notes that somebody looks at a record now.
 * @returns when they looked at it last; null for the first time
 */
export async function lookAt(context: Context, userId: string, recordId: string): Promise<Date | null> {
  const [row] = await context.sequelize.query<{ before: Date | null }>(
    `WITH known AS (SELECT at FROM looks WHERE user_id = :userId AND record_id = :recordId),
          noted AS (INSERT INTO looks (user_id, record_id, at) VALUES (:userId, :recordId, :now)
                    ON CONFLICT (user_id, record_id) DO UPDATE SET at = EXCLUDED.at)
     SELECT (SELECT at FROM known) AS before`,
    {
      replacements: { userId, recordId, now: context.now() },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return row?.before ?? null;
}

/** What colleagues entered on a record since somebody looked at it last. */
export interface News {
  count: number;
  /** The newest sentence on why it was changed. */
  sentence: string | null;
}
/** More than so many are not counted. */
const MOST_COUNTED = 20;

/**
 * What is new on each of some deals for whoever asks: since they looked last, or, on their own that they never looked at,
 * since it was made. Nothing where they looked at neither.
 */
export async function newsOfDeals(context: Context, ids: readonly string[]): Promise<Map<string, News>> {
  if (!ids.length) return new Map();
  const rows = await context.sequelize.query<News & { id: string }>(
    `SELECT d.id, fresh.* FROM deals d LEFT JOIN looks l ON l.user_id = :me AND l.record_id = d.id
       CROSS JOIN LATERAL (
         SELECT count(*)::int AS count, (array_agg(f.body ORDER BY f.at DESC) FILTER (WHERE f.kind = 'change' AND f.body <> '' AND NOT f.settles))[1] AS sentence
           FROM (SELECT n.body, n.kind, n.at, n.settles FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
                  WHERE k.deal_id = d.id AND n.created_at > coalesce(l.at, CASE WHEN d.owner_id = :me THEN d.created_at END) AND n.actor_id <> :me
                  ORDER BY k.at DESC, k.entry_id DESC LIMIT ${MOST_COUNTED}) f) fresh
      WHERE d.id IN (:ids) AND fresh.count > 0`,
    {
      replacements: { me: requireActor(context).id, ids: [...ids] },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return new Map(rows.map(({ id, count, sentence }) => [id, { count, sentence }]));
}

const LINKS = {
  people: 'k.person_id = l.record_id',
  companies: '(k.company_id = l.record_id OR k.at_company = l.record_id)',
  deals: 'k.deal_id = l.record_id',
} as const;

/**
 * Whether colleagues entered something on a record since a reader looked at it last, as SQL over its id.
 * @param reader the id of the reader, as SQL
 */
export const isNewFor = (
  kind: keyof typeof LINKS,
  id: string,
  reader = ':reader',
): string => `${id} IN (SELECT l.record_id FROM looks l WHERE l.user_id = ${reader} AND EXISTS (
    SELECT 1 FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
     WHERE ${LINKS[kind]} AND n.created_at > l.at AND n.actor_id <> ${reader}))`;
