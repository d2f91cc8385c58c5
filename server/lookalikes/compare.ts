import type { Claim } from '@emporikon/contract/captures';
import type { ComparedField, Comparison } from '@emporikon/contract/lookAlikes';
import type { PersonDossier } from '@emporikon/contract/people';
import type { CompanyDossier } from '@emporikon/contract/companies';
import { comparePeople, type Reason } from '@emporikon/core/matching/evidence';
import { compareCompanyFacts } from '@emporikon/core/matching/firms';
import { nearerStanding, proposeSurvivor, proposeValue, whyProposed } from '@emporikon/core/matching/merging';
import { toProbability, scalesOf } from '@emporikon/core/matching/verdict';
import { termName } from '@emporikon/core/lifecycle/terms';
import type { Context } from '../commands/context';
import { loadTerms } from '../commands/terms';
import { companyDossier } from '../companies/queries';
import { bookOf } from '../people/book';
import { personDossier } from '../people/queries';
import type { RecordKind } from './links';
import { workOf, type Work } from './work';

type Value = ComparedField['values'][number];

const held = (
  recordId: string,
  value: string | null,
  claim: Claim | null | undefined,
  since: string,
): Value => ({
  recordId,
  value,
  source: value === null ? null : (claim?.source ?? null),
  at: value === null ? null : (claim?.at ?? since),
  byHand: claim?.byHand ?? false,
  confidence: claim?.confidence ?? null,
  captureId: claim?.captureId ?? null,
});

/** A field of which one value stays. */
function choice(field: string, label: string, values: Value[], survivorId: string): ComparedField {
  const facts = values.map((value) => ({ ...value, at: value.at ?? '' }));
  const said = values.filter((value) => value.value !== null);
  const isSame = new Set(said.map((one) => one.value)).size < 2;
  const mine = said.find((one) => one.recordId === survivorId);
  const proposed = isSame ? ((mine ?? said[0])?.recordId ?? null) : proposeValue(facts);
  return { field, label, values, choice: true, proposed, why: proposed ? whyProposed(facts, proposed) : '' };
}

/** A field of which all values stay. */
const beside = (field: string, label: string, values: Value[]): ComparedField => ({
  field,
  label,
  values,
  choice: false,
  proposed: 'both',
  why: 'all are kept',
});

/** Nobody loses a record because it was merged: the owner of the one that stays keeps it. */
const keepsOwner = (field: ComparedField, survivorId: string): ComparedField =>
  field.values.some((value) => value.recordId === survivorId && value.value !== null)
    ? { ...field, proposed: survivorId, why: field.why ? 'owns the one that stays' : '' }
    : field;

const joined = (values: readonly string[]): string | null => (values.length ? values.join(', ') : null);

/** What a record is called to be, by its own term. */
type Called = (key: string) => string;

