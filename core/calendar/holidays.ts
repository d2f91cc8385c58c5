import Holidays from 'date-holidays';
import { DateTime, Info } from 'luxon';
import type { FreeDays } from './workingDays';

/** A country, or a part of one, with public holidays of its own: "PT", "DE-BY". */
interface HolidayPlace {
  code: string;
  name: string;
}

const all = new Holidays();
const PLACE = /^([A-Z]{2})(?:-([A-Za-z0-9 _]{1,40}))?$/;

function partsOf(place: string): { country: string; part: string | undefined } | null {
  const match = PLACE.exec(place);
  if (!match?.[1]) return null;
  const [, country, part] = match;
  const known = part ? (all.getStates(country) ?? {}) : (all.getCountries() ?? {});
  return (part ?? country) in known ? { country, part } : null;
}

/** Whether the holidays of a place ("PT", "DE-BY") are known. */
export const isHolidayPlace = (place: string): boolean => partsOf(place) !== null;

/** Every place whose holidays are known, by the names of its country and part in English. */
export function holidayPlaces(): HolidayPlace[] {
  const countries = Object.entries(all.getCountries('en') ?? {});
  return countries.flatMap(([code, name]) => [
    { code, name },
    ...Object.entries(all.getStates(code, 'en') ?? {}).map(([part, partName]) => ({
      code: `${code}-${part}`,
      name: `${name}, ${partName}`,
    })),
  ]);
}

const known = new Map<string, ReadonlyMap<string, string>>();

function ofYear(place: string, year: number): ReadonlyMap<string, string> {
  const key = `${place} ${year}`;
  const before = known.get(key);
  if (before) return before;
  const parts = partsOf(place);
  const days = new Map<string, string>();
  if (parts) {
    const calendar = parts.part ? new Holidays(parts.country, parts.part) : new Holidays(parts.country);
    for (const { type, date, name, start, end } of calendar.getHolidays(year)) {
      if (type !== 'public') continue;
      const lasts = Math.max(1, Math.round((end.getTime() - start.getTime()) / 86_400_000));
      const first = DateTime.fromISO(date.slice(0, 10), { zone: 'utc' });
      for (let day = 0; day < lasts; day++) days.set(first.plus({ days: day }).toISODate() ?? '', name);
    }
  }
  known.set(key, days);
  return days;
}

/**
 * The free days of a place in some years: its weekend by the Unicode CLDR and its public holidays, by date-holidays.
 * @param place "PT", "DE-BY"; one that is not known has no holidays
 * @param closed days of one's own (YYYY-MM-DD) by their names
 */
export function freeDaysOf(
  place: string,
  years: readonly number[],
  closed: ReadonlyMap<string, string> = new Map(),
): FreeDays {
  const country = place.slice(0, 2);
  return {
    weekend: Info.getWeekendWeekdays({ locale: `und-${/^[A-Z]{2}$/.test(country) ? country : '001'}` }),
    closed: new Map([...years.flatMap((year) => [...ofYear(place, year)]), ...closed]),
  };
}
