import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

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
