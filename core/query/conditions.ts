import { cornersOf, isInside, kmBetween, positionOf } from '../places/area';
import { daysOf, startOfDay, todayOf, yearlyRanges } from './time';
import { plainText } from './text';
import type {
  Asking,
  Comparison,
  Field,
  Filter,
  KindSpec,
  PlainRecord,
  PlainValue,
  Registry,
  RelationCount,
  RelationHas,
  Value,
  When,
} from './types';
import { asList } from './values';

const isWhen = (value: unknown): value is When => typeof value === 'object' && value !== null;

/** The first moment of the stretch or stretches a comparison names, and the first after: days, or instants of a time. */
export function boundsOf(value: Value | undefined, type: 'day' | 'time', asking: Asking): [string, string] {
  const today = todayOf(asking);
  const whens = asList(value).filter(isWhen);
  const [first, last = first] = whens;
  const from = first ? daysOf(first, today).from : today;
  const to = last ? daysOf(last, today).to : today;
  return type === 'day' ? [from, to] : [startOfDay(from, asking.zone), startOfDay(to, asking.zone)];
}

/** Days of the year that a comparison of a yearly day names, as ranges of MM-DD. */
export function yearlyOf(value: Value | undefined, asking: Asking): [string, string][] {
  const whens = asList(value).filter(isWhen);
  const [first, last = first] = whens;
  if (!first || !last) return [];
  const today = todayOf(asking);
  return yearlyRanges({ from: daysOf(first, today).from, to: daysOf(last, today).to });
}

/** The users a comparison names, with `me` and `myTeam` as who they are. */
export const usersOf = (value: Value | undefined, { me, team }: Asking): string[] =>
  asList(value).flatMap((one) =>
    one === 'me' ? (me === null ? [] : [me]) : one === 'myTeam' ? [...team] : [String(one)],
  );

const isEmpty = (value: PlainValue): boolean =>
  value === null || value === '' || (Array.isArray(value) && !value.length);

function ofNumber(value: number, { op, value: wanted }: Comparison): boolean {
  const [first = 0, last = 0] = asList(wanted).map(Number);
  if (op === 'is' || op === 'isNot') return asList(wanted).map(Number).includes(value) === (op === 'is');
  if (op === 'under') return value < first;
  if (op === 'atMost') return value <= first;
  if (op === 'over') return value > first;
  if (op === 'atLeast') return value >= first;
  return value >= first && value <= last;
}

function ofTime(
  value: string,
  type: 'day' | 'time',
  { op, value: wanted }: Comparison,
  asking: Asking,
): boolean {
  const [from, to] = boundsOf(wanted, type, asking);
  const at = type === 'time' ? new Date(value).toISOString() : value;
  if (op === 'before') return at < from;
  if (op === 'after') return at >= to;
  if (op === 'since') return at >= from;
  if (op === 'until') return at < to;
  return at >= from && at < to;
}

function ofText(value: string, { op, value: wanted }: Comparison): boolean {
  const [own, texts] = [plainText(value), asList(wanted).map((one) => plainText(String(one)))];
  if (op === 'contains') return texts.some((text) => own.includes(text));
  if (op === 'startsWith') return texts.some((text) => own.startsWith(text));
  return texts.includes(own);
}

function ofSeveral(values: readonly string[], { op, value: wanted }: Comparison): boolean {
  const texts = asList(wanted).map(String);
  if (op === 'hasAll') return texts.every((text) => values.includes(text));
  return texts.some((text) => values.includes(text));
}

function ofPlace(value: string, { op, value: wanted }: Comparison): boolean {
  const at = positionOf(value);
  const numbers = asList(wanted).map(Number);
  if (!at) return false;
  if (op === 'inside') return isInside(at, cornersOf(numbers));
  const [lon = 0, lat = 0, km = 0] = numbers;
  return kmBetween(at, [lon, lat]) <= km;
}

function compare(value: PlainValue, field: Field, comparison: Comparison, asking: Asking): boolean {
  const { op, value: wanted } = comparison;
  if (op === 'empty') return isEmpty(value);
  if (op === 'filled') return !isEmpty(value);
  if (op === 'isNot') return !compare(value, field, { ...comparison, op: 'is' }, asking);
  if (op === 'hasNone') return !compare(value, field, { ...comparison, op: 'hasAny' }, asking);
  if (field.type === 'flag') return (value === true) === (wanted === true);
  if (value === null) return false;
  switch (field.type) {
    case 'number':
    case 'money':
      return ofNumber(Number(value), comparison);
    case 'day':
    case 'time':
      return ofTime(String(value), field.type, comparison, asking);
    case 'yearly': {
      const day = String(value).slice(-5);
      return yearlyOf(wanted, asking).some(([from, to]) => day >= from && day <= to);
    }
    case 'several':
      return Array.isArray(value) && ofSeveral(value as readonly string[], comparison);
    case 'user':
      return usersOf(wanted, asking).includes(String(value));
    case 'choice':
      return asList(wanted).map(String).includes(String(value));
    case 'place':
      return ofPlace(String(value), comparison);
    case 'text':
      return ofText(String(value), comparison);
    case 'calculated':
      return false;
  }
}

/** What a record says in a field; what it does not say is null. */
export function valueOf(record: PlainRecord, key: string): PlainValue {
  const value = record[key];
  if (value === undefined || value === null) return null;
  if (typeof value !== 'object') return value;
  return Array.isArray(value) && value.every((one) => typeof one === 'string') ? value : null;
}

function relatedTo(record: PlainRecord, relation: string): readonly PlainRecord[] {
  const found = record[relation];
  if (found === undefined || found === null || typeof found !== 'object') return [];
  return (Array.isArray(found) ? found : [found]) as readonly PlainRecord[];
}

/**
 * Whether a record meets a condition. What is not there meets none but `empty`, and is not what is asked for under `isNot`.
 * @param filter checked by `checkQuery`
 */
export function meets(
  record: PlainRecord,
  filter: Filter,
  spec: KindSpec,
  registry: Registry,
  asking: Asking,
): boolean {
  const holds = (part: Filter): boolean => meets(record, part, spec, registry, asking);
  if ('all' in filter) return filter.all.every(holds);
  if ('any' in filter) return filter.any.some(holds);
  if ('not' in filter) return !holds(filter.not);
  if ('relation' in filter) return meetsRelation(record, filter, spec, registry, asking);
  const field = spec.fields.get(filter.field);
  return field !== undefined && compare(valueOf(record, field.key), field, filter, asking);
}

function meetsRelation(
  record: PlainRecord,
  filter: RelationHas | RelationCount,
  spec: KindSpec,
  registry: Registry,
  asking: Asking,
): boolean {
  const relation = spec.relations.get(filter.relation);
  if (!relation) return false;
  const where = filter.where ?? { all: [] };
  const all = relatedTo(record, relation.key);
  const met = all.filter((one) => meets(one, where, registry[relation.to], registry, asking)).length;
  if ('count' in filter) {
    const { op, value } = filter.count;
    return op === 'is' ? met === value : op === 'atLeast' ? met >= value : met <= value;
  }
  if (filter.has === 'none') return met === 0;
  return filter.has === 'any' ? met > 0 : all.length > 0 && met === all.length;
}
