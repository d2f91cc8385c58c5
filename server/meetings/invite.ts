import {
  planInvitations,
  type InvitationPlan,
  type MeetingFacts,
} from '@emporikon/core/calendar/invitations';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { After } from '../commands/types';
import type { Change } from '../db/models/ledger';
import { Invitation } from '../db/models/meetings';
import { Task } from '../db/models/tasks';
import { queueEffect } from '../jobs/effect';
import { factsOf } from './facts';
import { invitationMail } from './mail';
import { peopleOf } from './people';

/** What is taken back within this time is not mailed at all. */
const GRACE_MS = 15_000;
const TOLD_OF = [
  'title',
  'dueAt',
  'endsAt',
  'allDay',
  'place',
  'isInviting',
  'doneAt',
  'assigneeId',
] as const;

/** The meetings whose invitations a change may have to do with. */
function touched(changes: readonly Change[]): string[] {
  const ids = changes.flatMap(({ table, id, before, after }) => {
    if (table === 'task_people') {
      // An answer changes nothing that anybody is told.
      const row = before && after ? null : (before ?? after);
      return typeof row?.taskId === 'string' ? [row.taskId] : [];
    }
    if (table !== 'tasks' || !(before?.isInviting || after?.isInviting)) return [];
    return !before || !after || TOLD_OF.some((key) => before[key] !== after[key]) ? [id] : [];
  });
  return [...new Set(ids)];
}

/** Writes what is told and asks for its mails. One that was never sent is not called off, it is just not sent. */
async function send(
  context: Context,
  taskId: string,
  plan: InvitationPlan,
  facts: MeetingFacts | null,
  organizerId: string,
  invited: readonly Invitation[],
): Promise<void> {
  const { tx } = context;
  const runAt = new Date(context.now().getTime() + GRACE_MS);
  const people = await peopleOf(context, taskId);
  for (const email of plan.callOff) {
    const row = invited.find((one) => one.email === email);
    if (!row?.sentAt) {
      await row?.destroy({ transaction: tx });
      continue;
    }
    const told = row.told;
    await row.update({ told: null, sequence: plan.sequence }, { transaction: tx });
    if (told)
      await queueEffect(
        context,
        invitationMail,
        {
          taskId,
          email,
          name: row.name,
          organizerId: row.organizerId,
          sequence: plan.sequence,
          facts: told,
          isOff: true,
        },
        { table: 'tasks', id: taskId },
        runAt,
      );
  }
  for (const email of plan.invite) {
    const person = people.find((one) => one.email === email);
    if (!facts || !person) continue;
    const said = { told: facts, sequence: plan.sequence, organizerId, name: person.name };
    const row = invited.find((one) => one.email === email);
    if (row) await row.update(said, { transaction: tx });
    else await Invitation.create({ id: context.newId(), taskId, email, ...said }, { transaction: tx });
    if (plan.isMoved && person.answer !== 'waiting')
      await context.write.update(person, { answer: 'waiting', answeredAt: null });
    await queueEffect(
      context,
      invitationMail,
      { taskId, email, name: person.name, organizerId, sequence: plan.sequence, facts, isOff: false },
      { table: 'tasks', id: taskId },
      runAt,
    );
  }
}

async function inviteTo(context: Context, taskId: string): Promise<void> {
  // Two changes of one meeting are told one after the other.
  await context.sequelize.query("SELECT pg_advisory_xact_lock(hashtext('invitations'), hashtext(:taskId))", {
    replacements: { taskId },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const task = await Task.findByPk(taskId, { transaction: context.tx });
  // What was held is over, and nothing more is told of it.
  if (task?.doneAt) return;
  const invited = await Invitation.findAll({ where: { taskId }, transaction: context.tx });
  const facts = factsOf(task);
  const people = task ? await peopleOf(context, taskId) : [];
  const addresses = people.map(({ email }) => email).filter(Boolean);
  const sequence = invited.length ? Math.max(...invited.map((one) => one.sequence)) : null;
  const plan = planInvitations(facts, addresses, invited, sequence, context.now().toISOString());
  if (!plan) return;
  await send(context, taskId, plan, facts, task?.assigneeId ?? invited[0]?.organizerId ?? '', invited);
}

/** Mails invitations, changes and cancellations once a meeting or who comes to it changed. */
export const inviteAfter: After = {
  name: 'invite',
  concerns: ({ changes }) => touched(changes).length > 0,
  async follow(context, event) {
    for (const taskId of touched(event.changes)) await inviteTo(context, taskId);
    await context.write.event(
      'ask again',
      'A meeting was moved: those who had answered are asked again',
      null,
    );
  },
};
