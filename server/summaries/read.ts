import { termName } from '@emporikon/core/lifecycle/terms';
import type { Entry, Turn } from '@emporikon/contract/ledger';
import type { Task } from '@emporikon/contract/tasks';
import { decimalOf, minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { listCases } from '../cases/queries';
import type { Context } from '../commands/context';
import { loadTerms } from '../commands/terms';
import { companyDossier } from '../companies/queries';
import { dealDetail } from '../deals/queries';
import { entriesOf, turnOf } from '../ledger/queries';
import type { LedgerOwner } from '../ledger/page';
import { personDossier } from '../people/queries';

/** A person, a company or a deal as it stands on one sheet of paper. */
export interface Summary {
  title: string;
  /** What is said below the title, each part on its own. */
  under: string[];
  facts: [label: string, value: string][];
  sections: { title: string; lines: Line[]; none: string }[];
}
interface Line {
  /** What stands at the left: a day, a stage. */
  mark: string;
  words: string;
  /** What is said below, in full or cut where it does not fit. */
  below?: string;
  end?: string;
}

/** How whoever asks writes days and sums. */
export interface Reader {
  locale: string;
  timeZone: string;
}
/** Days and sums as the reader writes them. */
interface Wording {
  day: (iso: string) => string;
  money: (minor: number | null, currency: string) => string;
}
function wordingOf({ locale, timeZone }: Reader): Wording {
  const days = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeZone });
  const plainDays = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeZone: 'UTC' });
  return {
    day: (iso) => (iso.length === 10 ? plainDays : days).format(new Date(iso)),
    money: (minor, currency) =>
      minor === null
        ? ''
        : new Intl.NumberFormat(locale, {
            style: 'currency',
            currency,
            minimumFractionDigits: minorDigits(currency),
          }).format(Number(decimalOf(minor, currency))),
  };
}

/** Among so many entries, what was said is looked for. */
const [MOST_READ, MOST_WORDS, MOST_CASES] = [60, 8, 8];
/** What is done to records and files is no word of anybody. */
const SAID: ReadonlySet<Entry['kind']> = new Set(['mail', 'call', 'meeting', 'visit', 'form', 'note']);
const NAMES: Partial<Record<Entry['kind'], string>> = { mail: 'email' };
const SIDES: Record<Entry['side'], string> = { ours: 'We', theirs: 'They', within: 'We' };

function turnWords({ turn, since, because }: Turn, { day }: Wording): string {
  const whose = { ours: 'Our turn', theirs: 'Their turn', nobody: 'Nobody’s turn' }[turn];
  return [since ? `${whose} since ${day(since)}` : whose, because].filter(Boolean).join(': ');
}
const movesOf = (moves: readonly Task[], { day }: Wording): Summary['sections'][number] => ({
  title: 'Next moves',
  none: 'None',
  lines: moves.map(({ title, dueAt, assignee }) => ({ mark: day(dueAt), words: title, end: assignee.name })),
});

async function lastWords(
  context: Context,
  owner: readonly [LedgerOwner, string],
  { day }: Wording,
): Promise<Summary['sections'][number]> {
  const { items } = await entriesOf(context, owner, { limit: MOST_READ });
  return {
    title: 'Last words',
    none: 'Nothing was said yet',
    lines: items
      .filter(({ kind }) => SAID.has(kind))
      .slice(0, MOST_WORDS)
      .map(({ at, side, kind, headline, body, actor, people }) => ({
        mark: day(at),
        words: `${side === 'within' ? 'Note' : `${SIDES[side]}, ${NAMES[kind] ?? kind}`}: ${headline}`,
        ...(body && body !== headline ? { below: body } : {}),
        end: (owner[0] === 'personId' || side === 'within' ? actor : people[0]?.name) ?? '',
      })),
  };
}
async function casesOf(
  context: Context,
  of: { personId: string } | { companyId: string },
  { day }: Wording,
): Promise<Summary['sections'][number]> {
  const { items } = await listCases(context, { ...of, state: 'open', sort: 'dueAt', limit: MOST_CASES });
  return {
    title: 'Open cases',
    none: 'None',
    lines: items.map(({ openedAt, title, urgency, owner }) => ({
      mark: day(openedAt),
      words: urgency === 'normal' ? title : `${title} (${urgency})`,
      end: owner.name,
    })),
  };
}
interface DealRef {
  name: string;
  stage: string;
  amountMinor: number | null;
  currency: string;
}
const dealsOf = (deals: readonly DealRef[], { money }: Wording): Summary['sections'][number] => ({
  title: 'Open deals',
  none: 'None',
  lines: deals.map(({ name, stage, amountMinor, currency }) => ({
    mark: stage,
    words: name,
    end: money(amountMinor, currency),
  })),
});
const filled = (facts: readonly [string, string | null | undefined][]): Summary['facts'] =>
  facts.flatMap(([label, value]) => (value ? [[label, value] as [string, string]] : []));

