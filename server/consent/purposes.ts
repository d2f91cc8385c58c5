import type { In, Parsed } from '@emporikon/contract';
import type { Purpose as PurposeView } from '@emporikon/contract/consent';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Purpose, Topic } from '../db/models/consent';
import { conflict, invalid, notFound, stale } from '../http/problems';
import { currentPurposes, currentTopics } from './statements';

const MOST_PURPOSES = 50;
const MOST_TOPICS = 200;
const COUNT_UP_TO = 1001;
type Done = { eventId: string | null };

/** How many agreed to each purpose and topic, counted as far as a list says. */
async function agreedTo({ sequelize, tx }: Context, ids: readonly string[]): Promise<Map<string, number>> {
  const rows = await sequelize.query<{ id: string; n: number }>(
    `SELECT w.id, (SELECT count(*)::int FROM (
         SELECT 1 FROM consents c
          WHERE coalesce(c.topic_id, c.purpose_id) = w.id AND c.state = 'agreed' AND NOT EXISTS (
            SELECT 1 FROM consents l WHERE l.person_id = c.person_id AND l.purpose_id = c.purpose_id
               AND l.topic_id IS NOT DISTINCT FROM c.topic_id AND l.state <> 'unconfirmed' AND (l.at, l.id) > (c.at, c.id))
          LIMIT $most) one) AS n
       FROM unnest($ids::uuid[]) w(id)`,
    { bind: { ids: [...ids], most: COUNT_UP_TO }, type: QueryTypes.SELECT, transaction: tx },
  );
  return new Map(rows.map(({ id, n }) => [id, n]));
}

/** The purposes that are offered, with their topics. */
export async function listPurposes(context: Context): Promise<{ items: PurposeView[] }> {
  const purposes = await currentPurposes(context);
  const topics = await currentTopics(context);
  const agreed = await agreedTo(
    context,
    [...purposes, ...topics].map(({ id }) => id),
  );
  return {
    items: purposes.map((purpose) => ({
      id: purpose.id,
      version: purpose.version,
      name: purpose.name,
      words: purpose.words,
      isDefault: purpose.isDefault,
      translations: purpose.translations,
      kind: purpose.kind,
      agreed: agreed.get(purpose.id) ?? 0,
      topics: topics
        .filter(({ purposeId }) => purposeId === purpose.id)
        .map(({ id, version, purposeId, name, words, byArea, translations }) => ({
          ...{ id, version, purposeId, name, words, byArea, translations },
          agreed: agreed.get(id) ?? 0,
        })),
    })),
  };
}

interface Called {
  id: string;
  name: string;
  position: number;
}

/** @throws 409 where another one of them has the name */
function requireFreeName(all: readonly Called[], name: string | undefined, what: string, but?: string): void {
  if (all.some((one) => one.id !== but && one.name.toLowerCase() === name?.toLowerCase()))
    throw conflict(`There is a ${what} of this name already. Nothing was saved.`, {
      fields: { name: 'is taken' },
    });
}
const nextPosition = (all: readonly Called[]): number =>
  Math.max(-1, ...all.map(({ position }) => position)) + 1;
const topicsOf = (purposeId: string, { tx }: Context): Promise<Topic[]> =>
  Topic.findAll({ where: { purposeId, retiredAt: null }, transaction: tx });

export async function addPurpose(
  context: Context,
  { name, words = '', isDefault = false, translations = {} }: Parsed<'POST /api/purposes', 'body'>,
): Promise<Done & { id: string }> {
  const current = await currentPurposes(context);
  requireFreeName(current, name, 'purpose');
  if (current.length >= MOST_PURPOSES) throw conflict(`There can be ${MOST_PURPOSES} purposes at most.`);
  const { id } = await context.write.insert(Purpose, {
    id: context.newId(),
    ...{ name, words, isDefault, translations },
    position: nextPosition(current),
  });
  const eventId = await context.write.event(
    'add purpose',
    `Added the purpose ${name}`,
    requireActor(context).id,
  );
  return { id, eventId };
}

