import { DateTime } from 'luxon';

/** From when to when nothing is mailed or shown (HH:MM); it may go over midnight. */
export interface Quiet {
  from: string;
  until: string;
}

/** A time of the day a moment is in; one that a change of the clocks leaves out comes after it. */
const on = (day: DateTime, time: string): DateTime => {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return day.startOf('day').set({ hour, minute });
};

/**
 * When something may be mailed: now, or when the quiet hours that it falls into are over. Quiet hours that begin when they
 * end are none.
 * @param zone IANA name of the reader's zone
 */
export function mailableAt(now: DateTime, zone: string, quiet: Quiet | null): DateTime {
  const at = now.setZone(zone);
  if (!quiet || quiet.from === quiet.until) return at;
  const [from, until] = [on(at, quiet.from), on(at, quiet.until)];
  if (from < until) return at >= from && at < until ? until : at;
  if (at >= from) return on(at.plus({ days: 1 }), quiet.until);
  return at < until ? until : at;
}

/** Whether a moment falls into the quiet hours of somebody whose clock is that of `zone`. */
export const isQuiet = (now: Date, zone: string, quiet: Quiet | null): boolean =>
  mailableAt(DateTime.fromJSDate(now), zone, quiet).toMillis() > now.getTime();

/**
 * The day (YYYY-MM-DD) whose digest is to go out now; null while it is not time yet, or it went out.
 * @param lastOn the day of the last one
 */
export function digestDay(now: DateTime, zone: string, time: string, lastOn: string | null): string | null {
  const at = now.setZone(zone);
  const today = at.toISODate() ?? '';
  return at >= on(at, time) && (lastOn === null || lastOn < today) ? today : null;
}
