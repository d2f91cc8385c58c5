import { decideCompany, type Match } from '@emporikon/core/matching/verdict';
import { companyNameFromDomain } from '@emporikon/core/people/companies';
import { registrableDomain } from '@emporikon/core/people/emails';
import type { Context } from '../commands/context';
import { choiceNeeded } from '../http/problems';
import { companyCandidates } from './candidates';
import { addCompany, lockKeys } from './commands';

/**
 * Finds a company by its registrable domain, else by the verdict on its name and domain, else makes it. Safe when many
 * ask at once.
 * @throws 409 when it may be one we know and `onMaybe` is `reject`
 */
export async function findOrCreateCompany(
  context: Context,
  wanted: { name?: string | undefined; domain?: string | undefined; onMaybe: 'ask' | 'create' | 'reject' },
): Promise<{
  outcome: 'found' | 'created' | 'maybe';
  id: string | null;
  matches: Match[];
  eventId: string | null;
}> {
  const domain = wanted.domain ? (registrableDomain(wanted.domain) ?? wanted.domain) : null;
  const name = wanted.name ?? companyNameFromDomain(domain ?? '');
  await lockKeys(context, name, domain);
  const { candidates, records } = await companyCandidates(context, { name, domain });
  const sameDomain = domain ? candidates.find((candidate) => candidate.facts.domain === domain) : undefined;
  if (sameDomain) return { outcome: 'found', id: sameDomain.id, matches: [], eventId: null };
  const { kind, matches } = decideCompany({ name, domain }, candidates, { records });
  if (kind === 'same') return { outcome: 'found', id: matches[0]?.id ?? null, matches, eventId: null };
  if (kind === 'maybe' && wanted.onMaybe === 'reject')
    throw choiceNeeded(
      `This may be ${matches.map((match) => match.label).join(', or ')}. No company was made.`,
    );
  if (kind === 'maybe' && wanted.onMaybe === 'ask')
    return { outcome: 'maybe', id: null, matches, eventId: null };
  return { outcome: 'created', matches: [], ...(await addCompany(context, name, domain)) };
}
