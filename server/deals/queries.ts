import type { DealDetail, DealRow, Pipeline } from '@emporikon/contract/deals';
import { daysInStage, sumDeals } from '@emporikon/core/lifecycle/deals';
import type { Context } from '../commands/context';
import { Deal, DealRoleRow, Stage } from '../db/models/deals';
import { Company, Person } from '../db/models/people';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';
import { turnsOfDeals } from '../ledger/queries';
import { nextMoves } from '../tasks/queries';

async function asRows(context: Context, deals: readonly Deal[]): Promise<DealRow[]> {
  const ids = deals.map((deal) => deal.id);
  const companies = new Map(
    (
      await Company.findAll({
        where: { id: deals.flatMap((deal) => deal.companyId ?? []) },
        transaction: context.tx,
      })
    ).map((one) => [one.id, one.name]),
  );
  const owners = new Map(
    (await User.findAll({ where: { id: deals.map((deal) => deal.ownerId) }, transaction: context.tx })).map(
      (one) => [one.id, one.name],
    ),
  );
  const moves = await nextMoves(context, 'deal_id', ids);
  const turns = await turnsOfDeals(context, ids);
  const now = context.now().toISOString();
  return deals.map((deal) => ({
    id: deal.id,
    version: deal.version,
    title: deal.title,
    company: deal.companyId ? { id: deal.companyId, name: companies.get(deal.companyId) ?? '' } : null,
    stageId: deal.stageId,
    stageSince: deal.stageSince.toISOString(),
    days: daysInStage(deal.stageSince.toISOString(), now),
    amountMinor: deal.amountMinor,
    currency: deal.currency,
    probability: deal.probability,
    probabilityByHand: deal.probabilityByHand,
    expectedClose: deal.expectedClose,
    owner: { id: deal.ownerId, name: owners.get(deal.ownerId) ?? '' },
    nextMove: moves.get(deal.id) ?? null,
    turn: turns.get(deal.id) ?? { turn: 'nobody', since: null, because: 'nothing said yet' },
  }));
}

const asStage = ({
  id,
  version,
  name,
  position,
  kind,
  probability,
  typicalDays,
}: Stage): Pipeline['stages'][number] => ({
  id,
  version,
  name,
  position,
  kind,
  probability,
  typicalDays,
  count: 0,
  sums: [],
});

/** The pipeline: every stage with its count and sums, and the deals in it. Lost deals and wins of past months stay out. */
export async function pipeline(
  context: Context,
  filter: { owner?: string; company?: string },
): Promise<Pipeline> {
  const stages = await Stage.findAll({ order: ['position'], transaction: context.tx });
  const kinds = new Map(stages.map((stage) => [stage.id, stage.kind]));
  const all = await Deal.findAll({
    where: {
      ...(filter.owner ? { ownerId: filter.owner } : {}),
      ...(filter.company ? { companyId: filter.company } : {}),
    },
    order: [['stageSince', 'DESC']],
    transaction: context.tx,
  });
  const month = context.now().toISOString().slice(0, 7);
  const shown = all.filter(
    (deal) =>
      kinds.get(deal.stageId) === 'open' ||
      (kinds.get(deal.stageId) === 'won' && deal.stageSince.toISOString().startsWith(month)),
  );
  const deals = await asRows(context, shown);
  const open = deals.filter((deal) => kinds.get(deal.stageId) === 'open');
  return {
    stages: stages.map((stage) => {
      const inside = deals.filter((deal) => deal.stageId === stage.id);
      return { ...asStage(stage), count: inside.length, sums: sumDeals(inside) };
    }),
    deals,
    open: open.length,
    sums: sumDeals(open),
  };
}

export async function dealRow(context: Context, id: string): Promise<DealRow> {
  const deal = await Deal.findByPk(id, { transaction: context.tx });
  const [row] = deal ? await asRows(context, [deal]) : [];
  if (!row) throw notFound('There is no such deal.');
  return row;
}

export async function dealDetail(context: Context, id: string): Promise<DealDetail> {
  const deal = await Deal.findByPk(id, { transaction: context.tx });
  const stage = deal && (await Stage.findByPk(deal.stageId, { transaction: context.tx }));
  if (!deal || !stage) throw notFound('There is no such deal.');
  const roles = await DealRoleRow.findAll({ where: { dealId: id }, transaction: context.tx });
  const people = new Map(
    (
      await Person.findAll({ where: { id: roles.map((role) => role.personId) }, transaction: context.tx })
    ).map((one) => [one.id, one]),
  );
  return {
    ...(await dealRow(context, id)),
    stage: asStage(stage),
    leadId: deal.leadId,
    people: roles.map((role) => ({
      id: role.personId,
      name: people.get(role.personId)?.fullName ?? '',
      jobTitle: people.get(role.personId)?.jobTitle ?? null,
      role: role.role,
    })),
  };
}
