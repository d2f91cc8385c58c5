import { alternatives } from '../words/compile';
import { flatten } from '../reading/intents/dateWords';

const PREPOSITION = new RegExp(`(?<![\\p{L}\\p{N}])(?:${alternatives('beforeDay')})\\s*$`, 'u');

/** The stretch of a day together with the preposition before it: "by Friday", "am Freitag", "le 12 mars". */
export function withPreposition(
  text: string,
  span: { start: number; end: number },
): { start: number; end: number } {
  const before = flatten(text.slice(Math.max(0, span.start - LONGEST), span.start));
  return { start: span.start - (PREPOSITION.exec(before)?.[0].length ?? 0), end: span.end };
}
const LONGEST = 24;

/** A day that stands first ends within so many characters. */
export const LEADING = 80;

/** Where the words go on behind a day that stands first: "yesterday at 3 called her", "am Freitag, Angebot schicken"; 0 without one. */
export function behindLeadingDay(
  text: string,
  day: { start: number; end: number } | null | undefined,
): number {
  if (!day || /\S/.test(text.slice(0, withPreposition(text, day).start))) return 0;
  return day.end + (/^[\s,:-]*/.exec(text.slice(day.end))?.[0].length ?? 0);
}
