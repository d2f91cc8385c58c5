import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { HiddenMatch } from '../db/models/visibility';
import { notFound } from '../http/problems';

interface MatchRow {
  id: string;
  at: Date;
  by_id: string;
  by: string;
  kind: 'people' | 'companies';
  record_id: string;
  name: string;
}

/** Who came upon which records that they cannot see, newest first; of the records that the actor may see. */
export async function listHiddenMatches(context: Context) {
  const rows = await context.sequelize.query<MatchRow>(
    `SELECT m.id, m.met_at AS at, u.id AS by_id, u.name AS by, m.kind, m.record_id, coalesce(p.full_name, c.name) AS name
       FROM hidden_matches m JOIN users u ON u.id = m.met_by LEFT JOIN people p ON p.id = m.record_id LEFT JOIN companies c ON c.id = m.record_id
      WHERE m.settled_at IS NULL AND coalesce(p.id, c.id) IS NOT NULL AND m.met_by <> :me ORDER BY m.met_at DESC LIMIT 200`,
    { replacements: { me: requireActor(context).id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => ({
    id: row.id,
    at: row.at.toISOString(),
    by: { id: row.by_id, name: row.by },
    record: { kind: row.kind, id: row.record_id, name: row.name },
  }));
}

/** @throws 404 where there is none, or the actor cannot see the record @returns the event's id */
export async function settleHiddenMatch(context: Context, id: string): Promise<string | null> {
  const match = await HiddenMatch.findByPk(id, { transaction: context.tx, lock: true });
  if (!match || match.settledAt) throw notFound('This is not on the list any more.');
  await context.write.update(match, { settledAt: context.now() });
  return context.write.event(
    'settle hidden match',
    'Took a record that somebody cannot see off the list',
    requireActor(context).id,
  );
}
