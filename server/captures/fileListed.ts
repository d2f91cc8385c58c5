import type { Reply } from '@emporikon/contract';
import { companyDomain } from '@emporikon/core/people/emails';
import type { Listed } from '@emporikon/core/reading/types';
import { requireActor, type Context } from '../commands/context';
import { findOrMakeCompany } from '../companies/commands';
import { ClaimRow, type Capture } from '../db/models/captures';
import { Person } from '../db/models/people';
import { conflict, invalid } from '../http/problems';
import { makeLead } from '../leads/make';
import { enter } from '../ledger/write';
import { applyClaims } from '../people/claims';
import { makePerson } from '../people/commands';
import { lockIdentity } from '../people/identity';
import { organise } from '../people/organise';
import { factsOf, verdictOf } from './listed';
import { loadCapture } from './view';

interface Given {
  rows: readonly number[];
  as: 'person' | 'lead';
  tags: readonly string[];
  ownerId?: string | undefined;
  listId?: string | undefined;
}
type Results = Reply<'POST /api/captures/:id/listed'>['results'];

async function claimsOf(context: Context, capture: Capture, one: Listed): Promise<ClaimRow[]> {
  const facts = factsOf(context, one);
  const given: [ClaimRow['field'], string, string | null][] = [
    ['fullName', one.name, null],
    ['jobTitle', one.jobTitle, null],
    ['companyName', one.companyName, null],
    ['email', one.email ?? '', facts.emails[0] ?? null],
    ['phone', one.phone ?? '', facts.phones[0] ?? null],
    ['profile', one.url ?? '', facts.profiles?.[0] ?? null],
  ];
  const rows: ClaimRow[] = [];
  for (const [field, value, normalized] of given)
    if (value && (normalized || !['phone', 'email', 'profile'].includes(field)))
      rows.push(
        await context.write.insert(ClaimRow, {
          id: context.newId(),
          captureId: capture.id,
          field,
          value,
          normalized,
          type: field === 'phone' ? 'work' : null,
          confidence: 0.9,
          span: null,
          source: 'the list',
          fate: 'proposed',
          createdAt: context.now(),
        }),
      );
  return rows;
}

async function fileOne(
  context: Context,
  capture: Capture,
  one: Listed,
  given: Given,
): Promise<Omit<Results[number], 'row'>> {
  // Nobody else may make the same person between the look and the making.
  await lockIdentity(context, factsOf(context, one));
  const verdict = await verdictOf(context, one);
  const [match] = verdict.matches;
  if (verdict.kind === 'maybe' && match)
    return {
      outcome: 'maybe',
      person: { id: match.id, name: match.label },
      reason: `may be ${match.label}; open the profile to decide`,
    };
  const known =
    verdict.kind === 'same' && match
      ? await Person.findByPk(match.id, { transaction: context.tx, lock: true })
      : null;
  const person = known ?? (await makePerson(context, one.name));
  const company = one.companyName
    ? await findOrMakeCompany(context, one.companyName, one.email ? companyDomain(one.email) : null)
    : null;
  await applyClaims(context, person, company, await claimsOf(context, capture, one));
  await organise(context, person, given);
  const lead =
    given.as === 'lead' && !known
      ? await makeLead(context, person, {
          title: one.companyName || one.name,
          companyId: company?.id ?? null,
          source: 'web profile',
          ...(given.ownerId ? { ownerId: given.ownerId } : {}),
        })
      : null;
  await enter(
    context,
    {
      side: 'within',
      kind: 'note',
      headline: `Seen on the list “${capture.message.subject}”`,
      captureId: capture.id,
    },
    { personId: person.id, companyId: company?.id, leadId: lead?.id },
  );
  return {
    outcome: known ? 'known' : 'filed',
    person: { id: person.id, name: person.fullName },
    reason: known ? 'was known; tags and facts were added' : '',
  };
}

/**
 * Files some of the people of a list, each by its own verdict. One that cannot be filed does not hold the others up.
 * @throws 409 when the capture is no list
 */
export async function fileListed(
  context: Context,
  captureId: string,
  given: Given,
): Promise<{ results: Results }> {
  const capture = await loadCapture(context, captureId, true);
  const listed = capture.message.page?.people ?? [];
  if (!listed.length) throw conflict('This capture is not a list of people.');
  const results: Results = [];
  for (const row of given.rows) {
    const one = listed[row];
    if (!one) {
      results.push({ row, outcome: 'refused', person: null, reason: 'there is no such row' });
      continue;
    }
    results.push({ row, ...(await fileOne(context, capture, one, given)) });
  }
  if (results.every((result) => result.outcome === 'refused'))
    throw invalid('None of these rows is in the list.');
  if (capture.state === 'waiting')
    await context.write.update(capture, { state: 'filed', filedAt: context.now() });
  await context.write.event(
    'file listed',
    `Filed ${results.filter((result) => result.outcome === 'filed').length} of a list`,
    requireActor(context).id,
  );
  return { results };
}
