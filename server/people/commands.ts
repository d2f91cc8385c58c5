import { keepStatements, purposesMeant } from '../consent/statements';
import { rowAsSeen } from '../fields/rights';
import { checkValues, withValues } from '../fields/values';
import type { Standing } from '@emporikon/core/lifecycle/standing';
import { companyDomain, isEmail } from '@emporikon/core/people/emails';
import { nameKey, parseName } from '@emporikon/core/people/names';
import { readPhone, type PhoneType } from '@emporikon/core/people/phones';
import type { Context } from '../commands/context';
import { requireTerm } from '../commands/terms';
import { ClaimRow } from '../db/models/captures';
import { Company, ContactPoint, Person, type ContactKind } from '../db/models/people';
import { invalid, notFound, stale } from '../http/problems';
import { findOrMakeCompany } from '../companies/commands';
import { addContact, claimByHand } from './claims';
import { organise, withTags } from './organise';
import { normalizeValue } from './values';

/** Makes a person with nothing but a name. */
export async function makePerson(context: Context, fullName: string): Promise<Person> {
  const now = context.now();
  const name = isEmail(fullName) ? { fullName, givenName: '', familyName: '' } : parseName(fullName);
  return context.write.insert(Person, {
    id: context.newId(),
    ...name,
    fullName: name.fullName || fullName,
    nameKey: nameKey(name.fullName || fullName),
    jobTitle: null,
    address: null,
    timeZone: null,
    companyId: null,
    standing: 'stranger',
    ownerId: context.actor?.id ?? null,
    createdAt: now,
    updatedAt: now,
  });
}

/** A person for change. @throws 404 */
export async function loadPerson(context: Context, id: string, lock = false): Promise<Person> {
  const person = await Person.findByPk(id, { transaction: context.tx, lock });
  if (!person) throw notFound('There is no such person.');
  return person;
}

export interface NewPerson {
  fullName: string;
  jobTitle?: string | null;
  email?: string | null;
  phone?: string | null;
  companyId?: string | null;
  companyName?: string | null;
  ownerId?: string | undefined;
  tags?: readonly string[] | undefined;
  /** Whether they may be written to, as whoever adds them was told. */
  consent?: 'agreed' | 'unconfirmed' | null | undefined;
  /** What they agreed to; the default purposes when left out. */
  purposeIds?: readonly string[] | undefined;
  /** Further addresses, numbers and pages. */
  contacts?: readonly { kind: ContactKind; value: string }[];
}

/** Adds somebody as a part of a command. */
export async function createPerson(context: Context, input: NewPerson): Promise<Person> {
  const person = await makePerson(context, input.fullName);
  await claimByHand(context, { personId: person.id }, 'fullName', input.fullName);
  if (input.jobTitle) {
    await context.write.update(person, { jobTitle: input.jobTitle });
    await claimByHand(context, { personId: person.id }, 'jobTitle', input.jobTitle);
  }
  if (input.email) await addContactByHand(context, person, 'email', input.email);
  if (input.phone) await addContactByHand(context, person, 'phone', input.phone);
  for (const { kind, value } of input.contacts ?? []) await addContactByHand(context, person, kind, value);
  const company = input.companyId
    ? await companyById(context, input.companyId)
    : input.companyName
      ? await findOrMakeCompany(context, input.companyName, companyDomain(input.email ?? ''))
      : null;
  if (company) {
    await context.write.update(person, { companyId: company.id });
    await claimByHand(context, { personId: person.id }, 'companyName', company.name);
  }
  await organise(context, person, { ownerId: input.ownerId, tags: input.tags });
  if (input.consent) {
    const [personId, state] = [person.id, input.consent];
    const purposes = await purposesMeant(context, input.purposeIds ?? []);
    await keepStatements(
      context,
      personId,
      purposes.map((purposeId) => ({
        ...{ personId, purposeId, state, how: 'by hand' as const, source: 'when they were added' },
        address: input.email ?? null,
      })),
    );
  }
  return person;
}

export async function addPerson(
  context: Context,
  input: NewPerson,
): Promise<{ id: string; eventId: string | null }> {
  const person = await createPerson(context, input);
  return {
    id: person.id,
    eventId: await context.write.event('add person', `Added ${person.fullName}`, context.actor?.id ?? null),
  };
}

async function companyById(context: Context, id: string): Promise<Company> {
  const company = await Company.findByPk(id, { transaction: context.tx });
  if (!company) throw invalid('There is no such company.', { fields: { companyId: 'does not exist' } });
  return company;
}

async function addContactByHand(
  context: Context,
  person: Person,
  kind: ContactKind,
  value: string,
  type?: PhoneType,
): Promise<void> {
  const countries = (
    await ContactPoint.findAll({ where: { personId: person.id, kind: 'phone' }, transaction: context.tx })
  )
    .map((one) => readPhone(one.normalized)?.country ?? '')
    .filter(Boolean);
  const normal = normalizeValue(kind, value, [...countries, context.house.country]);
  const kindOf = kind === 'phone' ? (type ?? normal.type ?? 'work') : null;
  if (await addContact(context, person.id, kind, value, normal.normalized ?? value, kindOf))
    await claimByHand(context, { personId: person.id }, kind, value, normal.normalized, kindOf);
}

export async function addPersonContact(
  context: Context,
  personId: string,
  kind: ContactKind,
  value: string,
  type?: PhoneType,
): Promise<string | null> {
  const person = await loadPerson(context, personId, true);
  await addContactByHand(context, person, kind, value, type);
  return context.write.event(
    'add contact',
    `Added ${value} to ${person.fullName}`,
    context.actor?.id ?? null,
  );
}

