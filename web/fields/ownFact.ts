import type { FieldValue } from '@emporikon/contract/fields';
import { minorOf } from '@emporikon/core/ledger/sum';
import type { CellKind, CellOption } from '../kit/cells';
import { amountText, decimalMark, fullDay, money, plainNumber, yearlyDay } from '../shell/format';

type Field = Pick<FieldValue, 'kind' | 'options' | 'value' | 'shown' | 'why'>;

const CELLS: Partial<Record<Field['kind'], CellKind>> = {
  'long text': 'long',
  number: 'number',
  money: 'money',
  date: 'date',
  'yearly date': 'date',
  choice: 'choice',
  several: 'several',
  'yes or no': 'choice',
  person: 'person',
  company: 'company',
  file: 'choice',
};
export const cellOf = ({ kind }: Pick<Field, 'kind'>): CellKind => CELLS[kind] ?? 'text';

const named = (values: readonly string[]): CellOption[] => values.map((value) => ({ value, title: value }));

/** What can be chosen, with a way to choose nothing. */
export function optionsOf(
  { kind, options }: Pick<Field, 'kind' | 'options'>,
  files: readonly CellOption[],
): CellOption[] {
  if (kind === 'several') return named(options);
  const none = { value: '', title: 'None' };
  if (kind === 'file') return [none, ...files];
  return [none, ...named(kind === 'yes or no' ? ['yes', 'no'] : options)];
}

const isNumber = (value: string): boolean => /^-?\d+(?:\.\d+)?$/.test(value);
const isId = (value: string): boolean => /^[0-9a-f-]{36}$/.test(value);
const isDay = (value: string): boolean => /^\d{4}-\d{2}-\d{2}$/.test(value);

/** A value as it is edited; null for none. */
export function editedOf({ kind, options, value }: Field): string | null {
  if (value === '') return null;
  if (kind === 'money' && isNumber(value)) return amountText(Number(value), options[0] ?? '');
  return kind === 'number' && isNumber(value) ? value.replace('.', decimalMark()) : value;
}

/** A value as it is read. What was kept before a field had its kind is shown as it is. */
export function shownOf({ kind, options, value, shown, why }: Field): string {
  if (why) return why;
  if (value === '') return '';
  if (kind === 'person' || kind === 'company' || kind === 'file')
    return shown ?? (isId(value) ? `A ${kind} you cannot see, or that is gone` : value);
  if (kind === 'money' && isNumber(value)) return money(Number(value), options[0] ?? '');
  if ((kind === 'number' || kind === 'formula') && isNumber(value))
    return plainNumber(Number(value), { maximumFractionDigits: 9 });
  if ((kind === 'date' || kind === 'formula') && isDay(value)) return fullDay(value);
  if (kind === 'yearly date') return yearlyDay(value);
  return kind === 'several' ? value.split('\n').join(', ') : value;
}

/** What somebody typed, as the server takes it. @throws Error in words where it is no sum */
export function keptOf({ kind, options }: Pick<Field, 'kind' | 'options'>, typed: string): string {
  if (kind !== 'money') return typed;
  const minor = minorOf(typed, options[0] ?? '');
  return minor === null ? '' : String(minor);
}

/** Where a value leads. */
export function hrefOf({ kind, value }: Pick<Field, 'kind' | 'value'>): string | null {
  if (!value) return null;
  if (!isId(value)) return null;
  if (kind === 'person') return `/people/${value}`;
  if (kind === 'company') return `/companies/${value}`;
  return null;
}

interface Part<One> {
  name: string;
  fields: One[];
}
/** Fields by their tab and, within it, by their heading; each in the order in which it first comes. */
export function tabsOf<One extends Pick<FieldValue, 'tab' | 'part'>>(
  fields: readonly One[],
): { name: string; parts: Part<One>[] }[] {
  const tabs = new Map<string, Map<string, One[]>>();
  for (const field of fields) {
    const parts = tabs.get(field.tab) ?? new Map<string, One[]>();
    tabs.set(field.tab, parts.set(field.part, [...(parts.get(field.part) ?? []), field]));
  }
  return [...tabs].map(([name, parts]) => ({
    name,
    parts: [...parts].map(([part, own]) => ({ name: part, fields: own })),
  }));
}
