import { textCell } from '../outgoing/cells';
import type { Field, PlainValue, Registry } from '../query/types';

/** The records whose fields a letter can name, and whoever writes it. */
export const MERGE_KINDS = ['person', 'company', 'lead', 'deal', 'project', 'case', 'me'] as const;
export type MergeKind = (typeof MERGE_KINDS)[number];

/** A field that a letter can name, as `{{ person.first_name }}`. */
export interface MergeField {
  path: string;
  label: string;
  kind: MergeKind;
}

/** What is filled in, by kind and name; a kind is null where the letter is about no such record. */
export type MergeData = Readonly<Partial<Record<MergeKind, Readonly<Record<string, string>> | null>>>;

export const ME_FIELDS: Readonly<Record<string, string>> = {
  name: 'Your name',
  first_name: 'Your first name',
  email: 'Your email',
};

/** What only the program needs to know of a record. */
const LEFT_OUT = new Set(['lookAlike', 'news', 'hasNews', 'place', 'tone']);

/** "Won deals, value" → `won_deals_value`; an own field goes by its key, which stays when its label changes. */
export function mergeName({ key, label }: Pick<Field, 'key' | 'label'>): string {
  const own = /^custom\.(.+)$/.exec(key)?.[1];
  return (own ?? label)
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
}

const isMerged = ({ key, type }: Field): boolean => !LEFT_OUT.has(key) && type !== 'calculated';

/** "First name" of a person, "Deal value" of a deal: what it is called where nothing else says whose it is. */
const labelOf = (kind: MergeKind, label: string): string =>
  kind === 'person'
    ? label
    : `${kind.charAt(0).toUpperCase()}${kind.slice(1)} ${/^\p{Lu}\p{Ll}/u.test(label) ? label.charAt(0).toLowerCase() + label.slice(1) : label}`;

/** Every field that a letter can name, kind by kind. */
export const mergeFieldsOf = (registry: Registry): MergeField[] =>
  MERGE_KINDS.flatMap((kind): MergeField[] =>
    kind === 'me'
      ? Object.entries(ME_FIELDS).map(([name, label]) => ({ path: `me.${name}`, label, kind }))
      : [...registry[kind].fields.values()]
          .filter(isMerged)
          .map((field) => ({ path: `${kind}.${mergeName(field)}`, label: labelOf(kind, field.label), kind })),
  );

/** The fields that a record of one kind has to be asked for, by their keys. */
export const mergedFields = (registry: Registry, kind: Exclude<MergeKind, 'me'>): Field[] =>
  [...registry[kind].fields.values()].filter(isMerged);

export interface MergeLocale {
  /** BCP 47. */
  locale: string;
  /** IANA name. */
  zone: string;
  /** ISO 4217, of sums that name no other. */
  currency: string;
}

/** A value as a letter writes it: sums with their currency, days in words. Empty where nothing is known. */
export function mergeText(
  value: PlainValue | undefined,
  field: Field,
  { locale, zone, currency }: MergeLocale,
): string {
  if (value === null || value === undefined || value === '') return '';
  const text = textCell(value, field, currency);
  if (field.type === 'money')
    return new Intl.NumberFormat(locale, { style: 'currency', currency, maximumFractionDigits: 2 }).format(
      Number(text),
    );
  if (field.type === 'number') return new Intl.NumberFormat(locale).format(Number(value));
  if (field.type === 'day')
    return new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(text));
  if (field.type === 'time')
    return new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeStyle: 'short', timeZone: zone }).format(
      new Date(text),
    );
  if (field.type === 'yearly') return yearlyText(text, locale);
  return text.replaceAll('; ', ', ');
}

/** `1980-05-17` or `--05-17` → "17 May". */
function yearlyText(value: string, locale: string): string {
  const [, month, day] = /(\d{2})-(\d{2})$/.exec(value) ?? [];
  if (!month || !day) return value;
  return new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'long', timeZone: 'UTC' }).format(
    Date.UTC(2000, Number(month) - 1, Number(day)),
  );
}
