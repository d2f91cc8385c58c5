import { isProfileUrl } from '../links';
import { countedPlainly } from '../../people/counts';
import { companyKey, companyLikeness } from '../../people/companies';
import { registrableDomain } from '../../people/emails';
import { nameKey, nameOverlap } from '../../people/names';
import { tidy } from '../../people/text';
import { digestOf } from '../digest';
import { readIntents } from '../intents/read';
import { toneOf } from '../tone';
import type { Claim, Listed, PageFacts, PageKind, Reading, ReadOptions, Said } from '../types';
import { valueOf, type Subject } from './facts';
import { readHCards, type Cards } from './hcard';
import { outlineOf, type Outline } from './outline';
import { readPlainList } from './people';
import { isKnownName, isPersonName } from './names';
import { readOpenGraph } from './openGraph';
import { readAccount } from './account';
import { layoutOf } from './layout';
import { readMicrodata } from './microdata';
import { countriesOfPage } from './countries';
import type { Sheet } from './sheet';
import { readCompany } from './company';
import { readSchemaOrg } from './schemaOrg';
import { borneOut } from './sure';
import { many, settle, type Page } from './weigh';
import { factsFor } from './voices';

export interface PageOptions extends ReadOptions {
  /** Where the page was; empty when nobody knows. */
  url?: string;
  /** Names of our own team: a conversation is with whoever else takes part in it. */
  ourPeople?: readonly string[];
}

const SINGLE = ['fullName', 'jobTitle', 'companyName', 'address', 'birthday', 'timeZone'] as const;
const LONGEST_TEXT = 200_000;
/** Nobody's page is nested so deep; what is, is meant to hold a parser up. */
const DEEPEST = 400;
const NO_CARDS: Cards = { people: [], companies: [], conversation: [] };
function kindOf(
  outline: Outline,
  people: readonly Subject[],
  says: 'profile' | 'list' | null,
  conversation: readonly Said[],
  url: string,
): PageKind {
  const isThread = /messag|thread|conversation|inbox/i.test(url);
  const written = conversation.filter((one) => one.text && one.from);
  if (says !== 'profile' && written.length >= (isThread ? 1 : 2)) return 'messages';
  if (says === 'profile') return 'profile';
  const heading = outline.headings.find((heading) => heading.level === 1)?.text ?? '';
  const named = people.some(
    (person) => nameOverlap(valueOf(person, 'fullName'), heading) > 0.9 && heading !== '',
  );
  if (says === 'list' || (people.length >= 3 && !named)) return 'list';
  if (people.length) return 'profile';
  return 'other';
}

const listedOf = (subject: Subject): Listed => ({
  name: valueOf(subject, 'fullName'),
  url: valueOf(subject, 'profile') || subject.url,
  jobTitle: valueOf(subject, 'jobTitle'),
  companyName: valueOf(subject, 'companyName'),
  email: valueOf(subject, 'email') || null,
  phone: valueOf(subject, 'phone') || null,
});

const linesOf = (text: string): { text: string; start: number }[] => {
  let start = 0;
  return text.split('\n').map((line) => {
    const at = start;
    start += line.length + 1;
    return { text: line, start: at };
  });
};

/**
 * Reads a web page as its clipper or a fetch brought it: schema.org JSON-LD, microformats2, OpenGraph and plain words
 * are weighed against each other.
 * @param html the document; never throws, whatever it is
 * @returns claims about the one person or company it is a page of; for a list or a conversation what is in them
 */
