import { COUNTED_TO, isBeyond, nounFor } from '@emporikon/core/people/counts';
import { decimalOf, minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { FIELD_NAMES as CLAIM_NAMES } from '@emporikon/core/reading/types';
import { FACT_NAMES } from '@emporikon/core/lookups/facts';
import { useSession } from './session';
import { dateFormat, numberFormat } from './intl';

/** How the signed-in person writes days and numbers: as they chose, or as their browser does. */
export const localeOf = (): string => useSession().me?.locale ?? navigator.language;
const zone = (): string => useSession().me?.timeZone ?? 'UTC';
const format =
  (options: Intl.DateTimeFormatOptions) =>
  (iso: string): string =>
    dateFormat(localeOf(), { timeZone: zone(), ...options }).format(new Date(iso));

/** Times are shown in the signed-in person's own zone, in their browser's language. */
export const clock = format({ hour: '2-digit', minute: '2-digit' });
export const day = format({ weekday: 'short', day: 'numeric', month: 'short' });
export const shortDay = format({ day: 'numeric', month: 'short' });
const dayKey = format({ year: 'numeric', month: '2-digit', day: '2-digit' });

/** A plain calendar day (YYYY-MM-DD), which has no zone. */
export const calendarDay = (date: string): string =>
  dateFormat(localeOf(), {
    timeZone: 'UTC',
    weekday: 'short',
    day: 'numeric',
    month: 'short',
  }).format(new Date(`${date}T00:00:00Z`));

/** A plain calendar day with its year, as it stands in a field: "Thu, 3 Dec 2026". */
export const fullDay = (date: string): string =>
  dateFormat(localeOf(), {
    timeZone: 'UTC',
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  }).format(new Date(`${date}T00:00:00Z`));

/** A day that comes back every year, with or without its first year (YYYY-MM-DD or --MM-DD): "28 May 1984", "28 May". */
export function yearlyDay(date: string): string {
  const isYearless = date.startsWith('--');
  const at = new Date(`${isYearless ? `2000-${date.slice(2)}` : date}T00:00:00Z`);
  if (Number.isNaN(at.getTime())) return date;
  return dateFormat(localeOf(), {
    timeZone: 'UTC',
    day: 'numeric',
    month: 'short',
    ...(isYearless ? {} : { year: 'numeric' }),
  }).format(at);
}

/** The day it is now for the signed-in person (YYYY-MM-DD). */
export const todayOf = (): string => dateFormat('sv-SE', { timeZone: zone() }).format(new Date());

/** Whether the user writes the month before the day. */
export const isMonthFirst = (): boolean => {
  const parts = dateFormat(localeOf())
    .formatToParts(new Date())
    .map(({ type }) => type);
  return parts.indexOf('month') < parts.indexOf('day') && parts[0] !== 'year';
};

/** The clock for today, the day for any other. */
export const when = (iso: string): string =>
  dayKey(iso) === dayKey(new Date().toISOString()) ? clock(iso) : shortDay(iso);

/** When a next move is due: "Thu, 26 Nov, 11:00"; the day alone when it has no hour. */
export const due = (move: {
  dueAt: string;
  allDay: boolean;
  endAt?: string | null;
  /** In which a whole day counts; one's own where nothing is said. */
  zone?: string;
}): string =>
  move.allDay
    ? format({ weekday: 'short', day: 'numeric', month: 'short', timeZone: move.zone ?? zone() })(move.dueAt)
    : `${day(move.dueAt)}, ${clock(move.dueAt)}${move.endAt ? ` – ${clock(move.endAt)}` : ''}`;

/** A sum in minor units; the places behind the point are left out where there are none. */
export function money(minor: number | null, currency: string): string {
  if (minor === null) return 'No value yet';
  const digits = minorDigits(currency);
  const shown = minor % 10 ** digits === 0 ? 0 : digits;
  return numberFormat(localeOf(), {
    style: 'currency',
    currency,
    minimumFractionDigits: shown,
    maximumFractionDigits: shown,
  }).format(minor / 10 ** digits);
}

/** A sum that is only estimated: without the places behind the point. */
export const roughMoney = (minor: number, currency: string): string => {
  const unit = 10 ** minorDigits(currency);
  return money(Math.round(minor / unit) * unit, currency);
};

/** What stands before the decimals in the reader's language. */
export const decimalMark = (): string =>
  numberFormat(localeOf())
    .formatToParts(1.5)
    .find(({ type }) => type === 'decimal')?.value ?? '.';

/** A sum as it is edited: 12.5, 40000; empty for none. */
export const amountText = (minor: number | null, currency: string): string =>
  minor === null ? '' : String(Number(decimalOf(minor, currency)));

/** A month (YYYY-MM) in words. */
export const monthName = (month: string): string =>
  dateFormat(localeOf(), { timeZone: 'UTC', month: 'short', year: 'numeric' }).format(
    new Date(`${month}-01T00:00:00Z`),
  );

/** A share in per cent; what is not quite certain is never shown as 100. */
export const percent = (share: number): string =>
  numberFormat(localeOf(), {
    style: 'percent',
    maximumFractionDigits: share > 0.99 && share < 1 ? 1 : 0,
  }).format(share < 1 ? Math.min(share, 0.999) : share);

const FIELD_NAMES: Record<string, string> = { ...FACT_NAMES, ...CLAIM_NAMES };
const PHONE_NAMES: Record<string, string> = {
  mobile: 'Mobile',
  work: 'Work phone',
  home: 'Home phone',
  fax: 'Fax',
};

export const fieldName = (field: string, type?: string | null): string =>
  field === 'phone' && type ? (PHONE_NAMES[type] ?? 'Phone') : (FIELD_NAMES[field] ?? field);

/** How long ago, in the largest whole unit. */
export function ago(iso: string): string {
  const minutes = Math.round((Date.now() - Date.parse(iso)) / 60_000);
  if (minutes < 60) return `${plainNumber(Math.max(minutes, 0))} min`;
  return minutes < 48 * 60
    ? `${plainNumber(Math.round(minutes / 60))} h`
    : counted(Math.round(minutes / 1440), 'day');
}

/** A number as the user writes it. */
export const plainNumber = (value: number, options: Intl.NumberFormatOptions = {}): string =>
  numberFormat(localeOf(), options).format(value);

const UNITS = ['byte', 'kilobyte', 'megabyte', 'gigabyte', 'terabyte'] as const;
/** The size of a file in the unit that suits it: “1.2 MB”. */
export function fileSize(bytes: number): string {
  const step = Math.min(Math.floor(Math.log2(Math.max(bytes, 1)) / 10), UNITS.length - 1);
  const value = bytes / 1024 ** step;
  return plainNumber(value, {
    style: 'unit',
    unit: UNITS[step] ?? 'byte',
    unitDisplay: step ? 'short' : 'long',
    maximumFractionDigits: step && value < 10 ? 1 : 0,
  });
}

/** A count with its noun, the number as the user writes it: “1 person”, “1,200 people”. */
export const counted = (count: number, one: string, many?: string): string =>
  `${plainNumber(count)} ${nounFor(count, one, many)}`;

/** A count as people read it; one that goes beyond what is counted says so. */
export const shownCount = (count: number): string =>
  isBeyond(count) ? `${plainNumber(COUNTED_TO)}+` : plainNumber(count);

/** Several names as a sentence has them: “Ada, Bea and Cid”. */
export const nameList = (names: readonly string[]): string =>
  new Intl.ListFormat(localeOf(), { type: 'conjunction' }).format(names);
