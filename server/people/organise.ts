import { requireColleague } from '../commands/colleague';
import type { Context } from '../commands/context';
import { List, ListMember } from '../db/models/fields';
import type { Person } from '../db/models/people';
import { invalid } from '../http/problems';

const tidyTags = (tags: readonly string[]): string[] => {
  const seen = new Set<string>();
  return tags
    .map((tag) => tag.trim().replace(/\s+/g, ' '))
    .filter((tag) => tag && !seen.has(tag.toLowerCase()) && seen.add(tag.toLowerCase()));
};

/** The tags somebody has and the ones that come to them, each once however it is written. */
export const withTags = (has: readonly string[], more: readonly string[]): string[] =>
  tidyTags([...has, ...more]);

/** Puts somebody where they belong: an owner, tags, a list. What is left out stays as it is. */
export async function organise(
  context: Context,
  person: Person,
  given: {
    ownerId?: string | null | undefined;
    tags?: readonly string[] | undefined;
    listId?: string | null | undefined;
  },
): Promise<void> {
  const patch: { ownerId?: string; tags?: string[] } = {};
  if (given.ownerId && given.ownerId !== person.ownerId)
    patch.ownerId = await requireColleague(context, given.ownerId);
  if (given.tags?.length) {
    const tags = withTags(person.tags ?? [], given.tags);
    if (tags.length !== (person.tags ?? []).length) patch.tags = tags;
  }
  if (Object.keys(patch).length) await context.write.update(person, { ...patch, updatedAt: context.now() });
  if (given.listId) await putOnList(context, person.id, given.listId);
}

async function putOnList(context: Context, personId: string, listId: string): Promise<void> {
  if (!(await List.findByPk(listId, { transaction: context.tx })))
    throw invalid('There is no such list.', { fields: { listId: 'does not exist' } });
  if (await ListMember.findOne({ where: { listId, personId }, transaction: context.tx })) return;
  await context.write.insert(ListMember, { id: context.newId(), listId, personId, createdAt: context.now() });
}

/** Adds to what stays true of somebody; what stands there already is not said twice. */
export async function addBackground(context: Context, person: Person, text: string): Promise<void> {
  const more = text.trim();
  const has = person.background ?? '';
  if (!more || has.toLowerCase().includes(more.toLowerCase())) return;
  await context.write.update(person, {
    background: has ? `${has}\n${more}` : more,
    updatedAt: context.now(),
  });
}
