import type { OwnKind, OwnRecord } from '@emporikon/core/fields/own';
import type { Level } from '@emporikon/core/fields/rights';
import type { SqlField } from '@emporikon/core/query/sql/storage';
import type { Field, FieldType, RecordKind } from '@emporikon/core/query/types';

/** A field of the organisation's own, as questions need it. */
export interface OwnField {
  key: string;
  label: string;
  kind: OwnKind;
  options: string[];
  record: OwnRecord;
  seenBy: Level;
}

const TYPES: Record<OwnKind, FieldType> = {
  text: 'text',
  'long text': 'text',
  link: 'text',
  person: 'text',
  company: 'text',
  file: 'text',
  number: 'number',
  money: 'money',
  date: 'day',
  'yearly date': 'yearly',
  choice: 'choice',
  several: 'several',
  'yes or no': 'flag',
  formula: 'calculated',
};
const same = (value: string): string => value;
/** The name of what an id stands for, where the one who asks may see it. */
const named = (column: string, table: string) => (value: string) =>
  `(SELECT n.${column} FROM (SELECT CASE WHEN ${value} ~ '^[0-9a-f-]{36}$' THEN (${value})::uuid END AS id) i
     LEFT JOIN forwardings f ON f.id = i.id JOIN ${table} n ON n.id = coalesce(f.to_id, i.id))`;
/** What somebody typed into a field of their own counts where it is of the field's type. */
const STORED: Record<OwnKind, (value: string, options: readonly string[]) => string> = {
  text: same,
  'long text': same,
  link: same,
  choice: same,
  person: named('full_name', 'people'),
  company: named('name', 'companies'),
  file: named('name', 'files'),
  number: (value) => `(CASE WHEN ${value} ~ '^-?\\d{1,15}(\\.\\d{1,9})?$' THEN (${value})::numeric END)`,
  money: (value, [currency = '']) =>
    `{worth: (CASE WHEN ${value} ~ '^-?\\d{1,15}$' THEN (${value})::bigint END) in '${currency.replace(/[^A-Z]/g, '')}'}`,
  date: (value) => `(CASE WHEN ${value} ~ '^\\d{4}-\\d{2}-\\d{2}$' THEN (${value})::date END)`,
  'yearly date': (value) => `(CASE WHEN ${value} ~ '^(\\d{4}|-)-\\d{2}-\\d{2}$' THEN ${value} END)`,
  several: (value) => `coalesce(string_to_array(${value}, E'\\n'), '{}')`,
  'yes or no': (value) => `(${value} = 'yes')`,
  // Worked out once the record is read: `calculateColumns`.
  formula: () => 'NULL::text',
};

export const CUSTOM = 'custom.';
const customKey = (key: string): string => `${CUSTOM}${key}`;

const asField = ({ key, label, kind, options }: OwnField): Field => ({
  key: customKey(key),
  label,
  type: TYPES[kind],
  ...(kind === 'formula' ? { isReckoned: true } : {}),
  ...(kind === 'choice' || kind === 'several'
    ? { options: options.map((value) => ({ value, label: value })) }
    : {}),
});
/** Keys are made of letters, digits and underscores only. */
const asStored = ({ key, kind, options }: OwnField): SqlField => ({
  sql: STORED[kind](`({r}.custom ->> '${key}')`, options),
});

/** What can be asked of the fields of each kind of record. */
export function fieldsByRecord(fields: readonly OwnField[]): Partial<Record<RecordKind, Field[]>> {
  const found: Partial<Record<RecordKind, Field[]>> = {};
  for (const field of fields) (found[field.record] ??= []).push(asField(field));
  return found;
}

/** The same fields as SQL. */
export function storedByRecord(
  fields: readonly OwnField[],
): Partial<Record<RecordKind, Record<string, SqlField>>> {
  const found: Partial<Record<RecordKind, Record<string, SqlField>>> = {};
  for (const field of fields) (found[field.record] ??= {})[customKey(field.key)] = asStored(field);
  return found;
}
