import { countedPlainly } from '../../people/counts';
import { companyKey } from '../../people/companies';
import { isEmail, normalizeEmail, registrableDomain } from '../../people/emails';
import { nameKey, nameOverlap, parseName } from '../../people/names';
import { readPhone } from '../../people/phones';
import { fold, tidy } from '../../people/text';
import { digestOf } from '../digest';
import { textOfHtml } from '../html';
import { readIntents } from '../intents/read';
import { toneOf } from '../tone';
import type { Claim, Listed, PageFacts, PageKind, Reading, ReadOptions, Said } from '../types';
import { valueOf, type Fact, type Origin, type Subject } from './facts';
import { readHCards, type Cards } from './hcard';
import { outlineOf, type Outline } from './outline';
import { readPlainList } from './people';
import { usableValue } from '../usable';
import { isPersonName, readOpenGraph } from './plain';
import { readSchemaOrg } from './schemaOrg';
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
/** How much each voice of a page counts when they contradict each other: what readers see before what only machines do. */
const VOICE: Record<Origin, number> = {
  'h-card': 3,
  'schema.org data': 2.6,
  'page headings': 2.5,
  'page links': 2.4,
  'page text': 1.8,
  OpenGraph: 1.5,
};
const SURE: Record<Origin, number> = {
  'h-card': 0.96,
  'schema.org data': 0.95,
  'page headings': 0.88,
  'page links': 0.92,
  'page text': 0.86,
  OpenGraph: 0.85,
};

interface Page {
  outline: Outline;
  text: string;
  html: string;
}

const keyOf = (fact: Fact): string =>
  fact.field === 'fullName'
    ? nameKey(fact.value)
    : fact.field === 'companyName'
      ? companyKey(fact.value)
      : fold(fact.value);

/** The stretch a fact was read from: in the text that is shown if it stands there, else in the source. */
function spanOf(fact: Fact, { text, html }: Page): Fact['at'] {
  if (fact.at) return fact.at;
  const shown = text.indexOf(fact.value);
  if (shown >= 0) return { part: 'text', start: shown, end: shown + fact.value.length };
  const source = html.indexOf(fact.value);
  return source < 0 ? undefined : { part: 'source', start: source, end: source + fact.value.length };
}

/** A fact in the form it is kept in, and where it was said; none where it cannot be what it says it is. */
function usable(fact: Fact, page: Page): Fact[] {
  const value = usableValue(fact.field, fact.value);
  if (value === null || value === fact.value) return value === null ? [] : [fact];
  const at = spanOf(fact, page);
  return [{ ...fact, value, ...(at ? { at } : {}) }];
}

/** One value of a field of which there is one: the voices that agree are added up, and the strongest value is taken. */
function settle(field: Claim['field'], facts: readonly Fact[], page: Page): Claim[] {
  const votes = new Map<string, { weight: number; facts: Fact[] }>();
  for (const fact of facts.filter((fact) => fact.field === field).flatMap((fact) => usable(fact, page))) {
    const key = keyOf(fact);
    const vote = votes.get(key) ?? { weight: 0, facts: [] };
    if (!vote.facts.some((one) => one.origin === fact.origin)) vote.weight += VOICE[fact.origin];
    vote.facts.push(fact);
    votes.set(key, vote);
  }
  const ranked = [...votes.values()].sort((a, b) => b.weight - a.weight);
  const [best, second] = ranked;
  const fact = best?.facts.reduce((top, one) => (VOICE[one.origin] > VOICE[top.origin] ? one : top));
  if (!best || !fact) return [];
  const origins = [...new Set(best.facts.map((fact) => fact.origin))];
  const contested = second !== undefined && second.weight > best.weight / 2;
  const confidence = contested
    ? Math.min(0.8, SURE[fact.origin])
    : origins.length > 1
      ? 0.98
      : SURE[fact.origin];
  const span = spanOf(fact, page);
  return [
    {
      field,
      value: field === 'fullName' ? parseName(fact.value).fullName || fact.value : fact.value,
      confidence,
      ...(span ? { span } : {}),
      source: `${origins.join(' and ')}${contested ? '; the page contradicts itself' : ''}`,
    },
  ];
}