export function readPage(html: string, options: PageOptions = {}): Reading {
  const url = options.url ?? '';
  const outline = outlineOf(html);
  const headings = outline.headings.map((one) => one.text).filter(isPersonName);
  const isHeaded = (name: string): boolean =>
    name !== '' && headings.some((one) => nameOverlap(one, name) > 0.9);
  const layout = layoutOf(html, (text) => isPersonName(text) && isKnownName(text));
  const page: Page = { html, text: layout.text.slice(0, LONGEST_TEXT) };
  const schema = readSchemaOrg(outline.data, outline.depth > DEEPEST ? [] : readMicrodata(html), isHeaded);
  const cards = outline.depth > DEEPEST ? NO_CARDS : readHCards(html.slice(0, outline.cardsEnd), url);
  const graph = readOpenGraph(outline);
  const host = registrableDomain(url);
  const people = [...cards.people, ...schema.people];
  const conversation = cards.conversation.length ? cards.conversation : schema.conversation;
  const companies = [...cards.companies, ...schema.companies];
  let kind = kindOf(outline, unique(people), schema.says, conversation, url);
  const heading = outline.headings.find((heading) => heading.level === 1)?.text ?? '';
  const isFirms = companies.some(
    (company) => companyKey(valueOf(company, 'companyName')) === companyKey(heading),
  );
  if (kind === 'profile' && !people.length && (isFirms || (companies.length && !graph.isProfile)))
    kind = 'company';
  const listed = kind === 'list' ? unique(people).map(listedOf) : [];
  if (kind === 'list' && !listed.length) listed.push(...readPlainList(outline, page.text, url));
  const sheet: Sheet = { layout, outline, url, host };
  const told = kind === 'list' || kind === 'messages' ? null : readAccount(sheet);
  // Whoever stands in a line of a firm's own page works there; the page is the firm's.
  const account = isFirms && (told?.by === 'line' || told?.by === 'title') ? null : told;
  // A page that is headed by somebody is theirs, whoever else it lists.
  if (kind === 'other' && account?.by !== 'heading') {
    const plain = readPlainList(outline, page.text, url);
    if (plain.length) [kind] = ['list', listed.push(...plain)];
  }
  if (account && kind !== 'list' && (kind === 'other' || account.by !== 'title')) kind = 'profile';
  if (kind === 'other' && isOfPerson(graph)) kind = 'profile';
  if (kind === 'other' && (companies.length || graph.company.length)) kind = 'company';
  if (kind === 'other' && isFirm(sheet)) kind = 'company';
  const facts = factsFor(
    kind,
    sheet,
    { people, companies, graph, conversation, account },
    options.ourPeople ?? [],
  );
  const contacts = many(facts, page, countriesOfPage(page.text, outline, host, options.country));
  const claims = [
    ...borneOut([...SINGLE.flatMap((field) => settle(field, facts, page)), ...contacts], sheet),
    ...ownProfile(kind, url).filter(
      (own) => !contacts.some((one) => one.field === own.field && one.normalized === own.normalized),
    ),
  ];
  return finish(
    { ...page, title: outline.title },
    { url, kind, people: listed, conversation: kind === 'messages' ? conversation : [] },
    claims,
    options,
  );
}

/** Whether what a page calls itself is somebody: it says so, or has a post beside the name, or the name is one we know. */
const isOfPerson = ({ person, isProfile }: ReturnType<typeof readOpenGraph>): boolean => {
  const name = valueOf({ kind: 'person', facts: person, url: null }, 'fullName');
  const isKnown = isKnownName(name) && companyLikeness(name) === 0;
  return person.length > 0 && (isProfile || isKnown || person.some(({ field }) => field === 'jobTitle'));
};

/** Whether the words of a page are of a firm: of one with a legal form, or one that the page is headed by and stands at. */
const isFirm = (sheet: Sheet): boolean => readCompany(sheet, '').some((fact) => fact.field !== 'companyName');

/** The page itself is a profile of theirs, if it is a page of a directory. */
const ownProfile = (kind: PageKind, url: string): Claim[] =>
  kind === 'profile' && isProfileUrl(url)
    ? [
        {
          field: 'profile',
          value: url,
          normalized: url.replace(/[?#].*$/, '').replace(/\/+$/, ''),
          confidence: 0.95,
          source: 'the page itself',
        },
      ]
    : [];

function unique(subjects: readonly Subject[]): Subject[] {
  return subjects.filter(
    (subject, index) =>
      subjects.findIndex(
        (other) => nameKey(valueOf(other, 'fullName')) === nameKey(valueOf(subject, 'fullName')),
      ) === index,
  );
}

function finish(
  page: Page & { title: string },
  facts: PageFacts,
  claims: Claim[],
  options: PageOptions,
): Reading {
  const isTalk = facts.kind === 'messages';
  const body = isTalk ? linesOf(page.text) : [];
  const intents = isTalk
    ? readIntents(
        body,
        options.receivedAt ?? '1970-01-01T00:00:00+00:00',
        options.country ? [options.country] : [],
        options.currency,
      )
    : [];
  const said = tidy(isTalk ? facts.conversation.map((one) => one.text).join(' ') : page.text).slice(0, 600);
  const name = claims.find((claim) => claim.field === 'fullName')?.value ?? '';
  return {
    kind: 'page',
    claims,
    intents,
    message: {
      from: name ? { name, address: '' } : null,
      to: [],
      subject: page.title || facts.url,
      sentAt: null,
      messageId: null,
      references: [],
      body: 'html',
      text: page.text,
      said,
      attachments: [],
      side: 'theirs',
      digest: isTalk ? digestOf(body, intents) : '',
      tone: isTalk ? toneOf(said) : null,
      page: facts,
    },
    notices:
      facts.kind === 'list' ? [`a list of ${countedPlainly(facts.people.length, 'person', 'people')}`] : [],
  };
}
