import type { BulkChange } from '@emporikon/contract/bulk';
import { counted, plainNumber } from '../shell/format';

const NOUNS: Record<BulkChange['kind'], readonly [one: string, many: string]> = {
  person: ['person', 'people'],
  company: ['company', 'companies'],
  lead: ['lead', 'leads'],
  deal: ['deal', 'deals'],
};

/** So many records of a kind, in words. */
export const countOf = (kind: BulkChange['kind'], count: number): string =>
  counted(count, NOUNS[kind][0], NOUNS[kind][1]);

/** Whether there is a way back; of erasing there is none. */
export const isForGood = ({ steps }: Pick<BulkChange, 'steps'>): boolean =>
  steps.some((step) => step.do === 'erase');

/** What a change came to. */
export function wordsOfDone({ kind, steps, counts: { changed, stayed, refused } }: BulkChange): string {
  const rest = [
    stayed ? `${plainNumber(stayed)} were so already` : '',
    refused ? `${plainNumber(refused)} could not be changed` : '',
  ].filter(Boolean);
  return [`${isForGood({ steps }) ? 'Erased' : 'Changed'} ${countOf(kind, changed)}`, ...rest].join(', ');
}

/** What taking a change back came to. */
export const wordsOfUndone = ({ kind, counts: { changed, kept } }: BulkChange): string =>
  `Undone for ${countOf(kind, changed)}${kept ? `; ${plainNumber(kept)} were changed since and keep that` : ''}`;
