import type { Belongings } from '@emporikon/contract/leaving';
import { BULK_KINDS } from '@emporikon/core/bulk/types';
import { Op } from 'sequelize';
import { startOnAll, type Started } from '../bulk/startOnAll';
import { requireActor, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { Case, Project } from '../db/models/afterDeals';
import { Form } from '../db/models/forms';
import { OwnerRuleRow } from '../db/models/qualifying';
import { Task } from '../db/models/tasks';
import { User } from '../db/models/users';
import { ViewRow } from '../db/models/views';
import { conflict, invalid, notFound } from '../http/problems';
import { switchOff } from '../session/users';
import { handOver } from '../tasks/handover';
import { countBelongings, RECORDS } from './belongings';

/** People, companies, leads and deals change hands in the background, each kind as a change of many with its undo. */
async function startChanges(context: Context, fromId: string, toId: string): Promise<Started[]> {
  const started: Started[] = [];
  for (const kind of BULK_KINDS)
    started.push(
      ...(await startOnAll(context, kind, [{ do: 'owner', to: toId }], RECORDS[kind], { id: fromId })),
    );
  return started;
}

/** A view takes its name along; where the new owner has one of that name, it says whose it was. */
async function giveViews(context: Context, from: User, toId: string): Promise<void> {
  const tx = { transaction: context.tx };
  const views = await ViewRow.findAll({ where: { ownerId: from.id, shared: { [Op.ne]: 'me' } }, ...tx });
  const taken = await ViewRow.findAll({ where: { ownerId: toId }, ...tx });
  for (const view of views) {
    const isTaken = taken.some(
      ({ kind, name }) => kind === view.kind && name.toLowerCase() === view.name.toLowerCase(),
    );
    const name = isTaken ? `${view.name} (${from.name})` : view.name;
    await context.write.update(view, { ownerId: toId, name });
  }
}

/** What is no record of its own kind of change: projects, cases, forms, rules, views, and whom delegated work is reported to. */
async function giveRest(context: Context, from: User, to: User): Promise<void> {
  const tx = { transaction: context.tx };
  const owned = { ownerId: from.id };
  const given = [
    ...(await Project.findAll({ where: { ...owned, closedAt: null }, ...tx })),
    ...(await Case.findAll({ where: { ...owned, solvedAt: null }, ...tx })),
    ...(await Form.findAll({ where: owned, ...tx })),
  ];
  for (const row of given) await context.write.update(row as Project, { ownerId: to.id });
  for (const rule of await OwnerRuleRow.findAll({ where: { owners: { [Op.contains]: [from.id] } }, ...tx })) {
    const owners = [...new Set(rule.owners.map((id) => (id === from.id ? to.id : id)))];
    await context.write.update(rule, { owners });
  }
  await giveViews(context, from, to.id);
  const delegated = await Task.findAll({
    where: { givenBy: from.id, doneAt: null, assigneeId: { [Op.notIn]: [from.id, to.id] } },
    ...tx,
  });
  for (const task of delegated) await context.write.update(task, { givenBy: to.id });
  await context.write.event(
    'hand over everything',
    `Handed over what ${from.name} looked after to ${to.name}`,
    requireActor(context).id,
  );
}

async function requireHeir(context: Context, from: User, toId: string | null): Promise<User> {
  if (!toId)
    throw invalid(`${from.name} still looks after records or work. Choose who takes over.`, {
      fields: { toId: 'is missing' },
    });
  const to = await User.findOne({ where: { id: toId, active: true }, transaction: context.tx });
  if (!to || to.id === from.id)
    throw invalid('Choose a colleague whose account is active.', {
      fields: { toId: 'is no such colleague' },
    });
  return to;
}

/**
 * Hands over everything somebody looks after, hidden or not, and switches their account off.
 * @throws 409 for an account that is off already, the only admin, or a stale version; 422 where nobody is named to take over
 */
export async function leave(
  context: Context,
  id: string,
  { version, toId }: { version: number; toId: string | null },
): Promise<{ user: User; changes: Started[] }> {
  const from = await User.findByPk(id, { transaction: context.tx, lock: true });
  if (!from) throw notFound('There is no such account.');
  if (!from.active) throw conflict(`The account of ${from.name} is off already.`);
  const changes = await pastSight(context, async () => {
    const left: Belongings = await countBelongings(context, id);
    // What they delegated is reported to somebody else, where somebody is named; alone it keeps nobody from leaving.
    if (!toId && !Object.values(left).some(Boolean)) return [];
    const to = await requireHeir(context, from, toId);
    const started = await startChanges(context, id, to.id);
    if (left.tasks)
      await handOver(context, { fromId: id, toId: to.id, backOn: null, tasks: true, leads: false });
    await giveRest(context, from, to);
    return started;
  });
  await switchOff(context, from, version);
  await context.write.event(
    'change user',
    `Switched off the account of ${from.name}`,
    requireActor(context).id,
  );
  return { user: from, changes };
}
