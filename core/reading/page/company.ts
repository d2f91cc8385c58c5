import { companyFitsDomain, companyKey, companyLikeness } from '../../people/companies';
import { addressFacts, siteFirm } from './account';
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
    .filter(({ text }) => !isPersonName(text) || (host !== null && companyFitsDomain(text, host)));
  const found =
    shown.find(
      ({ text, line }) => companyLikeness(text) >= 1 && (line.level > 0 || line.region === 'main'),
    ) ??
    shown.find(({ text, line }) => line.level === 1 && host !== null && companyFitsDomain(text, host)) ??
    shown.find(({ text, line }) => line.level === 1 && companyLikeness(text) > 0);
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
  const own = siteFirm(sheet, '');
  return own ? { field: 'companyName', value: own, origin: 'page text' } : null;
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
    const [fact] = [...own, ...all].filter((one) => one.field === field);
    return fact ? [fact] : [];
  };
  const address = addressFacts(main);
  const isSame = name !== null && (!known || companyKey(known) === companyKey(name.value));
  return [
    ...(name && (isSame || !known) ? [name] : []),
    ...first('email'),
    ...first('phone'),
    ...(address.length ? address : addressFacts(layout.read)),
  ];
}
