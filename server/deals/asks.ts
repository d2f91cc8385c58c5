import { notKnown, type DealAsk } from '@emporikon/core/lifecycle/stages';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Stage } from '../db/models/deals';

/** What a stage asks for and is not known of a deal. */
export async function notKnownOf(
  context: Context,
  dealId: string,
  stage: Pick<Stage, 'asks'>,
): Promise<DealAsk[]> {
  if (!stage.asks?.length) return [];
  const [known] = await context.sequelize.query<Record<DealAsk, boolean>>(
    `SELECT d.amount_minor IS NOT NULL AS amount, d.expected_close IS NOT NULL AS "expectedClose", d.company_id IS NOT NULL AS company,
            EXISTS (SELECT 1 FROM deal_roles r WHERE r.deal_id = d.id AND r.role = 'decides') AS decider,
            EXISTS (SELECT 1 FROM deal_roles r WHERE r.deal_id = d.id AND r.role = 'pays') AS payer,
            EXISTS (SELECT 1 FROM deal_lines l WHERE l.deal_id = d.id) AS lines,
            EXISTS (SELECT 1 FROM tasks t WHERE t.deal_id = d.id AND t.done_at IS NULL) AS "nextMove"
       FROM deals d WHERE d.id = :dealId`,
    { replacements: { dealId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const there = Object.entries(known ?? {}).flatMap(([ask, is]) => (is ? [ask as DealAsk] : []));
  return notKnown(stage.asks, new Set(there));
}
