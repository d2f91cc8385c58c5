import type { Team } from '@emporikon/contract/visibility';
import { requireActor, type Context } from '../commands/context';
import { User } from '../db/models/users';
import { TeamRow } from '../db/models/visibility';
import { conflict, invalid, notFound } from '../http/problems';

export async function listTeams(context: Context): Promise<Team[]> {
  const teams = await TeamRow.findAll({ order: ['name'], transaction: context.tx });
  const users = await User.findAll({ where: { active: true }, order: ['name'], transaction: context.tx });
  const named = (which: (user: User) => boolean) => users.filter(which).map(({ id, name }) => ({ id, name }));
  return teams.map(({ id, version, name, managers }) => ({
    id,
    version: version ?? 1,
    name,
    managers: named((user) => managers.includes(user.id)),
    members: named((user) => user.team === name),
  }));
}

async function checkManagers(context: Context, ids: readonly string[]): Promise<string[]> {
  const wanted = [...new Set(ids)].sort();
  const there = await User.count({ where: { id: wanted, active: true }, transaction: context.tx });
  if (there !== wanted.length)
    throw invalid('Nothing was saved: choose colleagues who have an account.', {
      fields: { managerIds: 'names somebody who has no account' },
    });
  return wanted;
}

async function mustBeFree(context: Context, name: string): Promise<void> {
  if (await TeamRow.findOne({ where: { name }, transaction: context.tx }))
    throw conflict('There is a team with this name already. Nothing was saved.', {
      fields: { name: 'is taken' },
    });
}

/** Makes the team that somebody is put into, where there is none of this name yet. */
export async function ensureTeam(context: Context, name: string | undefined): Promise<void> {
  if (name && !(await TeamRow.findOne({ where: { name }, transaction: context.tx })))
    await context.write.insert(TeamRow, { id: context.newId(), name, managers: [] });
}

/** @throws 409 for a name that is taken, 422 for a manager without an account */
export async function addTeam(
  context: Context,
  { name, managerIds }: { name: string; managerIds: readonly string[] },
): Promise<{ id: string; eventId: string | null }> {
  await mustBeFree(context, name);
  const team = await context.write.insert(TeamRow, {
    id: context.newId(),
    name,
    managers: await checkManagers(context, managerIds),
  });
  const eventId = await context.write.event('add team', `Added the team ${name}`, requireActor(context).id);
  return { id: team.id, eventId };
}

/** A new name goes along to all who are in the team. @throws as `addTeam`, and 404, and 409 for a stale version */
export async function changeTeam(
  context: Context,
  id: string,
  { version, name, managerIds }: { version: number; name?: string; managerIds?: readonly string[] },
): Promise<string | null> {
  const team = await TeamRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!team) throw notFound('There is no such team.');
  const before = team.name;
  const isRenamed = name !== undefined && name !== before;
  if (isRenamed) await mustBeFree(context, name);
  await context.write.update(
    team,
    {
      ...(isRenamed ? { name } : {}),
      ...(managerIds ? { managers: await checkManagers(context, managerIds) } : {}),
    },
    version,
  );
  if (isRenamed)
    for (const user of await User.findAll({ where: { team: before }, transaction: context.tx, lock: true }))
      await context.write.update(user, { team: name });
  return context.write.event('change team', `Changed the team ${team.name}`, requireActor(context).id);
}
