import type { RecordKind } from '../types';
import { words } from './state';

const NOUNS: readonly (readonly [RecordKind, string])[] = [
  ['person', 'people|persons?|contacts?|everyone|everybody|anyone|anybody|whom'],
  ['company', 'companies|company|firms?|accounts?|organi[sz]ations?|businesses'],
  ['lead', 'leads?'],
  ['deal', 'deals?|opportunit(?:y|ies)'],
  ['task', 'tasks?|to-?dos?|todos?'],
  ['project', 'projects?'],
  ['case', 'cases?|tickets?'],
  ['person', 'prospects?|customers?|clients?|partners?|strangers?'],
];
/** Behind these words it is what somebody has, or what something is by, and not what is asked for. */
const THEIRS =
  /(?:^|\s)(?:with|without|no|have|has|having|had|whose|their|by|per|next|lacking|missing)\s(?:(?:a|an|any|some|open|won|lost|overdue|next|at|least|most|more|less|fewer|than|over|exactly|or|two|three|four|five|several|\d+)\s)*$/;

/** "Owners of courier companies" are people; a list of companies is companies. */
const OF_COMPANIES = /(?<!\b(?:list|number|all|kinds?))\sof\s(?:\S+\s)?$/;

/** What kind of record is asked for; null where no word says so. */
export function kindOf(flat: string): RecordKind | null {
  const found: { at: number; rank: number; kind: RecordKind }[] = [];
  for (const [rank, [kind, nouns]] of NOUNS.entries()) {
    const pattern = new RegExp(`(?<![\\p{L}\\d])(?:${nouns})(?![\\p{L}\\d])`, 'gu');
    for (const { index } of flat.matchAll(pattern)) {
      const before = flat.slice(0, index);
      if (THEIRS.test(before) || (kind === 'company' && OF_COMPANIES.test(before))) continue;
      found.push({ at: index, rank: rank === NOUNS.length - 1 ? 1 : 0, kind });
    }
  }
  const [first] = found.sort((a, b) => a.rank - b.rank || a.at - b.at);
  if (first) return first.kind;
  if (/\bwho\b|\bwhom\b/.test(flat)) return 'person';
  if (/\b(?:closing|expected close|close date|won|lost)\b/.test(flat)) return 'deal';
  return null;
}

const ALL = NOUNS.slice(0, -1)
  .map(([, nouns]) => nouns)
  .join('|');
/** The nouns of kinds, which say nothing further once the kind is known. */
export const NOUN = words(`(?:${ALL})`);
