import { isZone } from '../lookups/place';
import { isCalendarDay, readDay } from './table/days';

/** A day that everybody has, whatever the year. */
const LEAP_YEAR = '2000';

/** A birthday in ISO 8601, without its year `--03-05`; null when it is none. */
function readBirthday(text: string): string | null {
  const yearless = /^--(\d\d)-?(\d\d)$/.exec(text.trim());
  if (!yearless) return readDay(text, 'day first');
  const [, month = '', day = ''] = yearless;
  return isCalendarDay(`${LEAP_YEAR}-${month}-${day}`) ? `--${month}-${day}` : null;
}

/**
 * What a fact that has a form of its own is kept as; any other is kept as it was said.
 * @returns null when it cannot be what it says it is
 */
export function usableValue(field: string, text: string): string | null {
  if (field === 'birthday') return readBirthday(text);
  if (field === 'timeZone') return isZone(text) ? text : null;
  return text;
}
