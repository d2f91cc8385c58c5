import { nounFor } from '@emporikon/core/people/counts';
import { plainNumber } from '../shell/format';
import type { Comparison } from '@emporikon/contract/lookAlikes';

const NOUNS: Record<keyof Comparison['moves'], [one: string, many: string]> = {
  ledger: ['ledger entry', 'ledger entries'],
  leads: ['lead', 'leads'],
  deals: ['deal', 'deals'],
  tasks: ['task', 'tasks'],
  people: ['person', 'people'],
  contacts: ['contact detail', 'contact details'],
  tags: ['tag', 'tags'],
  lists: ['list', 'lists'],
  files: ['original', 'originals'],
  claims: ['claim', 'claims'],
};

/** How much moves, in words: "3 ledger entries, 1 deal and 2 claims". */
export function movesInWords(moves: Comparison['moves']): string {
  const parts = (Object.keys(NOUNS) as (keyof Comparison['moves'])[])
    .filter((key) => moves[key])
    .map((key) => `${plainNumber(moves[key])} ${nounFor(moves[key], ...NOUNS[key])}`);
  return parts.length ? new Intl.ListFormat('en-GB', { type: 'conjunction' }).format(parts) : 'nothing';
}
/** Whether it is one thing that moves, or nothing. */
export const movesOne = (moves: Comparison['moves']): boolean =>
  Object.values(moves).reduce((sum, one) => sum + one, 0) < 2;

/** Which records of a group a reason is about, by the numbers they stand under; nothing where it is all of them. */
export function pairsInWords(
  pairs: Comparison['reasons'][number]['pairs'],
  records: readonly { id: string }[],
): string {
  if (pairs.length === (records.length * (records.length - 1)) / 2) return '';
  const at = (id: string): number => records.findIndex((record) => record.id === id) + 1;
  return pairs.map(([one, other]) => `${at(one)} and ${at(other)}`).join('; ');
}
export const count = (value: number): string => plainNumber(value);
