import { lockNames } from '../commands/locks';
import type { Match } from '@emporikon/core/matching/verdict';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import { localPart, normalizeEmail } from '@emporikon/core/people/emails';
import { isRoleName, nameKey, nameOverlap } from '@emporikon/core/people/names';
import { normalizePhone } from '@emporikon/core/people/phones';
import { Op } from 'sequelize';
import type { Context } from '../commands/context';
import { ContactPoint, Person } from '../db/models/people';
import { choiceNeeded, invalid } from '../http/problems';
import { knownPerson } from './candidates';
import { addPerson } from './commands';

export interface Wanted {
  fullName?: string | undefined;
  emails: readonly string[];
  phones: readonly string[];
  profiles: readonly string[];
  companyName?: string | undefined;
  jobTitle?: string | undefined;
  onMaybe: 'ask' | 'create' | 'reject';
}

export interface FoundOrMade {
  outcome: 'found' | 'created' | 'maybe';
  id: string | null;
  matches: Match[];
  eventId: string | null;
}

/**
 * Takes the locks under which somebody can be looked up and made without being doubled: one for each address, number and
 * page, and for the name. Always in the same order, so that two never wait for each other.
 */
export async function lockIdentity(context: Context, facts: PersonFacts): Promise<void> {
  const keys = [
    ...facts.emails.map((email) => `email:${email}`),
    ...facts.phones.map((phone) => `phone:${phone}`),
    ...(facts.profiles ?? []).map((profile) => `profile:${profile}`),
  ];
  // The name always: two clips of one person may share nothing else.
  if (facts.fullName) keys.push(`name:${nameKey(facts.fullName)}`);
  await lockNames(context, keys);
}

/**
 * Whom a key of their own points to: an address or a page is one identity (common practice). A shared mailbox is not,
 * unless it comes with the same name or with none.
 */
async function ownerOfKey(context: Context, facts: PersonFacts): Promise<string | null> {
  const points = await ContactPoint.findAll({
    where: {
      [Op.or]: [
        { kind: 'email', normalized: [...facts.emails] },
        { kind: 'profile', normalized: [...(facts.profiles ?? [])] },
      ],
    },
    transaction: context.tx,
  });
  const owners = [...new Set(points.map((point) => point.personId))];
  const [id] = owners;
  if (!id || owners.length > 1) return null;
  const isOwn = points.some((point) => point.kind === 'profile' || !isRoleName(localPart(point.normalized)));
  if (isOwn || !facts.fullName) return id;
  const person = await Person.findByPk(id, { transaction: context.tx });
  return person && nameOverlap(person.fullName, facts.fullName) === 1 ? id : null;
}

async function make(context: Context, wanted: Wanted, facts: PersonFacts): Promise<FoundOrMade> {
  const taken = await ContactPoint.findAll({
    where: { kind: 'email', normalized: [...facts.emails] },
    transaction: context.tx,
  });
  // A shared mailbox stays with whoever has it: an address is on one person.
  const emails = wanted.emails.filter(
    (email) => !taken.some((one) => one.normalized === normalizeEmail(email)),
  );
  const fullName = wanted.fullName ?? facts.emails[0] ?? facts.phones[0] ?? facts.profiles?.[0] ?? '';
  const { id, eventId } = await addPerson(context, {
    fullName,
    jobTitle: wanted.jobTitle ?? null,
    companyName: wanted.companyName ?? null,
    email: emails[0] ?? null,
    contacts: [
      ...emails.slice(1).map((value) => ({ kind: 'email' as const, value })),
      ...wanted.phones.map((value) => ({ kind: 'phone' as const, value })),
      ...wanted.profiles.map((value) => ({ kind: 'profile' as const, value })),
    ],
  });
  return { outcome: 'created', id, matches: [], eventId };
}

/**
 * Finds somebody by their keys, else by the verdict on all that is told of them, else makes them. Safe when many ask at
 * once.
 * @throws 409 when it may be somebody we know and `onMaybe` is `reject`; 422 where a number cannot be one
 */
export async function findOrCreatePerson(context: Context, wanted: Wanted): Promise<FoundOrMade> {
  const facts: PersonFacts = {
    fullName: wanted.fullName ?? '',
    emails: wanted.emails.map(normalizeEmail),
    phones: wanted.phones.map((phone) => {
      const normalized = normalizePhone(phone, [context.house.country]);
      if (!normalized)
        throw invalid(`“${phone}” is not a phone number.`, { fields: { phone: 'is no number' } });
      return normalized;
    }),
    profiles: wanted.profiles.map((profile) => profile.replace(/\/+$/, '')),
    companyName: wanted.companyName ?? '',
  };
  await lockIdentity(context, facts);
  const owner = await ownerOfKey(context, facts);
  if (owner) return { outcome: 'found', id: owner, matches: [], eventId: null };
  const { kind, matches } = await knownPerson(context, facts);
  if (kind === 'same') return { outcome: 'found', id: matches[0]?.id ?? null, matches, eventId: null };
  if (kind === 'maybe' && wanted.onMaybe === 'reject')
    throw choiceNeeded(
      `This may be ${matches.map((match) => match.label).join(', or ')}. Nobody was made; ask for them by id, or say that somebody new is meant.`,
    );
  if (kind === 'maybe' && wanted.onMaybe === 'ask')
    return { outcome: 'maybe', id: null, matches, eventId: null };
  return make(context, wanted, facts);
}
