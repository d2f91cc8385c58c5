import type { Parsed, Reply } from '@emporikon/contract';
import { soldInWords } from '@emporikon/core/lifecycle/projects';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Project } from '../db/models/afterDeals';
import { Deal, DealRoleRow, Stage } from '../db/models/deals';
import { Task } from '../db/models/tasks';
import { linesOf } from '../deals/lines';
import { conflict, notFound } from '../http/problems';
import { linkEntry } from '../ledger/write';
import { makeProject, putOn } from './make';

async function loadDeal(context: Context, id: string, lock = false): Promise<Deal> {
  const deal = await Deal.findByPk(id, { transaction: context.tx, lock });
  if (!deal) throw notFound('There is no such deal.');
  return deal;
}

const openTasks = (context: Context, dealId: string): Promise<Task[]> =>
  Task.findAll({ where: { dealId, doneAt: null }, order: ['dueAt', 'id'], transaction: context.tx });

/** The entries that hold papers of a deal: files and quotes. */
async function paperIds(context: Context, dealId: string): Promise<string[]> {
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT DISTINCT n.id FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
      WHERE k.deal_id = :dealId AND (n.kind IN ('file', 'quote') OR EXISTS (SELECT 1 FROM files f WHERE f.entry_id = n.id))`,
    { replacements: { dealId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map(({ id }) => id);
}

const soldIn = async (context: Context, dealId: string): Promise<string> =>
  soldInWords(
    (await linesOf(context, dealId)).lines.map(({ name, quantity }) => ({
      name,
      quantity: Number(quantity),
    })),
  );

/** What a project would take over from a deal. */
export async function projectProposal(
  context: Context,
  dealId: string,
): Promise<Reply<'GET /api/deals/:id/project'>> {
  const deal = await loadDeal(context, dealId);
  const people = await context.sequelize.query<{ id: string; name: string }>(
    `SELECT DISTINCT p.id, p.full_name AS name FROM deal_roles r JOIN people p ON p.id = r.person_id WHERE r.deal_id = :dealId ORDER BY 2`,
    { replacements: { dealId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const projects = await Project.findAll({
    where: { dealId },
    order: ['createdAt'],
    transaction: context.tx,
  });
  return {
    title: deal.title,
    dueOn: deal.expectedClose,
    people,
    tasks: (await openTasks(context, dealId)).map(({ id, title }) => ({ id, name: title })),
    files: (await paperIds(context, dealId)).length,
    notes: await soldIn(context, dealId),
    projects: projects.map(({ id, title }) => ({ id, name: title })),
  };
}

/**
 * Makes a project of a won deal: who has a part in it, its open tasks, its files and quotes, and what was sold go along.
 * @throws 409 for a deal that is not won
 */
export async function projectFromDeal(
  context: Context,
  dealId: string,
  { take, ...given }: Parsed<'POST /api/deals/:id/project', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const deal = await loadDeal(context, dealId, true);
  const stage = await Stage.findByPk(deal.stageId, { transaction: context.tx });
  if (stage?.kind !== 'won')
    throw conflict('Only a won deal becomes a project. Move it to a won stage first.');
  const project = await makeProject(context, {
    ...given,
    title: given.title ?? deal.title,
    companyId: deal.companyId,
    dealId,
    ownerId: given.ownerId ?? deal.ownerId,
    notes: given.notes ?? (take.notes ? await soldIn(context, dealId) : ''),
  });
  if (take.people) {
    const roles = await DealRoleRow.findAll({ where: { dealId }, order: ['role'], transaction: context.tx });
    await putOn(
      context,
      project.id,
      [...new Set(roles.map(({ personId }) => personId))].map((personId) => ({ personId, role: '' })),
    );
  }
  if (take.tasks)
    for (const task of await openTasks(context, dealId))
      await context.write.update(task, { projectId: project.id });
  if (take.files)
    for (const entryId of await paperIds(context, dealId))
      await linkEntry(context, entryId, { projectId: project.id });
  const eventId = await context.write.event(
    'make project',
    `Made the project ${project.title}`,
    requireActor(context).id,
  );
  return { id: project.id, eventId };
}
