import { positionOf } from '@emporikon/core/places/area';
import type { QueryField } from '@emporikon/contract/queries';
import { calendarDay, localeOf, money, shortDay } from '../shell/format';
import { useSession } from '../shell/session';
import { dateFormat, numberFormat, regionNames } from '../shell/intl';

type Plain = string | number | boolean | readonly string[] | null | undefined;

const year = (iso: string): string =>
  iso.slice(0, 4) === new Date().toISOString().slice(0, 4) ? '' : ` ${iso.slice(0, 4)}`;

const labelOf = ({ options, suggestions }: QueryField, value: string): string =>
  [...(options ?? []), ...(suggestions ?? [])].find((option) => option.value === value)?.label ?? value;

const country = (code: string): string =>
  /^[A-Z]{2}$/.test(code) ? (regionNames(localeOf()).of(code) ?? code) : code;

const degrees = (value: number, [positive, negative]: readonly [string, string]): string =>
  `${numberFormat(localeOf(), { maximumFractionDigits: 2 }).format(Math.abs(value))}° ${value < 0 ? negative : positive}`;
/** Latitude and longitude, as maps write them. */
const position = (value: string): string => {
  const at = positionOf(value);
  return at ? `${degrees(at[1], ['N', 'S'])}, ${degrees(at[0], ['E', 'W'])}` : '';
};

/** A day that comes back every year. */
const yearly = (value: string): string =>
  dateFormat(localeOf(), { timeZone: 'UTC', day: 'numeric', month: 'long' }).format(
    new Date(`2000-${value.slice(-5)}T00:00:00Z`),
  );

/** What a record says in a field, as its reader writes it. */
export function cellText(value: Plain, field: QueryField): string {
  if (value === null || value === undefined || value === '') return '';
  if (typeof value === 'object') return value.map((one) => labelOf(field, one)).join(', ');
  switch (field.type) {
    case 'flag':
      return value === true ? 'yes' : '';
    case 'money':
      return money(Number(value), useSession().me?.currency ?? 'EUR');
    case 'number':
      return `${numberFormat(localeOf(), { maximumFractionDigits: 1 }).format(Number(value))}${field.unit === '%' ? ' %' : ''}`;
    case 'day':
      return `${calendarDay(String(value))}${year(String(value))}`;
    case 'time':
      return `${shortDay(String(value))}${year(String(value))}`;
    case 'yearly':
      return yearly(String(value));
    case 'place':
      return position(String(value));
    default:
      return field.key === 'country' ? country(String(value)) : labelOf(field, String(value));
  }
}

const UNITS = {
  day: { day: 'numeric', month: 'long', year: 'numeric' },
  week: { day: 'numeric', month: 'short', year: 'numeric' },
  month: { month: 'long', year: 'numeric' },
  year: { year: 'numeric' },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;

/** What the records of a group have in common. */
export function groupText(key: string | null, field: QueryField, by: unknown): string {
  if (key === null || key === '') return `No ${field.label.toLowerCase()}`;
  if (field.type === 'flag') return key === 'true' ? field.label : `Not ${field.label.toLowerCase()}`;
  if (field.type === 'yearly')
    return dateFormat(localeOf(), { timeZone: 'UTC', month: 'long' }).format(
      new Date(`2000-${key}-01T00:00:00Z`),
    );
  if (field.type === 'day' || field.type === 'time') {
    const unit = typeof by === 'string' ? by : 'day';
    if (unit === 'quarter') return `Q${Math.ceil(Number(key.slice(5, 7)) / 3)} ${key.slice(0, 4)}`;
    const words = dateFormat(localeOf(), {
      timeZone: 'UTC',
      ...UNITS[unit as keyof typeof UNITS],
    }).format(new Date(`${key}T00:00:00Z`));
    return unit === 'week' ? `Week of ${words}` : words;
  }
  if (typeof by === 'object' && by !== null && 'bands' in by) {
    const { bands } = by as { bands: number[] };
    const text = (edge: number | undefined): string => cellText(edge ?? null, field);
    const at = Number(key);
    if (at === 0) return `Under ${text(bands[0])}`;
    return at === bands.length
      ? `${text(bands.at(-1))} and over`
      : `${text(bands[at - 1])} to ${text(bands[at])}`;
  }
  return cellText(field.type === 'number' || field.type === 'money' ? Number(key) : key, field);
}
