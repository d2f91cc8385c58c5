import type { FreeDays } from '@emporikon/core/calendar/workingDays';
import { api } from '../shell/api';

let known: { at: number; days: Promise<FreeDays> } | null = null;
const LASTS_MS = 600_000;

/** The days on which the signed-in person does not work; read once in ten minutes. Weekends alone, where they cannot be read. */
export function loadFreeDays(): Promise<FreeDays> {
  if (known && Date.now() - known.at < LASTS_MS) return known.days;
  const days = api('GET /api/calendar/free-days').then(
    ({ weekend, closed }) => ({ weekend, closed: new Map(closed.map(({ day, name }) => [day, name])) }),
    () => {
      known = null;
      return { weekend: [6, 7], closed: new Map<string, string>() };
    },
  );
  known = { at: Date.now(), days };
  return days;
}
