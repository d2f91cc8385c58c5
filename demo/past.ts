import type { Context } from '@emporikon/server/commands/context';
import type { Deal, Stage } from '@emporikon/server/db/models/deals';
import type { DateTime } from 'luxon';

/** How long deals stay in the stages, one after the other, against each other. */
const SHARES = [1, 1.6, 0.9, 0.6];

/** Keeps how a deal came to where it is: the stages before, from a day on. What it is now is kept by the command itself. */
export async function keepPast(
  context: Context,
  deal: Deal,
  stages: readonly Stage[],
  from: DateTime,
  expected: DateTime,
): Promise<void> {
  const days = Math.max(0.2, (deal.stageSince.getTime() - from.toMillis()) / 86_400_000);
  const shares = stages.map((_, at) => SHARES[at] ?? 1);
  const whole = shares.reduce((sum, share) => sum + share, 0);
  for (const [at, stage] of stages.entries()) {
    const before = shares.slice(0, at).reduce((sum, share) => sum + share, 0);
    await context.sequelize.query(
      `INSERT INTO deal_states (deal_id, at, stage_id, amount_minor, currency, probability, expected_close, owner_id)
       VALUES (:dealId, :at, :stageId, :amountMinor, :currency, :probability, :expected, :ownerId)`,
      {
        replacements: {
          dealId: deal.id,
          at: from.plus({ days: (days * before) / whole }).toJSDate(),
          stageId: stage.id,
          amountMinor: deal.amountMinor,
          currency: deal.currency,
          probability: stage.probability,
          expected: expected.toISODate(),
          ownerId: deal.ownerId,
        },
        transaction: context.tx,
      },
    );
  }
}
