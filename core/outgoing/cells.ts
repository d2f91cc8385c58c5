import { decimalOf } from '../lifecycle/minorUnits';
import type { Field, PlainValue } from '../query/types';

/** What stands in a cell of a table for other programs. */
export type Cell = string | number | null;

const called = ({ options }: Field, value: string): string =>
  options?.find((option) => option.value === value)?.label ?? value;

/**
 * A value as text: choices by what they are called, money as a plain decimal, several separated by semicolons.
 * @param currency ISO 4217, of the organisation
 */
export function textCell(value: PlainValue | undefined, field: Field, currency: string): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'object') return value.map((one) => called(field, one)).join('; ');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (field.type === 'money') return decimalOf(Number(value), currency);
  return called(field, String(value));
}

/** A value as a workbook has it: numbers and sums as numbers, all else as text. */
export function sheetCell(value: PlainValue | undefined, field: Field, currency: string): Cell {
  const text = textCell(value, field, currency);
  if (text === '') return null;
  return field.type === 'money' || field.type === 'number' ? Number(text) : text;
}

/** The heads of the columns; sums say their currency. */
export const headCells = (fields: readonly Field[], currency: string): string[] =>
  fields.map(({ label, type }) => (type === 'money' ? `${label} (${currency})` : label));
