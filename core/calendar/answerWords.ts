import { DateTime } from 'luxon';
import type { Answer } from '../formats/icalendar';

const WORDS: Record<Answer, string> = {
  accepted: 'Accepted',
  tentative: 'May come to',
  declined: 'Declined',
  waiting: 'Has not decided about',
};

/**
 * An answer to an invitation as the history says it.
 * @param proposes another time that they propose; ISO 8601
 * @param zone on whose clock it is said; IANA name
 */
export function answerWords(
  { answer, proposes }: { answer: Answer; proposes: string | null },
  title: string,
  zone: string,
): string {
  if (!proposes) return `${WORDS[answer]} “${title}”`;
  return `Proposed ${DateTime.fromISO(proposes, { zone }).toFormat('ccc d LLL, HH:mm')} for “${title}”`;
}
