import type { Handover as HandoverView } from '@emporikon/contract/tasks';
import { DateTime } from 'luxon';
import { literal, Op, QueryTypes } from 'sequelize';
import { z } from 'zod';
import { isOwnAppointment } from '../caldav/appointments';
import { requireColleague } from '../commands/colleague';
import { requireActor, runInTransaction, type Context } from '../commands/context';
import { Lead } from '../db/models/deals';
import { Handover, Task } from '../db/models/tasks';
import { conflict, forbidden, invalid, notFound } from '../http/problems';
import { defineJob } from '../jobs/job';

const OPEN_LEAD = "l.status NOT IN ('converted', 'dropped')";
const SHOWN = 20;

/** Whose work somebody may hand over: their own, and managers and admins that of all. */
function requireSay(context: Context, fromId: string): void {
  const { id, role } = requireActor(context);
  if (id !== fromId && role === 'rep') throw forbidden('You can only hand over your own work.');
}

/** What of somebody's work is open, as far as whoever asks may see it. */
export async function previewHandover(
  context: Context,
  fromId: string,
): Promise<{ tasks: number; leads: number; first: { kind: 'task' | 'lead'; id: string; name: string }[] }> {
  requireSay(context, fromId);
  const [row] = await context.sequelize.query<{
    tasks: number;
    leads: number;
    first: { kind: 'task' | 'lead'; id: string; name: string }[];
  }>(
    `WITH t AS (SELECT id, title, due_at FROM tasks WHERE assignee_id = $from AND done_at IS NULL AND NOT ${isOwnAppointment('tasks')}),
          l AS (SELECT l.id, l.title, l.created_at FROM leads l WHERE l.owner_id = $from AND ${OPEN_LEAD})
     SELECT (SELECT count(*)::int FROM t) AS tasks, (SELECT count(*)::int FROM l) AS leads,
            coalesce((SELECT json_agg(json_build_object('kind', 'task', 'id', id, 'name', title)) FROM (SELECT * FROM t ORDER BY due_at, id LIMIT ${SHOWN}) t), '[]')::jsonb
            || coalesce((SELECT json_agg(json_build_object('kind', 'lead', 'id', id, 'name', title)) FROM (SELECT * FROM l ORDER BY created_at, id LIMIT ${SHOWN}) l), '[]')::jsonb AS first`,
    { bind: { from: fromId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row ?? { tasks: 0, leads: 0, first: [] };
}

/** Hand-overs that have not come back, or one of them. */
export async function listHandovers(context: Context, id: string | null = null): Promise<HandoverView[]> {
  const rows = await context.sequelize.query<{
    id: string;
    from_id: string;
    from_name: string;
    to_id: string;
    to_name: string;
    giver: string;
    given_at: Date;
    back_on: string | null;
    returned_at: Date | null;
    tasks: number;
    leads: number;
  }>(
    `SELECT h.id, f.id AS from_id, f.name AS from_name, t.id AS to_id, t.name AS to_name, g.name AS giver, h.given_at, h.back_on::text, h.returned_at,
            (SELECT count(i.task_id)::int FROM handover_items i WHERE i.handover_id = h.id) AS tasks,
            (SELECT count(i.lead_id)::int FROM handover_items i WHERE i.handover_id = h.id) AS leads
       FROM handovers h JOIN users f ON f.id = h.from_id JOIN users t ON t.id = h.to_id JOIN users g ON g.id = h.given_by
      WHERE CASE WHEN $id::uuid IS NULL THEN h.returned_at IS NULL ELSE h.id = $id END ORDER BY h.given_at DESC LIMIT 100`,
    { bind: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => ({
    id: row.id,
    from: { id: row.from_id, name: row.from_name },
    to: { id: row.to_id, name: row.to_name },
    givenBy: row.giver,
    givenAt: row.given_at.toISOString(),
    backOn: row.back_on,
    returnedAt: row.returned_at?.toISOString() ?? null,
    tasks: row.tasks,
    leads: row.leads,
  }));
}

const viewOf = async (context: Context, id: string): Promise<HandoverView> => {
  const [handover] = await listHandovers(context, id);
  if (!handover) throw notFound('There is no such hand-over.');
  return handover;
};

interface Wanted {
  fromId: string;
  toId: string;
  backOn?: string | null | undefined;
  tasks: boolean;
  leads: boolean;
}

/** Hands over what is open of somebody's work, in one step with one undo. @throws 422, 403, and 409 where there is nothing */
export async function handOver(
  context: Context,
  wanted: Wanted,
): Promise<{ handover: HandoverView; eventId: string | null }> {
  const actor = requireActor(context);
  requireSay(context, wanted.fromId);
  await requireColleague(context, wanted.toId);
  if (wanted.toId === wanted.fromId)
    throw invalid('Work is handed over to somebody else.', { fields: { toId: 'is the same colleague' } });
  const today = DateTime.fromJSDate(context.now(), { zone: actor.timeZone }).toISODate() ?? '';
  if (wanted.backOn && wanted.backOn <= today)
    throw invalid('The day on which the work comes back is in the past.', {
      fields: { backOn: 'is not after today' },
    });
  const tx = { transaction: context.tx, lock: true } as const;
  const tasks = wanted.tasks
    ? await Task.findAll({
        where: {
          [Op.and]: [
            { assigneeId: wanted.fromId, doneAt: null },
            literal(`NOT ${isOwnAppointment('tasks')}`),
          ],
        },
        ...tx,
      })
    : [];
  const leads = wanted.leads
    ? (await Lead.findAll({ where: { ownerId: wanted.fromId }, ...tx })).filter(
        ({ status }) => status !== 'converted' && status !== 'dropped',
      )
    : [];
  if (!tasks.length && !leads.length) throw conflict('There is nothing open to hand over.');
  const { id } = await context.write.insert(Handover, {
    id: context.newId(),
    fromId: wanted.fromId,
    toId: wanted.toId,
    givenBy: actor.id,
    givenAt: context.now(),
    backOn: wanted.backOn ?? null,
  });
  for (const task of tasks) await context.write.update(task, { assigneeId: wanted.toId });
  for (const lead of leads)
    await context.write.update(lead, { ownerId: wanted.toId, updatedAt: context.now() });
  await context.sequelize.query(
    `INSERT INTO handover_items (handover_id, task_id, lead_id)
     SELECT $id::uuid, t, NULL FROM unnest($tasks::uuid[]) t UNION ALL SELECT $id::uuid, NULL, l FROM unnest($leads::uuid[]) l`,
    {
      bind: { id, tasks: tasks.map((one) => one.id), leads: leads.map((one) => one.id) },
      transaction: context.tx,
    },
  );
  const handover = await viewOf(context, id);
  const eventId = await context.write.event(
    'hand over',
    `Handed over the work of ${handover.from.name} to ${handover.to.name}`,
    actor.id,
  );
  return { handover, eventId };
}

/** What was handed over and still lies with whoever took it goes back; what was passed on or done meanwhile stays. */
export async function returnHandover(context: Context, id: string): Promise<string | null> {
  const handover = await Handover.findByPk(id, { transaction: context.tx, lock: true });
  if (!handover) throw notFound('There is no such hand-over.');
  if (
    context.actor &&
    context.actor.role === 'rep' &&
    ![handover.fromId, handover.toId].includes(context.actor.id)
  )
    throw forbidden('This work was not handed over by or to you.');
  if (handover.returnedAt) throw conflict('This work came back already.');
  const ids = await context.sequelize.query<{ task_id: string | null; lead_id: string | null }>(
    'SELECT task_id, lead_id FROM handover_items WHERE handover_id = $id',
    { bind: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const { toId, fromId } = handover;
  const tx = { transaction: context.tx, lock: true } as const;
  const tasks = await Task.findAll({
    where: { id: ids.flatMap(({ task_id }) => task_id ?? []), assigneeId: toId, doneAt: null },
    ...tx,
  });
  const leads = await Lead.findAll({
    where: { id: ids.flatMap(({ lead_id }) => lead_id ?? []), ownerId: toId },
    ...tx,
  });
  await context.write.update(handover, { returnedAt: context.now() });
  for (const task of tasks) await context.write.update(task, { assigneeId: fromId });
  for (const lead of leads)
    if (lead.status !== 'converted' && lead.status !== 'dropped')
      await context.write.update(lead, { ownerId: fromId, updatedAt: context.now() });
  return context.write.event(
    'return work',
    'Gave back the work that was handed over',
    context.actor?.id ?? null,
  );
}

/** @returns the hand-over as it is afterwards */
export async function giveBack(
  context: Context,
  id: string,
): Promise<{ handover: HandoverView; eventId: string | null }> {
  const eventId = await returnHandover(context, id);
  return { eventId, handover: await viewOf(context, id) };
}

/** Work comes back by itself on its day, on the clock of whoever was away. */
export const returnJob = defineJob({
  name: 'returnHandovers',
  lane: 'short',
  input: z.unknown(),
  cron: '*/10 * * * *',
  async run(tools) {
    const due = await tools.sequelize.query<{ id: string }>(
      `SELECT h.id FROM handovers h JOIN users u ON u.id = h.from_id
        WHERE h.returned_at IS NULL AND h.back_on <= ($now::timestamptz AT TIME ZONE u.time_zone)::date`,
      { bind: { now: tools.now() }, type: QueryTypes.SELECT },
    );
    for (const { id } of due)
      await runInTransaction(tools, null, async (context) => {
        const handover = await Handover.findByPk(id, { transaction: context.tx, lock: true });
        if (handover && !handover.returnedAt) await returnHandover(context, id);
      });
  },
});