async function loadContact(context: Context, id: string): Promise<ContactPoint> {
  const contact = await ContactPoint.findByPk(id, { transaction: context.tx, lock: true });
  if (!contact) throw notFound('There is no such contact detail.');
  return contact;
}

const supersede = async (context: Context, contact: ContactPoint): Promise<void> => {
  const claims = await ClaimRow.findAll({
    where: {
      personId: contact.personId,
      field: contact.kind,
      normalized: contact.normalized,
      fate: 'current',
    },
    transaction: context.tx,
  });
  for (const claim of claims)
    await context.write.update(claim, { fate: 'superseded', ...(claim.lookUpId ? { kept: false } : {}) });
};

export async function changeContact(
  context: Context,
  id: string,
  patch: { version: number; value?: string; type?: PhoneType; reach?: 'good' },
): Promise<string | null> {
  const contact = await loadContact(context, id);
  if (patch.reach && patch.value === undefined) return markReachable(context, contact, patch.version);
  const country = contact.kind === 'phone' ? readPhone(contact.normalized)?.country : null;
  const value = patch.value ?? contact.value;
  const normal = normalizeValue(contact.kind, value, [country ?? context.house.country]);
  await supersede(context, contact);
  const type =
    contact.kind === 'phone'
      ? (patch.type ?? (patch.value === undefined ? contact.type : (normal.type ?? contact.type)))
      : null;
  const normalized = normal.normalized ?? value;
  // What mail servers said was said of the address that stood there.
  const isOther = normalized !== contact.normalized;
  await context.write.update(
    contact,
    { value, normalized, type, ...(isOther ? { reach: 'good', reachAt: null, reachWords: '' } : {}) },
    patch.version,
  );
  await claimByHand(context, { personId: contact.personId }, contact.kind, value, normal.normalized, type);
  return context.write.event('change contact', `Changed ${value}`, context.actor?.id ?? null);
}

async function markReachable(
  context: Context,
  contact: ContactPoint,
  version: number,
): Promise<string | null> {
  await context.write.update(contact, { reach: 'good', reachAt: context.now(), reachWords: '' }, version);
  return context.write.event('change contact', `Mail to ${contact.value} arrives`, context.actor?.id ?? null);
}

export async function removeContact(context: Context, id: string): Promise<string | null> {
  const contact = await loadContact(context, id);
  await supersede(context, contact);
  await context.write.remove(contact);
  return context.write.event('remove contact', `Removed ${contact.value}`, context.actor?.id ?? null);
}

export interface PersonPatch {
  version: number;
  fullName?: string;
  jobTitle?: string | null;
  address?: string | null;
  timeZone?: string | null;
  companyId?: string | null;
  /** The key of a term. */
  standing?: string;
  /** False for somebody nobody works with any more. */
  active?: boolean;
  ownerId?: string | null;
  birthday?: string | null;
  background?: string | null;
  tags?: string[];
  rhythmDays?: number | null;
  isImportant?: boolean;
  /** Values of the house's own fields by key; an empty one is taken away. */
  custom?: Record<string, string>;
  because?: string;
}

/** How a person holds a standing that was chosen. @throws 422 for none that is offered */
async function standingOf(
  context: Context,
  person: Person,
  key: string,
): Promise<{ standing: Standing; standingTerm: string | null }> {
  const now = person.standingTerm ?? person.standing;
  const { countsAs, own } = await requireTerm(context, 'standing', key, { field: 'standing', now });
  return { standing: countsAs as Standing, standingTerm: own };
}

/** Changes facts by hand. Each becomes a claim of its own. @throws 409 with what stands there when the version is old */
export async function changePerson(
  context: Context,
  id: string,
  { version, custom, active, because, standing, ...patch }: PersonPatch,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const person = await loadPerson(context, id, true);
  if (custom && person.version !== version) throw stale(await rowAsSeen(context, person));
  if (patch.fullName !== undefined && !parseName(patch.fullName).fullName)
    throw invalid('A person needs a name.', { fields: { fullName: 'is missing' } });
  const name =
    patch.fullName === undefined ? {} : { ...parseName(patch.fullName), nameKey: nameKey(patch.fullName) };
  const company = patch.companyId ? await companyById(context, patch.companyId) : null;
  const values = custom ? await checkValues(context, 'person', id, custom) : {};
  const own = custom ? { custom: withValues(person.custom, values) } : {};
  const tags = patch.tags ? { tags: withTags([], patch.tags) } : {};
  const became = standing === undefined ? {} : await standingOf(context, person, standing);
  const since =
    active === undefined ? {} : { inactiveSince: active ? null : (person.inactiveSince ?? context.now()) };
  await context.write.update(
    person,
    { ...patch, ...became, ...name, ...own, ...tags, ...since, updatedAt: context.now() },
    version,
  );
  for (const field of ['fullName', 'jobTitle', 'address', 'timeZone', 'birthday'] as const) {
    const value = patch[field];
    if (value) await claimByHand(context, { personId: id }, field, value);
  }
  for (const [key, value] of Object.entries(values))
    if (value) await claimByHand(context, { personId: id }, `custom:${key}`, value);
  if (patch.background) await claimByHand(context, { personId: id }, 'note', patch.background);
  if (company) await claimByHand(context, { personId: id }, 'companyName', company.name);
  return {
    version: person.version,
    eventId: await context.write.event(
      'change person',
      `Changed ${person.fullName}`,
      context.actor?.id ?? null,
    ),
  };
}
