import { companyFitsDomain, companyKey, companyLikeness } from '../../people/companies';
import { localPart, registrableDomain } from '../../people/emails';
import { isRoleName } from '../../people/names';
import { addressFacts } from './account';
import { SEGMENTS, siteFirm } from './firm';
import { contactOfLink, contactsIn } from './contacts';
import type { Fact } from './facts';
import type { PageLine } from './layout';
import { isPersonName } from './names';
import { readPairs } from './pairs';
import { ownLines } from './scope';
import type { Sheet } from './sheet';

/** What stands before a firm's name in a heading: "About Nordbud AB", "Kontakt: …". */
const ABOUT =
  /^(?:about|welcome to|contact|om|über|ueber|à propos de|sobre|chi siamo[:,]?|over|kontakt|willkommen bei)\s+/i;
const MOST_LINE = 80;

function nameOf(sheet: Sheet, lines: readonly PageLine[]): Fact | null {
  const { host, layout } = sheet;
  const said = readPairs(lines).find((pair) => pair.field === 'companyName');
  if (said)
    return {
      field: 'companyName',
      value: said.value,
      origin: 'labelled lines',
      at: { part: 'text', start: said.start, end: said.start + said.value.length },
    };
  const shown = layout.read
    .filter((line) => line.text.length < MOST_LINE)
    .map((line) => ({ line, text: line.text.trim().replace(ABOUT, '') }))
    .filter(
      ({ text }) =>
        !isPersonName(text) || companyLikeness(text) > 0 || (host !== null && companyFitsDomain(text, host)),
    );
  // On a directory the name of the site is not that of the firm: its address is elsewhere.
  const own = isElsewhere(sheet, lines) ? null : siteFirm(sheet, '');
  const found =
    shown.find(
      ({ text, line }) => companyLikeness(text) >= 1 && (line.level > 0 || line.region === 'main'),
    ) ??
    shown.find(({ text, line }) => line.level === 1 && host !== null && companyFitsDomain(text, host)) ??
    (own ? undefined : shown.find(({ text, line }) => line.level === 1 && companyLikeness(text) > 0));
  // With a legal form in the title of the page, a heading that may be a slogan says less.
  const titled = sheet.outline.title
    .split(SEGMENTS)
    .find((text) => companyLikeness(text) >= 1)
    ?.trim();
  if (titled && (!found || companyLikeness(found.text) < 1))
    return { field: 'companyName', value: titled, origin: 'page text' };
  if (found) {
    const value = found.text.split(/\s[–|·—-]\s|,\s/)[0] ?? found.text;
    const start = found.line.start + found.line.text.indexOf(value);
    return {
      field: 'companyName',
      value,
      origin: found.line.level === 1 ? 'page headings' : 'page text',
      at: { part: 'text', start, end: start + value.length },
    };
  }
  return own ? { field: 'companyName', value: own, origin: 'page text' } : null;
}

/** Whether the addresses in what the page is about are all of another domain than the page. */
function isElsewhere({ host }: Sheet, lines: readonly PageLine[]): boolean {
  const domains = lines
    .flatMap(contactsIn)
    .flatMap(({ field, value }) => (field === 'email' ? [registrableDomain(value)] : []));
  return domains.length > 0 && !domains.includes(host);
}

/** An address without the firm's name before it. */
function withoutName(fact: Fact, name: string): Fact {
  const lead = `${name}, `;
  if (!name || !fact.value.startsWith(lead)) return fact;
  const value = fact.value.slice(lead.length);
  return { ...fact, value, ...(fact.at ? { at: { ...fact.at, start: fact.at.start + lead.length } } : {}) };
}

/**
 * What the words of a page tell of a firm, where they tell of nobody in it: its name, the address it is at, and how it is
 * reached, wherever on the page that stands.
 * @param known the firm that structured data names; empty where none does
 */
export function readCompany(sheet: Sheet, known: string): Fact[] {
  const { layout } = sheet;
  const main = ownLines(layout.read);
  const name = nameOf(sheet, main);
  if (!name && !known) return [];
  const contacts = (lines: readonly PageLine[]): Fact[] => {
    const within = new Set(lines);
    const links = layout.links.flatMap((link) => {
      const line = layout.lines[link.line];
      const fact = line && within.has(line) ? contactOfLink(link) : null;
      return fact ? [fact] : [];
    });
    return [...links, ...lines.flatMap(contactsIn)];
  };
  const own = contacts(main);
  const all = contacts(layout.read.filter((line) => line.region !== 'aside'));
  const first = (field: Fact['field']): Fact[] => {
    const found = [...own, ...all].filter((one) => one.field === field);
    const [fact] = found;
    // Of several people's addresses none is the firm's.
    const isShared =
      field !== 'email' ||
      found.every((one) => one.value === fact?.value) ||
      isRoleName(localPart(fact?.value ?? ''));
    return fact && isShared ? [fact] : [];
  };
  const said = readPairs(main).find(({ field, value }) => field === 'address' && /\d/.test(value));
  const labelled: Fact[] = said
    ? [
        {
          field: 'address',
          value: said.value,
          origin: 'labelled lines',
          at: { part: 'text', start: said.start, end: said.start + said.value.length },
        },
      ]
    : [];
  const address = labelled.length ? labelled : addressFacts(main);
  const isSame = name !== null && (!known || companyKey(known) === companyKey(name.value));
  return [
    ...(name && (isSame || !known) ? [name] : []),
    ...first('email'),
    ...first('phone'),
    ...(address.length ? address : addressFacts(layout.read)).map((fact) =>
      withoutName(fact, known || (name?.value ?? '')),
    ),
  ];
}