function personFields(people: readonly PersonDossier[], survivorId: string, called: Called): ComparedField[] {
  const of = (pick: (one: PersonDossier) => [string | null, Claim | null | undefined]): Value[] =>
    people.map((person) => {
      const [value, claim] = pick(person);
      return held(person.id, value, claim, person.since);
    });
  const contacts = (kinds: readonly string[]): Value[] =>
    of((one) => {
      const mine = one.contacts.filter((each) => kinds.includes(each.kind));
      return [joined(mine.map((each) => each.value)), mine[0]?.claim];
    });
  const pick = (
    field: string,
    label: string,
    from: (one: PersonDossier) => [string | null, Claim | null | undefined],
  ): ComparedField => choice(field, label, of(from), survivorId);
  const standing = nearerStanding(people.map((person) => person.standing));
  const standings = pick('standing', 'Standing', (one) => [called(one.standingTerm ?? one.standing), null]);
  const nearest = people.filter((person) => person.standing === standing);
  const survivor = nearest.find(({ id }) => id === survivorId);
  // Of two that count as the same, a term of the organisation's own says more.
  const tellsMore = nearest.find(({ standingTerm }) => standingTerm !== null);
  const background = pick('background', 'Background', (one) => [one.background.value, one.background.claim]);
  const backgrounds = background.values.filter((value) => value.value !== null);
  const custom = [...new Map(people.flatMap((person) => person.custom).map((one) => [one.key, one.label]))];
  return [
    pick('fullName', 'Name', (one) => [one.fullName.value, one.fullName.claim]),
    pick('jobTitle', 'Job title', (one) => [one.jobTitle.value, one.jobTitle.claim]),
    pick('companyId', 'Company', (one) => [one.company?.name ?? null, one.companyClaim]),
    beside('email', 'Addresses', contacts(['email'])),
    beside('phone', 'Numbers', contacts(['phone'])),
    beside('page', 'Pages', contacts(['url', 'profile'])),
    pick('address', 'Postal address', (one) => [one.address.value, one.address.claim]),
    pick('birthday', 'Birthday', (one) => [one.birthday, null]),
    pick('timeZone', 'Time zone', (one) => [one.timeZone, null]),
    {
      ...standings,
      proposed:
        (survivor?.standingTerm ? survivor : (tellsMore ?? survivor ?? nearest[0]))?.id ?? standings.proposed,
      why: new Set(standings.values.map(({ value }) => value)).size > 1 ? 'the nearer' : 'the same in both',
    },
    keepsOwner(
      pick('ownerId', 'Owner', (one) => [one.owner?.name ?? null, null]),
      survivorId,
    ),
    backgrounds.length > 1 && new Set(backgrounds.map((background) => background.value)).size > 1
      ? { ...background, proposed: 'both', why: 'one under the other' }
      : background,
    ...custom.map(([key, label]) =>
      pick(`custom:${key}`, label, (one) => {
        const mine = one.custom.find((each) => each.key === key);
        return [mine?.value || null, mine?.claim];
      }),
    ),
    beside(
      'tags',
      'Tags',
      of((one) => [joined(one.tags), null]),
    ),
    beside(
      'lists',
      'Lists',
      of((one) => [joined(one.lists.map((list) => list.name)), null]),
    ),
  ];
}

function companyFields(
  companies: readonly CompanyDossier[],
  survivorId: string,
  called: Called,
): ComparedField[] {
  const pick = (
    field: string,
    label: string,
    from: (one: CompanyDossier) => string | null,
    claimed?: Claim['field'],
  ): ComparedField =>
    choice(
      field,
      label,
      companies.map((company) =>
        held(
          company.id,
          from(company),
          company.claims.find((claim) => claim.field === claimed),
          company.since,
        ),
      ),
      survivorId,
    );
  const kinds = pick('kind', 'Kind', (one) => called(one.kindTerm ?? one.kind));
  // What a company is made as says nothing; whatever somebody made of it does.
  const isTold = ({ kind, kindTerm }: CompanyDossier): boolean => kindTerm !== null || kind !== 'firm';
  const told = companies.filter(isTold);
  const tells = told.find(({ id }) => id === survivorId) ?? told[0];
  return [
    pick('name', 'Name', (one) => one.name, 'companyName'),
    pick('domain', 'Domain', (one) => one.domain),
    pick('phone', 'Number', (one) => one.phone, 'phone'),
    pick('address', 'Postal address', (one) => one.address, 'address'),
    pick('url', 'Page', (one) => one.url, 'url'),
    { ...kinds, proposed: tells?.id ?? kinds.proposed },
    pick('parentId', 'Branch of', (one) => one.parent?.name ?? null),
    keepsOwner(
      pick('ownerId', 'Owner', (one) => one.owner?.name ?? null),
      survivorId,
    ),
  ];
}

const sumOf = (works: readonly Work[]): Work =>
  works.reduce(
    (sum, one) =>
      Object.fromEntries(Object.entries(sum).map(([key, n]) => [key, n + one[key as keyof Work]])) as Work,
    {
      ledger: 0,
      leads: 0,
      deals: 0,
      tasks: 0,
      contacts: 0,
      people: 0,
      lists: 0,
      tags: 0,
      files: 0,
      claims: 0,
    },
  );
const total = (work: Work): number => Object.values(work).reduce((sum, one) => sum + one, 0);

