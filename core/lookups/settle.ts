import { jaroWinkler } from '../matching/similarity';
import { companyKey } from '../people/companies';
import { fold } from '../people/text';
import type { FactField } from './facts';

/** What becomes of an answer: it fills a blank, agrees with what stands, is put beside it, or is dropped. */
export type Outcome = 'fill' | 'agree' | 'suggest' | 'drop';

/** The form in which two answers of a field are the same. */
export function sameForm(field: FactField, value: string): string {
  if (field === 'phone') return value.replace(/[^\d+]/g, '');
  if (field === 'technologies')
    return value
      .split(',')
      .map((one) => fold(one))
      .sort()
      .join(',');
  if (field === 'legalName' || field === 'companyName')
    return (companyKey(value) || fold(value)).replace(/ /g, '');
  return fold(value);
}

/**
 * What to do with an answer. Nothing that stands is ever overwritten: what differs is a suggestion beside it.
 * @param held what stands on the record now; null for a blank
 * @param refused forms of the values that were refused before
 */
export function settleAnswer(
  field: FactField,
  answer: string,
  held: string | null,
  options: { fillBlanks: boolean; refused: readonly string[] },
): Outcome {
  const form = sameForm(field, answer);
  if (!form || options.refused.includes(form)) return 'drop';
  if (held === null || held === '') return options.fillBlanks ? 'fill' : 'suggest';
  return sameForm(field, held) === form ? 'agree' : 'suggest';
}

const ALIKE = 0.85;

/**
 * How likely an answer about a company is about the one that was asked for: an answer for another domain is about
 * another firm, and one under another name is doubtful.
 * @returns 0 to 1, by which the source's own confidence is multiplied
 */
export function isAboutThem(
  asked: { companyName: string; domain: string },
  answered: { name: string; domain: string },
): number {
  if (asked.domain && answered.domain) return asked.domain === answered.domain ? 1 : 0;
  if (!asked.companyName || !answered.name) return 1;
  const [a, b] = [companyKey(asked.companyName), companyKey(answered.name)];
  if (a === b) return 1;
  const alike = jaroWinkler(a, b);
  return alike >= ALIKE ? alike * 0.8 : 0;
}
