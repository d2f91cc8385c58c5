import { usableValue } from '@emporikon/core/reading/usable';
import { nameKey, parseName } from '@emporikon/core/people/names';
import { isRoleName } from '@emporikon/core/people/names';
import { localPart } from '@emporikon/core/people/emails';
import type { MappingTarget } from '@emporikon/contract/fields';
import type { Context } from '../commands/context';
import { ClaimRow } from '../db/models/captures';
import type { Company } from '../db/models/people';
import { ContactPoint, Person, type ContactKind } from '../db/models/people';
import { importedClaims } from '../imports/evidence';
import { loadMappings, targetOf } from '../fields/mapping';
import { usableValueOf } from '../fields/values';
import { conflict } from '../http/problems';
import { addBackground } from './organise';

const SINGLE = ['fullName', 'jobTitle', 'address', 'birthday', 'timeZone'] as const;
type Single = (typeof SINGLE)[number];
const isSingle = (field: string): field is Single => (SINGLE as readonly string[]).includes(field);
const CONTACTS = new Set<string>(['email', 'phone', 'url', 'profile']);

/** Adds an address, number or link unless the person has it. @throws 409 when the address is another person's */
export async function addContact(
  context: Context,
  personId: string,
  kind: ContactKind,
  value: string,
  normalized: string,
  type: ContactPoint['type'],
): Promise<boolean> {
  const known = await ContactPoint.findOne({
    where: kind === 'email' ? { kind, normalized } : { personId, kind, normalized },
    transaction: context.tx,
  });
  if (known && known.personId !== personId) {
    const other = await Person.findByPk(known.personId, { transaction: context.tx });
    throw conflict(
      `${value} is the address of ${other?.fullName ?? 'somebody else'}. File it on them, or reject the address first.`,
    );
  }
  if (known) return false;
  await context.write.insert(ContactPoint, {
    id: context.newId(),
    personId,
    kind,
    value,
    normalized,
    type,
    createdAt: context.now(),
  });
  return true;
}

async function currentClaim(
  context: Context,
  owner: { personId: string } | { companyId: string },
  field: ClaimRow['field'],
): Promise<ClaimRow | null> {
  return ClaimRow.findOne({
    where: { ...owner, field, fate: 'current' },
    order: [['createdAt', 'DESC']],
    transaction: context.tx,
  });
}

/** Whether a fact without a claim of its own came by an import and not by a hand. */
async function isImported(
  context: Context,
  owner: { personId: string } | { companyId: string },
  field: string,
): Promise<boolean> {
  if (!('personId' in owner)) return false;
  return (await importedClaims(context, owner.personId)).some((claim) => claim.field === field);
}

/**
 * Settles one single-valued fact: blank is filled, a newer reading replaces an older one, and what a hand wrote stays,
 * with the new reading kept beside it as a suggestion.
 * @returns whether the value is to be written on the record
 */
async function settle(
  context: Context,
  claim: ClaimRow,
  owner: { personId: string } | { companyId: string },
  standing: string | null,
): Promise<boolean> {
  const current = await currentClaim(context, owner, claim.field);
  const agrees = standing !== null && standing.toLowerCase() === claim.value.toLowerCase();
  const isByHand =
    standing !== null && (current ? current.byHand : !(await isImported(context, owner, claim.field)));
  if (isByHand && !claim.byHand) {
    // A reading that agrees bears the hand out and does not take its place: the next one that differs is a suggestion.
    await context.write.update(claim, { ...owner, fate: agrees ? 'superseded' : 'proposed' });
    return false;
  }
  if (current && current.id !== claim.id) await context.write.update(current, { fate: 'superseded' });
  await context.write.update(claim, { ...owner, fate: 'current' });
  return !agrees;
}

async function applyToPerson(
  context: Context,
  person: Person,
  company: Company | null,
  claim: ClaimRow,
  mappings: ReadonlyMap<string, MappingTarget>,
): Promise<void> {
  const owner = { personId: person.id };
  const target = targetOf(mappings, claim.field);
  if (target === 'nowhere') return;
  if (target === 'background') {
    await addBackground(context, person, claim.value);
    await context.write.update(claim, { ...owner, fate: 'current' });
    return;
  }
  if (target.startsWith('custom:')) {
    await applyCustom(context, person, claim, target.slice('custom:'.length));
    return;
  }
  if (CONTACTS.has(claim.field)) {
    const kind = claim.field as ContactKind;
    if (
      kind === 'email' &&
      isRoleName(localPart(claim.normalized ?? claim.value)) &&
      (await isTaken(context, person.id, claim.normalized ?? claim.value))
    )
      return;
    await addContact(context, person.id, kind, claim.value, claim.normalized ?? claim.value, claim.type);
    await context.write.update(claim, { ...owner, fate: 'current' });
    return;
  }
  if (claim.field === 'companyName') {
    await context.write.update(claim, {
      ...owner,
      ...(company ? { companyId: company.id } : {}),
      fate: 'current',
    });
    return;
  }
  if (!isSingle(claim.field)) {
    await context.write.update(claim, { ...owner, fate: 'proposed' });
    return;
  }
  const value = usableValue(claim.field, claim.value);
  if (value === null) {
    await context.write.update(claim, { ...owner, fate: 'proposed' });
    return;
  }
  const known = person[claim.field] ?? null;
  const mayReplaceName =
    claim.field !== 'fullName' ||
    claim.byHand ||
    !person.fullName.includes(' ') ||
    nameKey(person.fullName) === nameKey(claim.value);
  if (!mayReplaceName) {
    await context.write.update(claim, { ...owner, fate: 'proposed' });
    return;
  }
  if (!(await settle(context, claim, owner, known))) return;
  const now = context.now();
  if (claim.field === 'fullName')
    await context.write.update(person, {
      ...parseName(claim.value),
      nameKey: nameKey(claim.value),
      updatedAt: now,
    });
  else await context.write.update(person, { [claim.field]: value, updatedAt: now });
}