const personFacts = (one: PersonDossier) => {
  const of = (kind: string): string[] =>
    one.contacts.filter((each) => each.kind === kind).map((each) => each.normalized);
  return {
    fullName: one.fullName.value ?? '',
    emails: of('email'),
    phones: of('phone'),
    profiles: of('profile'),
    companyName: one.company?.name ?? '',
    birthday: one.birthday,
  };
};

type Weighed = Pick<Comparison, 'reasons' | 'probability'>;

/**
 * What speaks for and against every two of them being one, as the verdict on a capture weighs it; what several pairs have is
 * said once.
 */
async function weighed(
  context: Context,
  kind: RecordKind,
  people: readonly PersonDossier[],
  companies: readonly CompanyDossier[],
): Promise<Weighed> {
  const records = people.length ? people : companies;
  const first = people[0];
  const facts = people.map(personFacts);
  const phones = [...new Set(facts.flatMap((one) => one.phones))];
  const { switchboards, ...book } = await bookOf(context, kind, first?.fullName.value ?? '', phones);
  const { scales, prior } = scalesOf(book);
  const between = (a: number, b: number): Reason[] => {
    const [mine, theirs, one, other] = [facts[a], facts[b], companies[a], companies[b]];
    if (mine && theirs) return comparePeople({ ...mine, switchboards }, theirs, scales);
    return one && other ? compareCompanyFacts(one, other, scales) : [];
  };
  const found = new Map<string, { bits: number; weight: string; pairs: [string, string][] }>();
  let probability = 1;
  for (const [a, one] of records.entries())
    for (const [b, other] of records.entries()) {
      if (a >= b) continue;
      const reasons = between(a, b);
      probability = Math.min(
        probability,
        toProbability(prior + reasons.reduce((sum, reason) => sum + reason.bits, 0)),
      );
      for (const { text, bits, weight } of reasons) {
        const known = found.get(text) ?? { bits: 0, weight, pairs: [] };
        known.pairs.push([one.id, other.id]);
        found.set(text, Math.abs(bits) > Math.abs(known.bits) ? { ...known, bits, weight } : known);
      }
    }
  const reasons = [...found]
    .sort(([, x], [, y]) => Math.abs(y.bits) - Math.abs(x.bits))
    .map(([text, { bits, weight, pairs }]) => ({
      text,
      weight: weight.replace(', against', ''),
      isAgainst: bits < 0,
      pairs,
    }));
  return { reasons, probability };
}

/**
 * Records side by side: each field with its values, their sources and ages, the value that is proposed to stay, and what
 * hangs on each record.
 * @throws 404
 */
export async function compareRecords(
  context: Context,
  kind: RecordKind,
  ids: readonly string[],
  survivor?: string,
): Promise<Comparison> {
  const people: PersonDossier[] = [];
  const companies: CompanyDossier[] = [];
  for (const id of ids)
    if (kind === 'person') people.push(await personDossier(context, id));
    else companies.push(await companyDossier(context, id));
  const works = await workOf(context, kind, ids);
  const workFor = (id: string): Work => works.get(id) ?? sumOf([]);
  const records = [
    ...people.map((person) => ({
      id: person.id,
      name: person.fullName.value ?? '',
      hint: [person.jobTitle.value, person.company?.name].filter(Boolean).join(' · '),
      since: person.since,
      version: person.version,
      work: workFor(person.id),
    })),
    ...companies.map((company) => ({
      id: company.id,
      name: company.name,
      hint: company.domain ?? '',
      since: company.since,
      version: company.version,
      work: workFor(company.id),
    })),
  ];
  const survivorId =
    survivor ??
    proposeSurvivor(
      records.map((record) => ({ id: record.id, work: total(record.work), since: record.since })),
    );
  const terms = await loadTerms(context);
  const called: Called = (key) => termName(terms, key);
  return {
    kind,
    records,
    survivorId,
    fields:
      kind === 'person'
        ? personFields(people, survivorId, called)
        : companyFields(companies, survivorId, called),
    moves: sumOf(records.filter((record) => record.id !== survivorId).map((record) => record.work)),
    ...(await weighed(context, kind, people, companies)),
  };
}
