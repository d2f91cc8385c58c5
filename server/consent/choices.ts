import type { PageTexts } from '@emporikon/core/outreach/pageTexts';
import { bareCode, type Places } from '@emporikon/core/outreach/coverage';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Purpose, Topic, type Area, type Translations } from '../db/models/consent';
import { ContactPoint, Person } from '../db/models/people';
import { offeredAreas } from './areas';
import { readLink, type Linked } from './links';
import { currentPurposes, currentTopics, heldBy, keepStatements, withdrawAll, type Said } from './statements';

/** Where a link leads: somebody, nobody any more, or nowhere. */
export type Reader =
  | { kind: 'unknown' }
  | { kind: 'gone' }
  | { kind: 'somebody'; person: Person; linked: Linked; address: string };

/** Who opens a link; somebody whose record was merged is the one it went into. */
export async function readerOf(context: Context, token: string): Promise<Reader> {
  const linked = await readLink(context, token);
  if (!linked) return { kind: 'unknown' };
  const [found] = await context.sequelize.query<{ id: string }>(
    `SELECT coalesce((SELECT to_id FROM forwardings WHERE id = $id::uuid), $id::uuid) AS id`,
    { bind: { id: linked.personId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const person = await Person.findOne({
    where: { id: found?.id ?? linked.personId, erasedAt: null },
    transaction: context.tx,
  });
  if (!person) return { kind: 'gone' };
  const contact = await ContactPoint.findOne({
    where: { personId: person.id, kind: 'email' },
    order: ['createdAt', 'id'],
    transaction: context.tx,
  });
  return {
    kind: 'somebody',
    person,
    linked: { ...linked, personId: person.id },
    address: contact?.value ?? '',
  };
}

/** An address of which whoever looks over a shoulder, or was handed on a letter, reads no more than its beginning and its domain. */
export const masked = (address: string): string => address.replace(/^(.)[^@]*(?=@)/u, '$1…');

/** What is called how in a language. */
export const calledIn = (
  one: { name: string; words?: string; translations?: Translations },
  language: string,
): { name: string; words: string } => {
  const { name, words } = one.translations?.[language] ?? { name: '', words: '' };
  return { name: name || one.name, words: words || (one.words ?? '') };
};

export interface Choice {
  /** Of a purpose or a topic. */
  id: string;
  name: string;
  words: string;
  isAgreed: boolean;
  isAsked: boolean;
  agreedAt: Date | null;
  byArea: boolean;
  places: Places | null;
  topics: Choice[];
}
export interface Offer {
  choices: Choice[];
  areas: Area[];
}

/** What somebody can choose, in their language, with what they chose. */
export async function offerTo(context: Context, personId: string, language: string): Promise<Offer> {
  const held = await heldBy(context, personId);
  const topics = await currentTopics(context);
  const choice = (one: Purpose | Topic, purposeId: string, topicId: string | null): Choice => {
    const current = held.find((known) => known.purposeId === purposeId && known.topicId === topicId);
    return {
      id: one.id,
      ...calledIn(one, language),
      isAgreed: current?.state === 'agreed',
      isAsked: current?.state === 'unconfirmed',
      agreedAt: current?.state === 'agreed' ? current.at : null,
      byArea: one instanceof Topic && (one.byArea ?? false),
      places: current?.places ?? null,
      topics: [],
    };
  };
  const choices = (await currentPurposes(context)).map((purpose) => ({
    ...choice(purpose, purpose.id, null),
    topics: topics
      .filter(({ purposeId }) => purposeId === purpose.id)
      .map((topic) => choice(topic, purpose.id, topic.id)),
  }));
  return { choices, areas: await offeredAreas(context) };
}

type Answers = Readonly<Record<string, string>>;
const MOST_CODES = 50;
/** Post codes of every country: letters, digits, spaces and dashes (UPU S42; from memory). */
const CODE = /^[A-Z0-9][A-Z0-9 -]{0,10}$/;

/** The places that were filled in for a topic. @returns the word that is no post code, where one is none */
function placesOf(answers: Answers, topicId: string, areas: readonly Area[]): Places | string {
  const country = /^[A-Z]{2}$/.test(answers[`country-${topicId}`] ?? '')
    ? answers[`country-${topicId}`]
    : null;
  const words = (answers[`codes-${topicId}`] ?? '')
    .split(/[,;\n]/)
    .map((word) => word.trim().toUpperCase())
    .filter(Boolean);
  const wrong = words.find((word) => !CODE.test(word));
  if (wrong !== undefined) return wrong;
  return {
    codes: country
      ? [...new Set(words.map(bareCode))].slice(0, MOST_CODES).map((code) => ({ country, code }))
      : [],
    areas: areas.flatMap(({ id }) => (answers[`area-${topicId}-${id}`] === 'yes' ? [id] : [])),
  };
}

/**
 * Keeps what somebody chose on their page. A topic that is newly ticked agrees to its purpose; a purpose whose tick is taken
 * away takes its topics along, though their own ticks were left.
 * @returns the word that is no post code; null where all was kept
 */
export async function keepChoices(
  context: Context,
  personId: string,
  { choices, areas }: Offer,
  answers: Answers,
): Promise<string | null> {
  const said: Said[] = [];
  const shared = { personId, how: 'page' as const, source: 'their page' };
  for (const purpose of choices) {
    const ticked = purpose.topics.filter(({ id }) => answers[`topic-${id}`] === 'yes');
    const hasNew = ticked.some(({ isAgreed }) => !isAgreed);
    const isTicked =
      answers[`purpose-${purpose.id}`] === 'yes' || hasNew || (ticked.length > 0 && !purpose.isAgreed);
    const about = { ...shared, purposeId: purpose.id };
    if (isTicked !== purpose.isAgreed || purpose.isAsked)
      said.push({ ...about, state: isTicked ? 'agreed' : 'withdrawn', words: purpose.words || purpose.name });
    for (const topic of purpose.topics) {
      const isChosen = isTicked && ticked.includes(topic);
      if (!isChosen && !topic.isAgreed) continue;
      const places = isChosen && topic.byArea ? placesOf(answers, topic.id, areas) : null;
      if (typeof places === 'string') return places;
      const words = topic.words || topic.name;
      said.push({ ...about, topicId: topic.id, state: isChosen ? 'agreed' : 'withdrawn', words, places });
    }
  }
  const kept = await keepStatements(context, personId, said);
  if (kept.length)
    await context.write.event('choose consent', 'Somebody chose what they are written to about', null);
  return null;
}

/** What a link unsubscribes from, in words. */
export async function stopsWhat(
  context: Context,
  { purposeId, topicId }: Linked,
  language: string,
  texts: PageTexts,
): Promise<string> {
  const topic = topicId ? await Topic.findByPk(topicId, { transaction: context.tx }) : null;
  const purpose = purposeId ? await Purpose.findByPk(purposeId, { transaction: context.tx }) : null;
  const one = topic ?? purpose;
  return one ? calledIn(one, language).name : texts.everything;
}

/**
 * Unsubscribes somebody from what their link is about, or from everything. Doing so again changes nothing.
 * @param words what was said, or sent by their mail program
 */
export async function stopByLink(
  context: Context,
  { personId, purposeId, topicId }: Linked,
  said: Pick<Said, 'how' | 'words' | 'source' | 'address' | 'captureId'>,
): Promise<void> {
  const purpose = purposeId ? await Purpose.findByPk(purposeId, { transaction: context.tx }) : null;
  const topic =
    purpose && topicId
      ? await Topic.findOne({ where: { id: topicId, purposeId: purpose.id }, transaction: context.tx })
      : null;
  const kept = purpose
    ? (
        await keepStatements(context, personId, [
          { ...said, personId, purposeId: purpose.id, topicId: topic?.id ?? null, state: 'withdrawn' },
        ])
      ).length
    : await withdrawAll(context, personId, said);
  if (kept) await context.write.event('withdraw consent', 'Somebody unsubscribed', null);
}
