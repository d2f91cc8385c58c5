import type { DealDetail } from '@emporikon/contract/deals';
import type { DealRole } from '@emporikon/core/lifecycle/conversion';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Deal, DealRoleRow } from '../db/models/deals';
import { Person } from '../db/models/people';
import { invalid, notFound } from '../http/problems';

export const peopleOf = (context: Context, dealId: string): Promise<DealDetail['people']> =>
  context.sequelize.query<DealDetail['people'][number]>(
    `SELECT r.id AS "roleId", p.id, p.full_name AS name, p.job_title AS "jobTitle", r.role
       FROM deal_roles r JOIN people p ON p.id = r.person_id WHERE r.deal_id = :dealId
      ORDER BY array_position(ARRAY['decides', 'pays', 'influences', 'uses', 'gatekeeper'], r.role), p.full_name`,
    { replacements: { dealId }, type: QueryTypes.SELECT, transaction: context.tx },
  );

export interface Part {
  personId: string;
  role: DealRole;
}

const keyOf = (part: Part): string => `${part.personId}/${part.role}`;

/** Adds parts in a deal that are not there yet. @throws 422 for somebody who is not in the book */
export async function addParts(context: Context, dealId: string, parts: readonly Part[]): Promise<void> {
  const known = await DealRoleRow.findAll({ where: { dealId }, transaction: context.tx });
  const there = new Set(known.map(keyOf));
  const wanted = [...new Map(parts.map((part) => [keyOf(part), part])).values()].filter(
    (part) => !there.has(keyOf(part)),
  );
  const ids = [...new Set(wanted.map((part) => part.personId))];
  if ((await Person.count({ where: { id: ids }, transaction: context.tx })) !== ids.length)
    throw invalid('There is no such person.', { fields: { people: 'does not exist' } });
  for (const { personId, role } of wanted)
    await context.write.insert(DealRoleRow, { id: context.newId(), dealId, personId, role });
}

/** Sets who has a part in a deal, and which: those left out leave it. One person may have several roles. */
export async function setParts(
  context: Context,
  dealId: string,
  parts: readonly Part[],
): Promise<string | null> {
  const deal = await Deal.findByPk(dealId, { transaction: context.tx, lock: true });
  if (!deal) throw notFound('There is no such deal.');
  const wanted = new Set(parts.map(keyOf));
  const known = await DealRoleRow.findAll({ where: { dealId }, transaction: context.tx });
  for (const row of known) if (!wanted.has(keyOf(row))) await context.write.remove(row);
  await addParts(context, dealId, parts);
  return context.write.event('set deal people', `Changed who is on ${deal.title}`, requireActor(context).id);
}
