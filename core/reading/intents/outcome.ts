import { alternatives, type Kind } from '../../words/compile';
import { flatten } from './dateWords';
import type { EntryKind } from './moves';

/** How a call, a meeting or a visit went, as reps note it. */
export type CallOutcome = 'spoke' | 'no answer' | 'voicemail' | 'moved';

const said = (kind: Kind): RegExp =>
  new RegExp(`(?<![\\p{L}\\p{N}])(?:${alternatives(kind)})(?![\\p{L}\\p{N}])`, 'u');
const VOICEMAIL = said('outcome.voicemail');
const NO_ANSWER = said('outcome.noAnswer');
const MOVED = said('outcome.moved');
const ABSENT = said('outcome.absent');

const WHOLE = new RegExp(
  `^(?:${alternatives('outcome.voicemail')}|${alternatives('outcome.noAnswer')})[.!]?$`,
  'u',
);

/** Whether a text says no more than how a call ended: "no answer". */
export const isOutcome = (text: string): boolean => WHOLE.test(flatten(text).trim());

/** How it went, by the words of a note in any of our languages; null where there is nothing of which it could be said. */
export function outcomeOf(kind: EntryKind, text: string): CallOutcome | null {
  const flat = flatten(text);
  if (kind === 'call') {
    if (VOICEMAIL.test(flat)) return 'voicemail';
    if (NO_ANSWER.test(flat)) return 'no answer';
    return MOVED.test(flat) ? 'moved' : 'spoke';
  }
  if (kind !== 'meeting' && kind !== 'visit') return null;
  if (MOVED.test(flat)) return 'moved';
  return ABSENT.test(flat) ? 'no answer' : 'spoke';
}
