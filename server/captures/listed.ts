import type { ListedPerson } from '@emporikon/contract/captures';
import { normalizeEmail } from '@emporikon/core/people/emails';
import { readPhone } from '@emporikon/core/people/phones';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import type { Verdict } from '@emporikon/core/matching/verdict';
import type { Listed } from '@emporikon/core/reading/types';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Capture } from '../db/models/captures';
import { knownPerson } from '../people/candidates';

export const factsOf = ({ house }: Context, one: Listed): PersonFacts => ({
  fullName: one.name,
  emails: one.email ? [normalizeEmail(one.email)] : [],
  phones: one.phone ? [readPhone(one.phone, [house.country])?.normalized ?? ''].filter(Boolean) : [],
  companyName: one.companyName,
  profiles: one.url ? [one.url.replace(/[?#].*$/, '').replace(/\/+$/, '')] : [],
});

export const verdictOf = async (context: Context, one: Listed): Promise<Verdict> => {
  const facts = factsOf(context, one);
  return knownPerson(context, facts);
};

/** Everybody in a list with whether we know them. */
export async function listedPeople(context: Context, capture: Capture): Promise<ListedPerson[]> {
  const listed = capture.message.page?.people ?? [];
  const result: ListedPerson[] = [];
  for (const one of listed.slice(0, 100)) {
    const verdict = await verdictOf(context, one);
    const [match] = verdict.matches;
    const [owner] = match
      ? await context.sequelize.query<{ name: string }>(
          'SELECT u.name FROM people p JOIN users u ON u.id = p.owner_id WHERE p.id = :id',
          { replacements: { id: match.id }, type: QueryTypes.SELECT, transaction: context.tx },
        )
      : [];
    result.push({
      name: one.name,
      url: one.url,
      jobTitle: one.jobTitle,
      companyName: one.companyName,
      verdict: verdict.kind,
      person: match ? { id: match.id, name: match.label.split(',')[0] ?? match.label } : null,
      owner: owner?.name ?? null,
    });
  }
  return result;
}
