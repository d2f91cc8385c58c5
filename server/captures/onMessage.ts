import type { OnMessage } from '@emporikon/contract/captures';
import { companyDomain, normalizeEmail } from '@emporikon/core/people/emails';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import { isOurs } from '@emporikon/core/reading/email/sender';
import type { Mailbox } from '@emporikon/core/reading/types';
import { Op } from 'sequelize';
import type { Context } from '../commands/context';
import { ClaimRow, type Capture } from '../db/models/captures';
import { LedgerEntry } from '../db/models/ledger';
import { Company, Person } from '../db/models/people';
import { User } from '../db/models/users';
import { invalid } from '../http/problems';
import { linkEntry } from '../ledger/write';
import { knownPersons } from '../people/candidates';
import { applyClaims } from '../people/claims';
import { makePerson } from '../people/commands';
import { lockIdentity } from '../people/identity';

/** Of a message to very many so many are shown. */
const MOST_SHOWN = 40;

/** Who of the others a message is filed on as well: by address, with the record or `new`. */
export type Also = readonly { address: string; person: string }[];

const factsOfOther = ({ name, address }: Mailbox): PersonFacts => ({
  fullName: name,
  emails: [address],
  phones: [],
  companyName: '',
});

/** Everybody on a message but us and whom it is filed on first, each address once. */
async function othersOn(context: Context, { kind, message }: Capture): Promise<Mailbox[]> {
  if (kind !== 'email') return [];
  const seen = new Set<string>();
  const all = [message.from, ...message.to].flatMap((one) => {
    const address = one ? normalizeEmail(one.address) : '';
    if (!one || !address.includes('@') || seen.has(address) || isOurs(address, context.house.ours)) return [];
    seen.add(address);
    return [{ name: one.name, address }];
  });
  const colleagues = await User.findAll({
    where: { email: { [Op.in]: [...seen] } },
    transaction: context.tx,
  });
  const ours = new Set(colleagues.map(({ email }) => email.toLowerCase()));
  return all.filter(({ address }) => !ours.has(address)).slice(0, MOST_SHOWN);
}

/**
 * Who else is on a message, and whether we know them.
 * @param addresses those of whom it is filed on first
 */
export async function peopleOnMessage(
  context: Context,
  capture: Capture,
  addresses: readonly string[],
): Promise<OnMessage[]> {
  const others = (await othersOn(context, capture)).filter(({ address }) => !addresses.includes(address));
  const verdicts = await knownPersons(context, others.map(factsOfOther));
  return others.map(({ name, address }, at) => {
    const verdict = verdicts[at];
    const [match] = verdict?.matches ?? [];
    return {
      name: name || address,
      address,
      verdict: verdict?.kind ?? 'new',
      person: match ? { id: match.id, name: match.label.split(',')[0] ?? match.label } : null,
    };
  });
}

/** The person of an address: a new one, unless somebody has it by now, for one address is one identity. */
async function addStranger(context: Context, capture: Capture, one: OnMessage): Promise<Person> {
  const facts = factsOfOther(one);
  await lockIdentity(context, facts);
  const [verdict] = await knownPersons(context, [facts]);
  const known =
    verdict?.kind === 'same'
      ? await Person.findByPk(verdict.matches[0]?.id, { transaction: context.tx })
      : null;
  if (known) return known;
  const person = await makePerson(context, one.name);
  const domain = companyDomain(one.address);
  const company = domain ? await Company.findOne({ where: { domain }, transaction: context.tx }) : null;
  const claim = await context.write.insert(ClaimRow, {
    id: context.newId(),
    captureId: capture.id,
    field: 'email',
    value: one.address,
    normalized: one.address,
    type: null,
    confidence: 0.95,
    span: null,
    source: 'the header',
    fate: 'proposed',
    createdAt: context.now(),
  });
  await applyClaims(context, person, company, [claim]);
  return person;
}

/**
 * Puts the ledger entry of a message on others who are on it as well: on those it is said of, else on those we know for
 * sure.
 * @throws 422 for an address that is not on the message, or a person who does not exist
 */
export async function fileOnOthers(
  context: Context,
  capture: Capture,
  first: Person,
  addresses: readonly string[],
  also: Also | undefined,
): Promise<string[]> {
  const others = await peopleOnMessage(context, capture, addresses);
  const entry = await LedgerEntry.findOne({ where: { captureId: capture.id }, transaction: context.tx });
  if (!entry) return [];
  const wanted =
    also ??
    others.flatMap(({ address, verdict, person }) =>
      verdict === 'same' && person ? [{ address, person: person.id }] : [],
    );
  const names: string[] = [];
  for (const { address, person: choice } of wanted) {
    const one = others.find((other) => other.address === normalizeEmail(address));
    if (!one)
      throw invalid(`${address} is not on this message.`, { fields: { also: 'is not on the message' } });
    const person =
      choice === 'new'
        ? await addStranger(context, capture, one)
        : await Person.findByPk(choice, { transaction: context.tx });
    if (!person) throw invalid('There is no such person.', { fields: { also: 'does not exist' } });
    if (person.id === first.id) continue;
    const about = { personId: person.id, companyId: person.companyId ?? null };
    await linkEntry(context, entry.id, about, address !== capture.message.from?.address.toLowerCase());
    names.push(person.fullName);
  }
  return names;
}
