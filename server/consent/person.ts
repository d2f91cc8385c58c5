import type { In, Parsed } from '@emporikon/contract';
import type { PersonConsent, Statement } from '@emporikon/contract/consent';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Topic } from '../db/models/consent';
import { ContactPoint, Person } from '../db/models/people';
import { conflict, invalid, notFound } from '../http/problems';
import { signLink } from './links';
import { requestLinkMail } from './linkMail';
import { offeredAreas } from './areas';
import { currentPurposes, currentTopics, heldBy, keepStatements } from './statements';

const MOST_STATEMENTS = 200;

/** Statements with the names of what they are about, newest first. `which` is SQL over `c`, the statement. */
export const statements = (
  { sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>,
  which: string,
  bind: Record<string, unknown>,
): Promise<(Omit<Statement, 'at'> & { at: Date; personId: string })[]> =>
  sequelize.query(
    `SELECT c.id, c.person_id AS "personId", c.at, p.name AS purpose, t.name AS topic, c.state, c.how, c.words, c.source, c.address, u.name AS by
       FROM consents c JOIN purposes p ON p.id = c.purpose_id LEFT JOIN topics t ON t.id = c.topic_id LEFT JOIN users u ON u.id = c.actor_id
      WHERE ${which} ORDER BY c.at DESC, c.id DESC LIMIT $most`,
    { bind: { most: MOST_STATEMENTS, ...bind }, type: QueryTypes.SELECT, transaction: tx },
  );

async function requirePerson({ tx }: Context, id: string): Promise<Person> {
  const person = await Person.findOne({ where: { id, erasedAt: null }, transaction: tx });
  if (!person) throw notFound('There is no such person.');
  return person;
}

/** What somebody agreed to, how and when, and which of their addresses work. */
export async function personConsent(
  context: Context,
  { id }: In<'GET /api/people/:id/consent', 'params'>,
): Promise<PersonConsent> {
  await requirePerson(context, id);
  const held = await heldBy(context, id);
  const holding = (purposeId: string, topicId: string | null) => {
    const found = held.find((one) => one.purposeId === purposeId && one.topicId === topicId);
    return {
      state: found?.state ?? null,
      at: found?.at.toISOString() ?? null,
      how: found?.how ?? null,
      places: found?.places ?? null,
    };
  };
  const topics = await currentTopics(context);
  const addresses = await ContactPoint.findAll({
    where: { personId: id, kind: 'email' },
    order: ['createdAt', 'id'],
    transaction: context.tx,
  });
  const token = await signLink(context, { personId: id, purposeId: null, topicId: null });
  return {
    purposes: (await currentPurposes(context)).map((purpose) => ({
      id: purpose.id,
      name: purpose.name,
      ...{ ...holding(purpose.id, null), places: undefined },
      topics: topics
        .filter(({ purposeId }) => purposeId === purpose.id)
        .map((topic) => ({
          ...{ id: topic.id, name: topic.name, byArea: topic.byArea },
          ...holding(purpose.id, topic.id),
        })),
    })),
    addresses: addresses.map((one) => ({
      ...{ contactId: one.id, version: one.version, address: one.value },
      ...{ reach: one.reach ?? 'good', at: one.reachAt?.toISOString() ?? null, words: one.reachWords ?? '' },
    })),
    history: (await statements(context, 'c.person_id = $id', { id })).map(({ at, ...one }) => ({
      ...one,
      at: at.toISOString(),
    })),
    link: `${context.house.publicUrl}/u/${token}`,
  };
}

/** Checks that what a statement is about is offered, and that the areas exist. @throws 422 naming what is not */
async function requireOffered(
  context: Context,
  { purposeId, topicId, places }: Parsed<'POST /api/people/:id/consent', 'body'>,
): Promise<string> {
  const purpose = (await currentPurposes(context)).find(({ id }) => id === purposeId);
  if (!purpose) throw invalid('There is no such purpose.', { fields: { purposeId: 'does not exist' } });
  if (!topicId) {
    if (places) throw invalid('Places belong to a topic.', { fields: { places: 'takes a topic' } });
    return purpose.name;
  }
  const topic = await Topic.findOne({
    where: { id: topicId, purposeId, retiredAt: null },
    transaction: context.tx,
  });
  if (!topic) throw invalid('There is no such topic.', { fields: { topicId: 'does not exist' } });
  const known = new Set((await offeredAreas(context)).map(({ id }) => id));
  if (places && (!topic.byArea || places.areas.some((id) => !known.has(id))))
    throw invalid('There is no such area.', { fields: { places: 'does not exist' } });
  return topic.name;
}

/**
 * Notes by hand what somebody said. An agreement takes the words by which it can be shown later; subscribing to a topic agrees to
 * its purpose as well. @throws 422 without them
 */
export async function noteConsent(
  context: Context,
  { id }: In<'POST /api/people/:id/consent', 'params'>,
  body: Parsed<'POST /api/people/:id/consent', 'body'>,
): Promise<{ eventId: string | null }> {
  const actor = requireActor(context);
  const person = await requirePerson(context, id);
  const name = await requireOffered(context, body);
  const { purposeId, topicId = null, state, words, places = null } = body;
  if (state === 'agreed' && !words)
    throw invalid('Say how they agreed, for example “by phone on Monday”. Nothing was saved.', {
      fields: { words: 'is missing' },
    });
  const said = { personId: id, purposeId, state, how: 'by hand' as const, words };
  const kept = await keepStatements(context, id, [
    ...(topicId && state === 'agreed' ? [said] : []),
    { ...said, topicId, places: topicId ? places : null },
  ]);
  if (!kept.length) return { eventId: null };
  return {
    eventId: await context.write.event(
      'note consent',
      state === 'agreed'
        ? `${person.fullName} agreed to ${name}`
        : `${person.fullName} withdrew from ${name}`,
      actor.id,
    ),
  };
}

/** Mails somebody the link to their page. @throws 409 where there is no address that works, or no mail server */
export async function mailLink(
  context: Context,
  { id }: In<'POST /api/people/:id/consent-mail', 'params'>,
  { purposeIds }: Parsed<'POST /api/people/:id/consent-mail', 'body'>,
): Promise<{ eventId: string | null }> {
  const actor = requireActor(context);
  const person = await requirePerson(context, id);
  const contact = await ContactPoint.findOne({
    where: { personId: id, kind: 'email', reach: 'good' },
    order: ['createdAt', 'id'],
    transaction: context.tx,
  });
  if (!contact) throw conflict('They have no email address that works. Nothing was sent.');
  if (!context.outside.post) throw conflict('No mail server is set up. Nothing was sent.');
  const offered = (await currentPurposes(context)).map((purpose) => purpose.id);
  if (purposeIds.some((purposeId) => !offered.includes(purposeId)))
    throw invalid('There is no such purpose.', { fields: { purposeIds: 'does not exist' } });
  await keepStatements(
    context,
    id,
    purposeIds.map((purposeId) => ({
      ...{ personId: id, purposeId, state: 'unconfirmed' as const, how: 'by hand' as const },
      address: contact.value,
    })),
  );
  await requestLinkMail(context, { personId: id, address: contact.value, purposeIds });
  return {
    eventId: await context.write.event(
      'mail consent link',
      purposeIds.length ? `Asked ${person.fullName} to confirm` : `Mailed ${person.fullName} their page`,
      actor.id,
    ),
  };
}
