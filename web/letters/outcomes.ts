import type { Outcome } from '@emporikon/contract/outcome';
import { calendarDay } from '../shell/format';

const STATES: Readonly<Record<NonNullable<Outcome['state']>, string>> = {
  sent: 'sent',
  delivered: 'delivered',
  delayed: 'delayed',
  full: 'mailbox full',
  gone: 'address no longer exists',
  refused: 'refused by their server',
  complaint: 'reported as unwanted',
};
const BAD = new Set<Outcome['state']>(['full', 'gone', 'refused', 'complaint']);

export const isBad = ({ state }: Pick<Outcome, 'state'>): boolean => BAD.has(state);

/** What became of a letter at one address: "answered", "away until 4 Jan 2027", "address no longer exists". */
export function outcomeWords(outcome: Outcome): string {
  const { state, awayUntil, answeredAt, openedAt, clicks } = outcome;
  const words = [
    ...(answeredAt ? ['answered'] : openedAt && !isBad(outcome) ? ['opened'] : state ? [STATES[state]] : []),
    ...(clicks ? [clicks === 1 ? 'followed a link' : `followed ${clicks} links`] : []),
    ...(awayUntil ? [`away until ${calendarDay(awayUntil)}`] : []),
  ];
  return words.join(', ');
}

/** The same of a whole letter, in a few words; empty where there is nothing to say but that it was sent. */
export function lettersOutcome(outcomes: readonly Outcome[]): string {
  const [only] = outcomes;
  if (!only) return '';
  if (outcomes.length === 1) return outcomeWords(only) === STATES.sent ? '' : outcomeWords(only);
  return outcomes
    .filter((one) => isBad(one) || one.answeredAt !== null || one.awayUntil !== null || one.openedAt !== null)
    .map((one) => `${one.name || one.address}: ${outcomeWords(one)}`)
    .join(' · ');
}
