import { wordsOf } from '../../words/compile';
import { fold } from '../../people/text';
import type { PhoneType } from '../../people/phones';
import type { ClaimField } from '../types';

export interface Labelled {
  field: ClaimField;
  type?: PhoneType;
}

/** What people write over a column, beside a field of a form, or before a colon, in the languages we read. */
const LABELS: readonly [Labelled, string[]][] = [
  [{ field: 'email' }, wordsOf('column.email')],
  [{ field: 'phone', type: 'mobile' }, wordsOf('column.mobile')],
  [{ field: 'phone', type: 'fax' }, wordsOf('column.fax')],
  [{ field: 'phone', type: 'home' }, wordsOf('column.home')],
  [{ field: 'phone', type: 'work' }, wordsOf('column.work')],
  [{ field: 'phone' }, wordsOf('column.phone')],
  [{ field: 'givenName' }, wordsOf('column.givenName')],
  [{ field: 'familyName' }, wordsOf('column.familyName')],
  [{ field: 'fullName' }, wordsOf('column.fullName')],
  [{ field: 'jobTitle' }, wordsOf('column.jobTitle')],
  [{ field: 'companyName' }, wordsOf('column.companyName')],
  [{ field: 'url' }, wordsOf('column.url')],
  [{ field: 'profile' }, wordsOf('column.profile')],
  [{ field: 'address' }, wordsOf('column.address')],
  [{ field: 'birthday' }, wordsOf('column.birthday')],
  [{ field: 'timeZone' }, wordsOf('column.timeZone')],
  [{ field: 'note' }, wordsOf('column.note')],
];

const BY_LABEL = new Map(
  LABELS.flatMap(([labelled, words]) => words.map((word) => [fold(word), labelled] as const)),
);

/** What a heading says its values are; null when it says nothing we know. */
export function fieldOfLabel(label: string): Labelled | null {
  const folded = fold(label);
  if (!folded) return null;
  const exact = BY_LABEL.get(folded);
  if (exact) return exact;
  const bare = folded
    .replace(/\b(?:contact|person|primary|main|business|your|the|company|no|1|nr|no)\b/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return BY_LABEL.get(bare) ?? null;
}
