import type { CaseRow } from '@emporikon/contract/cases';
import { when } from '../shell/format';

export const URGENCIES = [
  { value: 'urgent', title: 'Urgent' },
  { value: 'normal', title: 'Normal' },
  { value: 'low', title: 'Can wait' },
] as const;
export const urgencyWord = (urgency: CaseRow['urgency']): string =>
  URGENCIES.find(({ value }) => value === urgency)?.title ?? urgency;

const STATES: Record<CaseRow['state'], string> = {
  new: 'Not answered yet',
  ours: 'They wait for us',
  theirs: 'We wait for them',
  answered: 'Answered',
  solved: 'Solved',
};
export const stateWord = (state: CaseRow['state']): string => STATES[state];

/** What was promised next and by when, or how it ended. */
export function promiseWords({ state, late, dueAt, solvedAt }: CaseRow): string {
  if (state === 'solved') return `Solved ${when(solvedAt ?? '')}${late ? ', later than promised' : ''}`;
  const thing = state === 'new' ? 'Answer' : 'Solution';
  return `${thing} ${late ? 'was ' : ''}promised by ${when(dueAt ?? '')}`;
}

export const CAME_BY: Record<CaseRow['cameBy'], string> = {
  mail: 'by email',
  call: 'by phone',
  form: 'by a form',
  other: 'by hand',
};
