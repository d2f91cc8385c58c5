import type { FieldValue } from '@emporikon/contract/fields';
import { calculate, type Calculated } from '@emporikon/core/fields/formula';
import { normaliseOwn, type OwnRecord } from '@emporikon/core/fields/own';
import { todayOf } from '@emporikon/core/query/time';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { CustomField } from '../db/models/fields';
import { invalid, ProblemError } from '../http/problems';
import { perUnit, usable } from './definitions';
import { mayChange, maySee } from './rights';

const isId = (value: string): boolean => /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(value);

export type Values = Readonly<Record<string, string>>;

/** What fields point to, each kind with the table and column of its name. */
const NAMED_BY = {
  person: ['full_name', 'people'],
  company: ['name', 'companies'],
  file: ['name', 'files'],
} as const;
type Pointing = keyof typeof NAMED_BY;
const isPointing = (kind: string): kind is Pointing => kind in NAMED_BY;

/** Names of what the actor may see of these ids. */
async function namesOf(
  context: Context,
  kind: Pointing,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  if (!ids.length) return new Map();
  const [column, table] = NAMED_BY[kind];
  const rows = await context.sequelize.query<{ id: string; name: string }>(
    // What became a part of another leads to that.
    `SELECT i.id, n.${column} AS name FROM unnest($ids::uuid[]) i (id) LEFT JOIN forwardings f ON f.id = i.id
       JOIN ${table} n ON n.id = coalesce(f.to_id, i.id)`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

export const fieldsOf = (context: Context, record: OwnRecord): Promise<CustomField[]> =>
  CustomField.findAll({ where: { record }, order: ['position', 'id'], transaction: context.tx });

/** The names of all that fields of some records point to, by their ids, as far as the actor may see them. */
async function pointedTo(
  context: Context,
  fields: readonly CustomField[],
  rows: readonly Values[],
): Promise<ReadonlyMap<string, string>> {
  const names = new Map<string, string>();
  for (const kind of Object.keys(NAMED_BY).filter(isPointing)) {
    const keys = fields.filter((field) => field.kind === kind).map(({ key }) => key);
    // A table that was imported may hold words where an id belongs.
    const ids = rows.flatMap((values) => keys.map((key) => values[key] ?? '').filter(isId));
    for (const [id, name] of await namesOf(context, kind, [...new Set(ids)])) names.set(id, name);
  }
  return names;
}

/** What a formula comes to over the values of a record. One over what the actor may not see comes to nothing, as if that were empty. */
function calculating(
  context: Context,
  fields: readonly CustomField[],
  names: ReadonlyMap<string, string>,
): (formula: string, values: Values) => Calculated {
  const zone = context.actor?.timeZone ?? 'UTC';
  const today = todayOf({ now: context.now().toISOString(), zone });
  const used = usable(fields).map((field) => ({
    ...{ key: field.key, label: field.label, kind: field.kind, perUnit: perUnit(field) },
    isSeen: maySee(context, field),
  }));
  const valueOf = (kind: string, value: string): string =>
    isPointing(kind) ? (names.get(value) ?? '') : value;
  return (formula, values) =>
    calculate(
      formula,
      used.map(({ isSeen, ...field }) => ({
        ...field,
        value: isSeen ? valueOf(field.kind, values[field.key] ?? '') : '',
      })),
      today,
    );
}

/** What the formulas of a kind of record come to for some records: a function of a formula's key and the values of one of them. */
export async function calculatorFor(
  context: Context,
  record: OwnRecord,
  rows: readonly Values[],
): Promise<(key: string, values: Values) => string> {
  const fields = await fieldsOf(context, record);
  const calculated = calculating(context, fields, await pointedTo(context, fields, rows));
  const formulas = new Map(fields.map(({ key, formula }) => [key, formula]));
  return (key, values) => {
    const result = calculated(formulas.get(key) ?? '', values);
    return 'value' in result ? result.value : '';
  };
}

/**
 * The fields of a record as they are shown: those in use that are for what it is now, and whatever has a value.
 * @param is what decides which fields are for it: its standing, its kind or its pipeline
 */
export async function showValues(
  context: Context,
  record: OwnRecord,
  values: Values,
  is: string | null,
): Promise<FieldValue[]> {
  const all = await fieldsOf(context, record);
  const fields = all.filter((field) => maySee(context, field));
  const valueOf = ({ key }: CustomField): string => values[key] ?? '';
  const shown = fields.filter(
    (field) =>
      valueOf(field) !== '' ||
      (field.active !== false && (!field.onlyFor?.length || field.onlyFor.includes(is ?? ''))),
  );
  const names = await pointedTo(context, all, [values]);
  const calculated = calculating(context, all, names);
  return shown.map((field) => {
    const result = field.kind === 'formula' ? calculated(field.formula ?? '', values) : null;
    const { key, label, kind, options } = field;
    return {
      ...{ key, label, kind, options },
      isPersonal: field.isPersonal ?? false,
      tab: field.tab ?? '',
      part: field.part ?? '',
      help: field.help ?? '',
      isAsked: field.isAsked ?? false,
      value: result ? ('value' in result ? result.value : '') : valueOf(field),
      shown: isPointing(kind) && valueOf(field) ? (names.get(valueOf(field)) ?? null) : null,
      why: result && 'why' in result ? result.why : null,
      mayChange: kind !== 'formula' && mayChange(context, field),
    };
  });
}

async function requireFree(
  context: Context,
  record: OwnRecord,
  { key, label }: CustomField,
  value: string,
  id: string,
): Promise<void> {
  const options = { type: QueryTypes.SELECT as const, transaction: context.tx };
  // Two who enter the same at once wait for each other.
  await context.sequelize.query('SELECT pg_advisory_xact_lock(hashtextextended($what, 0))', {
    bind: { what: `${record} ${key} ${value}` },
    ...options,
  });
  const [row] = await context.sequelize.query<{ taken: boolean }>(
    'SELECT own_value_taken($record, $key, $value, $id::uuid) AS taken',
    { bind: { record, key, value, id }, ...options },
  );
  if (row?.taken)
    throw invalid(`Nothing was saved: another ${record} has this value in ${label} already.`, {
      fields: { [key]: 'is taken' },
    });
}

/**
 * New values of some fields of a record, as they are kept.
 * @param id the record, which may keep a value that no other may have
 * @throws 422 that names the field a value does not fit, or that is not there
 */
export async function checkValues(
  context: Context,
  record: OwnRecord,
  id: string,
  values: Values,
): Promise<Values> {
  const fields = new Map((await fieldsOf(context, record)).map((field) => [field.key, field]));
  const checked: Record<string, string> = {};
  for (const [key, given] of Object.entries(values)) {
    const field = fields.get(key);
    if (!field || !maySee(context, field))
      throw invalid('Nothing was saved: there is no such field.', { fields: { [key]: 'does not exist' } });
    if (!mayChange(context, field))
      throw invalid(`Nothing was saved: you may not change ${field.label}.`, {
        fields: { [key]: 'may not be changed by you' },
      });
    const result = normaliseOwn(field.kind, given, field.options);
    if ('why' in result)
      throw invalid(`Nothing was saved: ${field.label} ${result.why}.`, { fields: { [key]: result.why } });
    const { value } = result;
    if (value && isPointing(field.kind) && !(await namesOf(context, field.kind, [value])).has(value))
      throw invalid(`Nothing was saved: there is no such ${field.kind}.`, {
        fields: { [key]: 'does not exist' },
      });
    if (value && field.isUnique) await requireFree(context, record, field, value, id);
    checked[key] = value;
  }
  return checked;
}

/** A value that was read, as the field keeps it; null where it does not fit, or another person has what only one may have. */
export async function usableValueOf(
  context: Context,
  personId: string,
  key: string,
  value: string,
): Promise<string | null> {
  try {
    return (await checkValues(context, 'person', personId, { [key]: value }))[key] || null;
  } catch (error) {
    if (error instanceof ProblemError) return null;
    throw error;
  }
}

/** The values of a record with some of them changed; what became empty is gone. */
export const withValues = (known: Values | undefined, changed: Values): Record<string, string> =>
  Object.fromEntries(Object.entries({ ...known, ...changed }).filter(([, value]) => value !== ''));