export async function personSummary(context: Context, id: string, reader: Reader): Promise<Summary> {
  const wording = wordingOf(reader);
  const person = await personDossier(context, id);
  const of = (kind: 'email' | 'phone' | 'url'): string =>
    person.contacts
      .filter((one) => one.kind === kind)
      .map(({ value }) => value)
      .join(', ');
  return {
    title: person.fullName.value ?? '',
    under: [
      [person.jobTitle.value, person.company?.name].filter(Boolean).join(', '),
      turnWords(person.turn, wording),
    ],
    facts: filled([
      ['Standing', termName(await loadTerms(context), person.standingTerm ?? person.standing)],
      ['Owner', person.owner?.name],
      ['Email', of('email')],
      ['Phone', of('phone')],
      ['Address', person.address.value],
      ['Website', of('url')],
      ['Time zone', person.timeZone],
      ['Tags', person.tags.join(', ')],
      ...person.custom
        .filter(({ isPersonal }) => !isPersonal)
        .map(({ label, value }): [string, string] => [label, value]),
      ['Background', person.background.value],
    ]),
    sections: [
      movesOf(person.moves, wording),
      dealsOf(person.deals, wording),
      await casesOf(context, { personId: id }, wording),
      await lastWords(context, ['personId', id], wording),
    ],
  };
}

export async function companySummary(context: Context, id: string, reader: Reader): Promise<Summary> {
  const wording = wordingOf(reader);
  const company = await companyDossier(context, id);
  return {
    title: company.name,
    under: [company.industry ?? '', turnWords(company.turn, wording)],
    facts: filled([
      ['Owner', company.owner?.name],
      ['Domain', company.domain],
      ['Phone', company.phone],
      ['Address', company.address],
      ['Country', company.country],
      ['Employees', company.employees === null ? null : String(company.employees)],
      ['Branch of', company.parent?.name],
      [
        'People',
        company.people.map(({ name, jobTitle }) => (jobTitle ? `${name} (${jobTitle})` : name)).join(', '),
      ],
    ]),
    sections: [
      movesOf(company.moves, wording),
      dealsOf(company.deals, wording),
      await casesOf(context, { companyId: id }, wording),
      await lastWords(context, ['companyId', id], wording),
    ],
  };
}

export async function dealSummary(context: Context, id: string, reader: Reader): Promise<Summary> {
  const wording = wordingOf(reader);
  const deal = await dealDetail(context, id);
  const { day, money } = wording;
  return {
    title: deal.title,
    under: [deal.company?.name ?? '', turnWords(await turnOf(context, 'dealId', id), wording)],
    facts: filled([
      ['Stage', `${deal.stage.name}, since ${day(deal.stageSince)}`],
      ['Value', money(deal.amountMinor, deal.currency)],
      ['Expected close', deal.expectedClose && day(deal.expectedClose)],
      ['Owner', deal.owner.name],
      ['Closed', deal.closedAt && [day(deal.closedAt), deal.closeReason].filter(Boolean).join(', ')],
      ['Tags', deal.tags.join(', ')],
    ]),
    sections: [
      movesOf(deal.moves, wording),
      {
        title: 'People',
        none: 'None',
        lines: deal.people.map(({ name, role, jobTitle }) => ({
          mark: role,
          words: name,
          end: jobTitle ?? '',
        })),
      },
      await lastWords(context, ['dealId', id], wording),
    ],
  };
}