async function offeredPurpose({ tx }: Context, id: string): Promise<Purpose> {
  const purpose = await Purpose.findOne({ where: { id, retiredAt: null }, transaction: tx, lock: true });
  if (!purpose) throw notFound('There is no such purpose.');
  return purpose;
}

async function offeredTopic({ tx }: Context, id: string): Promise<Topic> {
  const topic = await Topic.findOne({ where: { id, retiredAt: null }, transaction: tx, lock: true });
  if (!topic) throw notFound('There is no such topic.');
  return topic;
}

export async function changePurpose(
  context: Context,
  { id }: In<'PATCH /api/purposes/:id', 'params'>,
  { version, ...changes }: Parsed<'PATCH /api/purposes/:id', 'body'>,
): Promise<Done> {
  const purpose = await offeredPurpose(context, id);
  if (purpose.version !== version) throw stale({ version: purpose.version, name: purpose.name });
  requireFreeName(await currentPurposes(context), changes.name, 'purpose', id);
  await context.write.update(purpose, changes);
  return {
    eventId: await context.write.event(
      'change purpose',
      `Changed the purpose ${purpose.name}`,
      requireActor(context).id,
    ),
  };
}

/** @throws 409 for the last purpose, as nobody could be written to any more */
export async function retirePurpose(
  context: Context,
  { id }: In<'DELETE /api/purposes/:id', 'params'>,
): Promise<Done> {
  const purpose = await offeredPurpose(context, id);
  if (purpose.kind === 'tracking')
    throw conflict('People must always be able to say whether opens and clicks are recorded.');
  if ((await currentPurposes(context)).filter(({ kind }) => kind === 'mail').length === 1)
    throw conflict('This is the last purpose. Add another one first.');
  await context.write.update(purpose, { retiredAt: context.now() });
  return {
    eventId: await context.write.event(
      'retire purpose',
      `Retired the purpose ${purpose.name}`,
      requireActor(context).id,
    ),
  };
}

export async function addTopic(
  context: Context,
  { purposeId, name, words = '', byArea = false, translations = {} }: Parsed<'POST /api/topics', 'body'>,
): Promise<Done & { id: string }> {
  const purpose = await Purpose.findOne({
    where: { id: purposeId, retiredAt: null },
    transaction: context.tx,
    lock: true,
  });
  if (!purpose) throw invalid('There is no such purpose.', { fields: { purposeId: 'does not exist' } });
  const topics = await topicsOf(purposeId, context);
  requireFreeName(topics, name, 'topic');
  if (topics.length >= MOST_TOPICS) throw conflict(`There can be ${MOST_TOPICS} topics at most.`);
  const { id } = await context.write.insert(Topic, {
    id: context.newId(),
    ...{ purposeId, name, words, byArea, translations },
    position: nextPosition(topics),
  });
  const eventId = await context.write.event('add topic', `Added the topic ${name}`, requireActor(context).id);
  return { id, eventId };
}

export async function changeTopic(
  context: Context,
  { id }: In<'PATCH /api/topics/:id', 'params'>,
  { version, ...changes }: Parsed<'PATCH /api/topics/:id', 'body'>,
): Promise<Done> {
  const topic = await offeredTopic(context, id);
  if (topic.version !== version) throw stale({ version: topic.version, name: topic.name });
  requireFreeName(await topicsOf(topic.purposeId, context), changes.name, 'topic', id);
  await context.write.update(topic, changes);
  return {
    eventId: await context.write.event(
      'change topic',
      `Changed the topic ${topic.name}`,
      requireActor(context).id,
    ),
  };
}

export async function retireTopic(
  context: Context,
  { id }: In<'DELETE /api/topics/:id', 'params'>,
): Promise<Done> {
  const topic = await offeredTopic(context, id);
  await context.write.update(topic, { retiredAt: context.now() });
  return {
    eventId: await context.write.event(
      'retire topic',
      `Retired the topic ${topic.name}`,
      requireActor(context).id,
    ),
  };
}
