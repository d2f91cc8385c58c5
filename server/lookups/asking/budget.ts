import type { Transaction } from 'sequelize';
import type { Context } from '../../commands/context';
import type { LookUpRules } from '../../db/models/lookUps';

type Database = Pick<Context, 'sequelize'> & { tx: Transaction };

/** The month an allowance is counted in: that of UTC. */
export const monthOf = (at: Date): string => at.toISOString().slice(0, 7);

const HOUSE = 'house';

async function spendWithin(
  { sequelize, tx }: Database,
  month: string,
  who: string,
  price: number,
  limit: number | null,
): Promise<boolean> {
  await sequelize.query(
    'INSERT INTO look_up_purses (month, who) VALUES (:month, :who) ON CONFLICT DO NOTHING',
    { replacements: { month, who }, transaction: tx },
  );
  const [rows] = await sequelize.query(
    `UPDATE look_up_purses SET spent = spent + :price
      WHERE month = :month AND who = :who AND (:limit::integer IS NULL OR spent + :price <= :limit) RETURNING spent`,
    { replacements: { month, who, price, limit }, transaction: tx },
  );
  return rows.length > 0;
}

/**
 * Sets a price aside before the question goes out, of the house and of whoever asks. The row of the month is locked by
 * it, so that two at once never spend more than there is. Within a transaction that is given up when it does not go.
 * @returns null when it is set aside, else whose allowance is used up
 */
export async function reserveBudget(
  database: Database,
  rules: Pick<LookUpRules, 'allowance' | 'perUser'>,
  month: string,
  userId: string | null,
  price: number,
): Promise<'house' | 'user' | null> {
  if (!(await spendWithin(database, month, HOUSE, price, rules.allowance))) return 'house';
  if (userId && !(await spendWithin(database, month, userId, price, rules.perUser))) return 'user';
  return null;
}

/** Gives back what was set aside and not charged. */
export async function releaseBudget(
  { sequelize, tx }: Database,
  month: string,
  userId: string | null,
  price: number,
): Promise<void> {
  if (price === 0) return;
  // The house first, as when it is set aside: in another order two at once would wait for each other for ever.
  for (const who of userId ? [HOUSE, userId] : [HOUSE])
    await sequelize.query(
      'UPDATE look_up_purses SET spent = greatest(0, spent - :price) WHERE month = :month AND who = :who',
      { replacements: { month, price, who }, transaction: tx },
    );
}

/** What was spent or is set aside this month, by the house and by somebody; minor units. */
export async function spentInMonth(
  { sequelize, tx }: Database,
  month: string,
  userId: string | null,
): Promise<{ house: number; mine: number }> {
  const [rows] = await sequelize.query(
    'SELECT who, spent FROM look_up_purses WHERE month = :month AND who IN (:who)',
    { replacements: { month, who: userId ? [HOUSE, userId] : [HOUSE] }, transaction: tx },
  );
  const of = (who: string | null): number =>
    (rows as { who: string; spent: number }[]).find((row) => row.who === who)?.spent ?? 0;
  return { house: of(HOUSE), mine: of(userId) };
}