/** Addresses, numbers and links, each once. */
function many(facts: readonly Fact[], page: Page, country: string | undefined): Claim[] {
  const claims: Claim[] = [];
  for (const fact of facts) {
    const { field, value, origin } = fact;
    const span = spanOf(fact, page);
    const base = { field, value, confidence: SURE[origin], ...(span ? { span } : {}), source: origin };
    let claim: Claim | null = null;
    const isGlued =
      field === 'email' &&
      claims.some((claim) => claim.field === 'email' && value.toLowerCase().endsWith(claim.normalized ?? ''));
    if (field === 'email' && isEmail(value) && !isGlued)
      claim = { ...base, normalized: normalizeEmail(value) };
    else if (field === 'phone') {
      const read = readPhone(value, country ? [country] : ['GB']);
      if (read)
        claim = {
          ...base,
          normalized: read.normalized,
          type: fact.type ?? read.type ?? 'work',
          confidence: /^\s*(?:\+|00)/.test(value) ? base.confidence : Math.min(base.confidence, 0.75),
        };
    } else if ((field === 'url' || field === 'profile') && /^https?:\/\/[^\s/]+\.\S+$/i.test(value))
      claim = { ...base, normalized: value.replace(/\/+$/, '') };
    if (claim && !claims.some((one) => one.field === field && one.normalized === claim.normalized))
      claims.push(claim);
  }
  return claims;
}

function kindOf(
  page: Page,
  people: readonly Subject[],
  says: 'profile' | 'list' | null,
  conversation: readonly Said[],
  url: string,
): PageKind {
  const isThread = /messag|thread|conversation|inbox/i.test(url);
  const written = conversation.filter((one) => one.text && one.from);
  if (says !== 'profile' && written.length >= (isThread ? 1 : 2)) return 'messages';
  if (says === 'profile') return 'profile';
  const heading = page.outline.headings.find((heading) => heading.level === 1)?.text ?? '';
  const named = people.some(
    (person) => nameOverlap(valueOf(person, 'fullName'), heading) > 0.9 && heading !== '',
  );
  if (says === 'list' || (people.length >= 3 && !named)) return 'list';
  if (people.length || isPersonName(heading)) return 'profile';
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
  const page: Page = { outline, html, text: textOfHtml(html).text.slice(0, LONGEST_TEXT) };
  const schema = readSchemaOrg(outline.data);
  const cards = outline.depth > DEEPEST ? NO_CARDS : readHCards(html.slice(0, outline.cardsEnd), url);
  const graph = readOpenGraph(outline);
  const host = registrableDomain(url);
  const people = [...cards.people, ...schema.people];
  const conversation = cards.conversation.length ? cards.conversation : schema.conversation;
  const companies = [...cards.companies, ...schema.companies];
  let kind = kindOf(page, unique(people), schema.says, conversation, url);
  const heading = outline.headings.find((heading) => heading.level === 1)?.text ?? '';
  const isFirms = companies.some(
    (company) => companyKey(valueOf(company, 'companyName')) === companyKey(heading),
  );
  if (kind === 'profile' && !people.length && (isFirms || (companies.length && !graph.isProfile)))
    kind = 'company';
  if (kind === 'other' && graph.person.length) kind = 'profile';
  const listed = kind === 'list' ? unique(people).map(listedOf) : [];
  if (kind === 'list' && !listed.length) listed.push(...readPlainList(outline, page.text, url));
  if (kind === 'other') {
    const plain = readPlainList(outline, page.text, url);
    if (plain.length) [kind] = ['list', listed.push(...plain)];
  }
  if (kind === 'other' && (companies.length || graph.company.length)) kind = 'company';
  const facts = factsFor(
    kind,
    page,
    { people, companies, graph, conversation, host },
    options.ourPeople ?? [],
  );
  const told = many(facts, page, options.country);
  const claims = [
    ...SINGLE.flatMap((field) => settle(field, facts, page)),
    ...told,
    ...ownProfile(kind, url).filter(
      (own) => !told.some((one) => one.field === own.field && one.normalized === own.normalized),
    ),
  ];
  return finish(
    page,
    { url, kind, people: listed, conversation: kind === 'messages' ? conversation : [] },
    claims,
    options,
  );
}

/** The page itself is a profile of theirs, if it is a page of a directory. */
const ownProfile = (kind: PageKind, url: string): Claim[] =>
  kind === 'profile' && /rollcall|\/(?:in|people|profile|profiles|members?|u|user)\//i.test(url)
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

function finish(page: Page, facts: PageFacts, claims: Claim[], options: PageOptions): Reading {
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
      subject: page.outline.title || facts.url,
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
