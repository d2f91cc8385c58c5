import { companyFitsDomain, companyLikeness, LEGAL_FORM } from '../../people/companies';
import { companyDomain, localPart, registrableDomain } from '../../people/emails';
import { alternatives } from '../../words/compile';
import { isRoleName, nameFitsLocalPart, nameOverlap } from '../../people/names';
import { contactOfLink, contactsIn } from './contacts';
import { textFact, type Fact } from './facts';
import type { PageLine } from './layout';
import { isPersonName } from './names';
import type { Sheet } from './sheet';

/** How sites call the parts that tell of others: their members, exhibitors, suppliers, adverts. Common practice. */
const DIRECTORY = new RegExp(String.raw`\/(?:${alternatives('directoryPath')})\/`, 'i');
export const SEGMENTS = /\s+[|·•–—-]\s+|\s*\|\s*|\s*[,:]\s+/;

/** The addresses a page shows or links to. */
const emailsOn = ({ layout }: Sheet): string[] =>
  [...layout.read.flatMap(contactsIn), ...layout.links.flatMap((link) => contactOfLink(link) ?? [])].flatMap(
    ({ field, value }) => (field === 'email' ? [value] : []),
  );

/** Whether some address on the page that is nobody's function is at the domain of the page. */
const isTheirSite = (sheet: Sheet): boolean =>
  emailsOn(sheet).some((email) => registrableDomain(email) === sheet.host && !isRoleName(localPart(email)));

const MENU =
  /^(?:home|about|shop|store|contact|services|products|blog|news|jobs|careers|team|login|cart|search|wholesale|menu|start|presse|kontakt|produkte|accueil|boutique|contacto|inicio|tienda)$/i;

/** A line of the places of a site: "Shop Wholesale About". */
const isMenu = (text: string): boolean => text.split(' ').filter((word) => MENU.test(word)).length > 1;

/** What a site calls itself, where an address on it is at the domain of that name. */
function namedSite(sheet: Sheet): string | null {
  const name = sheet.outline.meta.get('og:site_name')?.text.trim() ?? '';
  const fits = emailsOn(sheet).some((email) => companyFitsDomain(name, registrableDomain(email) ?? ''));
  return name && fits ? name : null;
}

/** The firm whose site a page is on, from its title and foot; null where the site is a directory, or says no name. */
export function siteFirm(sheet: Sheet, name: string): string | null {
  const { outline, host, layout, url } = sheet;
  if (!host || (DIRECTORY.test(url) && !isTheirSite(sheet))) return null;
  if (outline.meta.get('og:type')?.text.toLowerCase() === 'profile') return null;
  const shown = [
    ...[outline.title, outline.meta.get('og:title')?.text ?? ''].flatMap((title) => {
      const bare = nameOverlap(title, name) >= 0.99 ? title.replace(name, '') : title;
      return bare.split(SEGMENTS);
    }),
    outline.meta.get('og:site_name')?.text ?? '',
    ...layout.read
      .filter((line) => line.region === 'site' || LEGAL_FORM.test(line.text))
      .flatMap((line) => line.text.split(/\s*[©·|•\t]\s*|\s+[–—-]\s+|,\s/))
      .map((text) => text.replace(/^(?:copyright|\(c\))?\s*(?:\d{4}(?:\s*[-–]\s*\d{4})?)?\s*/i, '')),
  ]
    .map((text) => text.trim())
    .filter(
      (text) =>
        text.length > 1 &&
        text.length < 60 &&
        !/[@]|https?:/.test(text) &&
        !isMenu(text) &&
        nameOverlap(text, name) < 0.9,
    );
  const fits = shown.filter((text) => companyFitsDomain(text, host) && /^[\p{Lu}\p{Lo}\d]/u.test(text));
  return fits.find((text) => companyLikeness(text) >= 1) ?? fits[0] ?? namedSite(sheet);
}

/** Parts of a house that are no house of their own. */
const DEPARTMENT =
  /^(?:the\s)?(?:school|department|dept|faculty|division|directorate|team|unit|centre|center|office|institute|abteilung|fachbereich|referat|institut|service|direction|departamento|área|afdeling|avdelning|afdeling)\b/i;

/**
 * "Partner, Employment Law" on the site of a firm whose address they have: what stands beside the post is a department, where nothing
 * says it is a firm; and so is "School of Geography" below it.
 */
export function withoutDepartment(sheet: Sheet, name: string, facts: readonly Fact[]): Fact[] {
  const [post, beside] = (['jobTitle', 'companyName'] as const).map((field) =>
    facts.find((fact) => fact.field === field),
  );
  const { host, layout } = sheet;
  if (!post || !beside || !host || companyFitsDomain(beside.value, host)) return [...facts];
  const isTheirs = emailsOn(sheet).some(
    (email) => registrableDomain(email) === host && nameFitsLocalPart(name, localPart(email)),
  );
  if (!isTheirs || !siteFirm(sheet, name)) return [...facts];
  const rest = facts.filter((fact) => fact !== beside);
  if (DEPARTMENT.test(beside.value)) return rest;
  const whole = `${post.value}, ${beside.value}`;
  const isOneLine = layout.read.some((line) => line.text.includes(whole));
  if (companyLikeness(beside.value) > 0 || !isOneLine) return [...facts];
  return [...rest.filter((fact) => fact !== post), { field: 'jobTitle', value: whole, origin: post.origin }];
}

/** The domain of the one address that is made of their name, where that is another than the page's and nobody's mailbox for all. */
function domainElsewhere({ host }: Sheet, lines: readonly PageLine[], name: string): string | null {
  const theirs = lines
    .flatMap(contactsIn)
    .flatMap(({ field, value }) =>
      field === 'email' && nameFitsLocalPart(name, localPart(value)) ? [companyDomain(value)] : [],
    );
  const [domain] = theirs;
  return domain && host && domain !== host && theirs.every((one) => one === domain) ? domain : null;
}

const firmOfDomain = ({ outline }: Sheet, lines: readonly PageLine[], domain: string): string | null =>
  [...lines.map((line) => line.text), ...outline.title.split(SEGMENTS)]
    .map((text) => text.trim())
    .find((text) => text.length < 60 && !/@/.test(text) && companyFitsDomain(text, domain)) ?? null;

/** The firm of a person that no headline names: the site's own, or the one with a legal form beside them. */
export function firmBeside(sheet: Sheet, lines: readonly PageLine[], name: string): Fact | null {
  const elsewhere = domainElsewhere(sheet, lines, name);
  const own = elsewhere ? (firmOfDomain(sheet, lines, elsewhere) ?? namedSite(sheet)) : siteFirm(sheet, name);
  if (own) return { field: 'companyName', value: own, origin: 'page text' };
  for (const line of lines) {
    const said = line.text.split(/,\s|\t|\s[|·•]\s/)[0]?.trim() ?? '';
    // "Anunciante: Frutas Montes SL": what stands before the colon says what it is.
    const part = said.replace(/^\p{L}[\p{L} ]{2,24}:\s+/u, '');
    if (part.length < 60 && companyLikeness(part) >= 1 && !isPersonName(part))
      return textFact('companyName', part, 'page text', line);
  }
  return null;
}
