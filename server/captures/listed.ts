import type { ListedPerson } from '@emporikon/contract/captures';
import { normalizeEmail } from '@emporikon/core/people/emails';
import { readPhone } from '@emporikon/core/people/phones';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import type { Verdict } from '@emporikon/core/matching/verdict';
import type { Listed } from '@emporikon/core/reading/types';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Capture } from '../db/models/captures';
import { knownPerson, knownPersons } from '../people/candidates';

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

/** Of a list so many are shown. */
const MOST_LISTED = 100;

/** Everybody in a list with whether we know them. */
export async function listedPeople(context: Context, capture: Capture): Promise<ListedPerson[]> {
  const listed = (capture.message.page?.people ?? []).slice(0, MOST_LISTED);
  const verdicts = await knownPersons(
    context,
    listed.map((one) => factsOf(context, one)),
  );
  const known = verdicts.flatMap(({ matches }) => matches[0]?.id ?? []);
  const owners = known.length
    ? await context.sequelize.query<{ id: string; name: string }>(
        'SELECT p.id, u.name FROM people p JOIN users u ON u.id = p.owner_id WHERE p.id IN (:known)',
        { replacements: { known }, type: QueryTypes.SELECT, transaction: context.tx },
      )
    : [];
  return listed.map((one, at) => {
    const match = verdicts[at]?.matches[0];
    return {
      name: one.name,
      url: one.url,
      jobTitle: one.jobTitle,
      companyName: one.companyName,
      verdict: verdicts[at]?.kind ?? 'new',
      person: match ? { id: match.id, name: match.label.split(',')[0] ?? match.label } : null,
      owner: owners.find(({ id }) => id === match?.id)?.name ?? null,
    };
  });
}
