import type { Suggestion } from '@emporikon/contract/lookups';
import type { FactField } from '@emporikon/core/lookups/facts';
import { asClaims } from '../../captures/view';
import { requireActor, type Context } from '../../commands/context';
import { ClaimRow } from '../../db/models/captures';
import { Company, ContactPoint, Person } from '../../db/models/people';
import { hiddenKeys } from '../../fields/rights';
import { conflict, notFound } from '../../http/problems';
import { heldOf, type LookUpRecord } from '../planning/known';
import { writeFact } from '../applying/write';

/** What stands there now for the field of a suggestion. */
function standing(looked: LookUpRecord, claim: ClaimRow): { held: string | null; heldSource: string | null } {
  const { person } = looked;
  if (claim.companyId === null && person) {
    const own: Record<string, string | null | undefined> = {
      fullName: person.fullName,
      address: person.address,
      birthday: person.birthday,
      ...Object.fromEntries(
        Object.entries(person.custom ?? {}).map(([key, value]) => [`custom:${key}`, value]),
      ),
    };
    if (claim.field in own) {
      const current = looked.claims.find(
        (one) => one.field === claim.field && one.personId === person.id && one.fate === 'current',
      );
      return { held: own[claim.field] ?? null, heldSource: current?.source ?? null };
    }
  }
  const held = heldOf(looked, claim.companyId === null ? 'person' : 'company', claim.field as FactField);
  return { held: held?.value ?? null, heldSource: held?.claim?.source ?? null };
}

/** Values that disagree with what stands, or wait to fill a blank, each with both sources. */
export async function suggestionsFor(context: Context, looked: LookUpRecord): Promise<Suggestion[]> {
  const hidden = await hiddenKeys(context);
  const proposed = looked.claims.filter(
    ({ fate, field }) =>
      fate === 'proposed' && !(field.startsWith('custom:') && hidden.has(field.slice('custom:'.length))),
  );
  const shown = await asClaims(context, proposed);
  return proposed.flatMap((claim, at) => {
    const view = shown[at];
    const { held, heldSource } = standing(looked, claim);
    if (!view || held?.toLowerCase() === claim.value.toLowerCase()) return [];
    return [
      { claim: view, about: claim.companyId === null ? 'person' : 'company', held, heldSource } as const,
    ];
  });
}

async function openSuggestion(context: Context, id: string): Promise<ClaimRow> {
  const claim = await ClaimRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!claim || (!claim.personId && !claim.companyId)) throw notFound('There is no such suggestion.');
  if (claim.fate !== 'proposed') throw conflict('This suggestion was decided already.');
  return claim;
}

const CONTACTS = new Set(['email', 'phone', 'url', 'profile']);

/** Takes a suggested value over. What stood there is superseded; an answer of a source that it replaces counts as not kept. */
export async function acceptSuggestion(context: Context, id: string): Promise<string | null> {
  const claim = await openSuggestion(context, id);
  const options = { transaction: context.tx, lock: true };
  const person =
    claim.companyId === null && claim.personId ? await Person.findByPk(claim.personId, options) : null;
  const company = claim.companyId ? await Company.findByPk(claim.companyId, options) : null;
  const about = company ? 'company' : 'person';
  const value = CONTACTS.has(claim.field) ? (claim.normalized ?? claim.value) : claim.value;
  const isThere =
    person && CONTACTS.has(claim.field)
      ? await ContactPoint.findOne({
          where: { personId: person.id, normalized: value },
          transaction: context.tx,
        })
      : null;
  if (!isThere && !(await writeFact(context, about, { person, company }, claim.field, value)))
    throw conflict(`${claim.value} cannot be used: it belongs to another record, or is not valid.`);
  const replaced = CONTACTS.has(claim.field)
    ? []
    : await ClaimRow.findAll({
        where: {
          ...(company ? { companyId: company.id } : { personId: claim.personId }),
          field: claim.field,
          fate: 'current',
        },
        transaction: context.tx,
      });
  for (const one of replaced)
    await context.write.update(one, { fate: 'superseded', ...(one.lookUpId ? { kept: false } : {}) });
  await context.write.update(claim, {
    fate: 'current',
    kept: claim.lookUpId ? true : null,
    actorId: requireActor(context).id,
  });
  return context.write.event('take suggestion', `Took ${claim.value}`, requireActor(context).id);
}

/** Refuses a suggested value; the same is not brought again. */
export async function refuseSuggestion(context: Context, id: string): Promise<string | null> {
  const claim = await openSuggestion(context, id);
  await context.write.update(claim, {
    fate: 'rejected',
    kept: claim.lookUpId ? false : null,
    actorId: requireActor(context).id,
  });
  return context.write.event('refuse suggestion', `Refused ${claim.value}`, requireActor(context).id);
}
