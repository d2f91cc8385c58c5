import { addressLikeness } from '../../people/addresses';
import { companyFitsDomain, companyKey, companyLikeness } from '../../people/companies';
import { localPart } from '../../people/emails';
import {
  isRoleName,
  looksLikeName,
  nameFitsLocalPart,
  nameOverlap,
  spellsLocalPart,
} from '../../people/names';
import { squash } from '../../people/text';
import { givenName } from '../lexicon/names';
import { titleLikeness } from './words';

export type Role = 'name' | 'title' | 'company' | 'address';

export interface Knowledge {
  /** The sender's name as the header gives it; empty when it is a function or missing. */
  name: string;
  address: string;
  /** Registrable domain of the sender unless it is a free-mail one. */
  domain: string | null;
}

const DEPARTMENT = /\b(?:team|department|dept|desk|abteilung|service|équipe|equipo|equipa|afdeling)\b\.?$/iu;

/** `harriet@` writes as Harriet Ashdown, even from ashdown.example. */
const isGivenName = (value: string, local: string): boolean => {
  const words = value.split(' ');
  return words.length === 2 && local.length > 2 && squash(words[0] ?? '') === squash(local);
};

/** "鈴木 一郎" of somebody the header calls 鈴木: names in scripts without capitals, with the family name first. */
const isFullerName = (value: string, name: string): boolean =>
  name.length > 0 &&
  name.length < value.replace(/\s/g, '').length &&
  /^[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Hangul}\s\u3000]{2,9}$/u.test(value) &&
  value.startsWith(name);

/** Moira Birchall of birchall.example: a given name we know before a family name that the firm has too. */
const isNamesake = (value: string, { domain }: Knowledge): boolean =>
  domain !== null &&
  value.split(' ').length === 2 &&
  looksLikeName(value) &&
  givenName(value) === 2 &&
  companyLikeness(value) === 0 &&
  squash(value.split(' ')[1] ?? '') === squash(domain.split('.')[0] ?? '');

/** "Carola Finkel" of Finkel Raumausstattung: a given name before a family name that the firm has too. */
const isGivenFirst = (value: string): boolean =>
  /^\S+(?:\s\S+){1,2}$/.test(value) &&
  givenName(value) === 2 &&
  looksLikeName(value) &&
  companyLikeness(value) === 0 &&
  titleLikeness(value) === 0;
const isFirmsName = ({ name, domain }: Knowledge): boolean =>
  name === '' || companyLikeness(name) > 0 || (domain !== null && companyFitsDomain(name, domain));

/** Whether a piece can be the sender's name, given what the header says. */
export function nameScore(value: string, know: Knowledge): number {
  if (isFullerName(value, know.name)) return 0.95;
  if (!looksLikeName(value) || isRoleName(value) || companyLikeness(value) >= 1) return 0;
  if (!know.name && isNamesake(value, know)) return 0.8;
  if (!titleLikeness(value) && !companyLikeness(value)) {
    const local = localPart(know.address);
    if (spellsLocalPart(value, local)) return 0.95;
    if (isGivenName(value, local)) return 0.93;
  }
  if (know.domain && companyFitsDomain(value, know.domain) && nameOverlap(value, know.name) < 0.99)
    return isGivenFirst(value) && isFirmsName(know) ? 0.85 : 0;
  if (know.name && nameOverlap(value, know.name) >= 0.99) return 0.99;
  if (know.name && nameOverlap(value, know.name) >= 0.5)
    return titleLikeness(value) || companyLikeness(value) ? 0 : 0.95;
  if (nameFitsLocalPart(value, localPart(know.address)) && !titleLikeness(value)) return 0.93;
  return titleLikeness(value) || companyLikeness(value) || addressLikeness(value) >= 1 || know.name ? 0 : 0.6;
}

/** "…と申します。": a sentence of a script without spaces, in which a legal form stands as well. */
const SENTENCE = /[。！？]|(?:です|ます|ました)$/u;

export function companyScore(value: string, know: Knowledge): number {
  if (value.length < 2 || value.length > 70 || SENTENCE.test(value)) return 0;
  const byDomain =
    know.domain !== null &&
    companyFitsDomain(value, know.domain) &&
    !(know.name === '' && isNamesake(value, know));
  if (byDomain && isGivenFirst(value)) return 0.5;
  if (byDomain) return value.split(' ').length <= 7 ? 0.97 : 0.4;
  const likeness = companyLikeness(value);
  if (likeness >= 1) return 0.94;
  return likeness > 0 && /^[\p{Lu}\d]/u.test(value) && value.split(' ').length <= 6 ? 0.82 : 0;
}

export const titleScore = (value: string): number =>
  value.length > 80 || DEPARTMENT.test(value) || /[.!?]\s+\p{Lu}/u.test(value)
    ? 0
    : titleLikeness(value) * 0.95;

/** Whether a text is most of what a domain is called, and not only a word of it. */
export const namesDomain = (text: string, domain: string): boolean =>
  companyFitsDomain(text, domain) &&
  companyKey(text).replace(/ /g, '').length >= 0.6 * (domain.split('.')[0] ?? '').length;

/** How well a text plays each role, 0 to 1; where two roles are near, the weaker gives way. */
export function scoreOf(value: string, know: Knowledge): Record<Role, number> {
  const address = addressLikeness(value);
  const scores = {
    name: nameScore(value, know),
    title: titleScore(value),
    company: companyScore(value, know),
    address: address >= 1 ? 0.92 : 0,
  };
  if (address === 0.5 && scores.company < 0.94) scores.company = 0;
  if (scores.name >= 0.9) scores.company = Math.min(scores.company, 0.5);
  if (scores.title > 0 && scores.company > 0) {
    if (scores.company >= 0.94) scores.title = 0;
    else scores.company = 0;
  }
  if (scores.address && scores.company >= 0.94 && !/\d/.test(value)) scores.address = 0;
  else if (scores.address) scores.company = scores.title = scores.name = 0;
  return scores;
}