/** A field of the house's own: a blank is filled, and what a hand wrote stays. */
async function applyCustom(context: Context, person: Person, claim: ClaimRow, key: string): Promise<void> {
  const owner = { personId: person.id };
  const standing = person.custom?.[key] ?? null;
  const value = await usableValueOf(context, person.id, key, claim.normalized ?? claim.value);
  if (value === null) {
    // What does not fit the field is shown beside it, for a hand to enter.
    await context.write.update(claim, { ...owner, fate: 'proposed' });
    return;
  }
  if (!(await settle(context, claim, owner, standing))) return;
  await context.write.update(person, {
    custom: { ...person.custom, [key]: value },
    updatedAt: context.now(),
  });
}

async function isTaken(context: Context, personId: string, normalized: string): Promise<boolean> {
  const known = await ContactPoint.findOne({ where: { kind: 'email', normalized }, transaction: context.tx });
  return known !== null && known.personId !== personId;
}

/** Fills what is blank on the company from what its person wrote. */
async function applyToCompany(
  context: Context,
  company: Company,
  claims: readonly ClaimRow[],
): Promise<void> {
  const patch: Partial<Pick<Company, 'url' | 'address' | 'phone'>> = {};
  const take = (field: string): string | undefined => claims.find((claim) => claim.field === field)?.value;
  const [url, address] = [claims.find((claim) => claim.field === 'url')?.normalized, take('address')];
  if (!company.url && url) patch.url = url;
  if (!company.address && address) patch.address = address;
  if (Object.keys(patch).length) await context.write.update(company, { ...patch, updatedAt: context.now() });
  for (const claim of claims.filter((claim) => ['url', 'address'].includes(claim.field)))
    await context.write.update(claim, { companyId: company.id });
}

/** Writes claims onto a person and their company, each keeping its source. */
export async function applyClaims(
  context: Context,
  person: Person,
  company: Company | null,
  claims: readonly ClaimRow[],
): Promise<void> {
  const mappings = await loadMappings(context);
  for (const claim of claims) await applyToPerson(context, person, company, claim, mappings);
  if (!company) return;
  await applyToCompany(context, company, claims);
  if (!person.companyId)
    await context.write.update(person, { companyId: company.id, updatedAt: context.now() });
}

/** Fills what is blank on a company from its own page, each fact keeping its source; what stands there stays. */
export async function applyCompanyClaims(
  context: Context,
  company: Company,
  claims: readonly ClaimRow[],
): Promise<void> {
  const patch: Partial<Pick<Company, 'url' | 'address' | 'phone'>> = {};
  for (const claim of claims) {
    const { field } = claim;
    const isFilled = (field === 'url' || field === 'address' || field === 'phone') && !company[field];
    if (isFilled) patch[field] ??= field === 'address' ? claim.value : (claim.normalized ?? claim.value);
    const isOwn =
      isFilled && patch[field] === (field === 'address' ? claim.value : (claim.normalized ?? claim.value));
    const isName = field === 'companyName' && claim.value === company.name;
    await context.write.update(claim, {
      companyId: company.id,
      ...(isOwn || isName ? { fate: 'current' } : {}),
    });
  }
  if (Object.keys(patch).length) await context.write.update(company, { ...patch, updatedAt: context.now() });
}

/** Notes a fact a hand wrote as a claim, and supersedes the one that stood. */
export async function claimByHand(
  context: Context,
  owner: { personId: string } | { companyId: string },
  field: ClaimRow['field'],
  value: string,
  normalized: string | null = null,
  type: ClaimRow['type'] = null,
): Promise<void> {
  const current = await currentClaim(context, owner, field);
  if (current && !CONTACTS.has(field))
    await context.write.update(current, {
      fate: 'superseded',
      ...(current.lookUpId ? { kept: current.value.toLowerCase() === value.toLowerCase() } : {}),
    });
  await context.write.insert(ClaimRow, {
    id: context.newId(),
    captureId: null,
    ...owner,
    field,
    value,
    normalized,
    type,
    confidence: 1,
    span: null,
    source: 'entered by hand',
    byHand: true,
    actorId: context.actor?.id ?? null,
    fate: 'current',
    replaces: current?.id ?? null,
    createdAt: context.now(),
  });
}
