import { isNews, type ConsentState, type ConsentWay } from '@emporikon/core/outreach/consent';
import type { Places } from '@emporikon/core/outreach/coverage';
import { normalizeEmail } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { lockNames } from '../commands/locks';
import { Consent, Purpose, Topic } from '../db/models/consent';
import { ContactPoint } from '../db/models/people';

/** What somebody says, and how we know. */
export interface Said {
  personId: string;
  purposeId: string;
  topicId?: string | null;
  state: ConsentState;
  how: ConsentWay;
  words?: string;
  source?: string;
  address?: string | null;
  places?: Places | null;
  captureId?: string | null;
}

interface Held {
  purposeId: string;
  topicId: string | null;
  state: ConsentState;
  at: Date;
  how: ConsentWay;
  words: string;
  places: Places | null;
}

/** The statements that hold for somebody, one a purpose and one a topic. */
export const heldBy = ({ sequelize, tx }: Context, personId: string): Promise<Held[]> =>
  sequelize.query<Held>(
    `SELECT purpose_id AS "purposeId", topic_id AS "topicId", state, at, how, words, places FROM consent_states WHERE person_id = $personId`,
    { bind: { personId }, type: QueryTypes.SELECT, transaction: tx },
  );

/** Whoever withdraws from a purpose withdraws from its topics: agreeing to it again later does not bring them back. */
const withTopics = (said: readonly Said[], held: readonly Held[]): Said[] =>
  said.flatMap((one) => [
    one,
    ...(one.state === 'withdrawn' && !one.topicId
      ? held
          .filter(
            ({ purposeId, topicId, state }) =>
              purposeId === one.purposeId &&
              state !== 'withdrawn' &&
              topicId &&
              !said.some((other) => other.topicId === topicId),
          )
          .map(({ topicId }) => ({ ...one, topicId }))
      : []),
  ]);

/**
 * Keeps statements of one person where they say anything new. Two of them never have the same time, so that which one is the
 * last is always sure.
 * @returns those that were kept
 */
export async function keepStatements(
  context: Context,
  personId: string,
  said: readonly Said[],
): Promise<Said[]> {
  if (!said.length) return [];
  await lockNames(context, [`consent/${personId}`]);
  const held = await heldBy(context, personId);
  const kept: Said[] = [];
  for (const one of withTopics(said, held)) {
    const { purposeId, topicId = null, state, how, words = '', places = null } = one;
    const current = held.find((known) => known.purposeId === purposeId && known.topicId === topicId) ?? null;
    // A list that says of everybody that they agreed says nothing of whoever withdrew.
    if (how === 'import' && current?.state === 'withdrawn') continue;
    if (!isNews(current, { state, words, places })) continue;
    const now = context.now();
    await context.write.insert(Consent, {
      id: context.newId(),
      ...{ personId, purposeId, topicId, state, how, words, places },
      at: current && current.at >= now ? new Date(current.at.getTime() + 1) : now,
      source: one.source ?? '',
      address: one.address ?? null,
      captureId: one.captureId ?? null,
      actorId: how === 'by hand' ? (context.actor?.id ?? null) : null,
    });
    kept.push(one);
  }
  return kept;
}

/** The purposes that are offered, in their order. */
export const currentPurposes = ({ tx }: Pick<Context, 'tx'>): Promise<Purpose[]> =>
  Purpose.findAll({ where: { retiredAt: null }, order: ['position', 'id'], transaction: tx });

/** The topics that are offered, in their order. */
export const currentTopics = ({ tx }: Pick<Context, 'tx'>): Promise<Topic[]> =>
  Topic.findAll({ where: { retiredAt: null }, order: ['position', 'id'], transaction: tx });

/** The purposes that are meant: those that are named, or the default ones. */
export async function purposesMeant(context: Context, ids: readonly string[]): Promise<string[]> {
  const current = await currentPurposes(context);
  const named = current.filter(({ id }) => ids.includes(id));
  return (ids.length ? named : current.filter(({ isDefault }) => isDefault)).map(({ id }) => id);
}

/** Whose address it is; null where nobody has it. */
export async function personOfAddress({ tx }: Pick<Context, 'tx'>, email: string): Promise<string | null> {
  const contact = await ContactPoint.findOne({
    where: { kind: 'email', normalized: normalizeEmail(email) },
    attributes: ['personId'],
    transaction: tx,
  });
  return contact?.personId ?? null;
}

/** Withdraws from everything that is offered, whether or not they agreed to it before. @returns how many were news */
export async function withdrawAll(
  context: Context,
  personId: string,
  said: Pick<Said, 'how' | 'words' | 'source' | 'address' | 'captureId'>,
): Promise<number> {
  const purposes = await currentPurposes(context);
  const kept = await keepStatements(
    context,
    personId,
    purposes.map(({ id }) => ({ ...said, personId, purposeId: id, state: 'withdrawn' as const })),
  );
  return kept.length;
}
