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
/** Said of somebody, these are what they have, and not what is asked for. */
const THEIRS =
  /(?:\b(?:with|without|no|have|has|having|whose|their|any|an|next|more|open|overdue|at least|than|of|personal|lost|last|by|per|and|decide|latest|most)\s(?:\S+\s){0,2})$/;
const FREE =
  /(?:^|\b(?:show|list|find|give|me|all|my|which|new|every|what|the|see|get|only|how many)\s)(?:(?:open|won|lost|overdue|hot|important|parked|qualified|last|personal)\s)?$/;

/** What kind of record is asked for; null where no word says so. */
export function kindOf(flat: string): RecordKind | null {
  const found: { at: number; rank: number; kind: RecordKind }[] = [];
  for (const [rank, [kind, nouns]] of NOUNS.entries()) {
    const pattern = new RegExp(`(?<![\\p{L}\\d])(?:${nouns})(?![\\p{L}\\d])`, 'gu');
    for (const { index } of flat.matchAll(pattern)) {
      const before = flat.slice(0, index);
      if (THEIRS.test(before) && !FREE.test(before)) continue;
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
