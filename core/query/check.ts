import { areaProblem, nearProblem } from '../places/area';
import { isGroupable, isSortable, OPERATOR_WORDS, OPERATORS, TOTALS } from './operators';
import type { Comparison, Field, Filter, KindSpec, Query, Registry, When } from './types';
import { asList } from './values';

/** What is wrong with a query, and where: a path such as `filter.all.0.value`. */
export interface Issue {
  path: string;
  message: string;
}

const [MOST_DEPTH, MOST_VALUES, MOST_COLUMNS] = [8, 500, 40];
/** How many a question has at most. */
export const [MOST_CONDITIONS, MOST_GROUPS, MOST_ORDER] = [60, 4, 6];
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const MOST_AWAY = 36_600;

const isDay = (text: string): boolean =>
  DAY.test(text) && text >= '1000-01-01' && new Date(`${text}T00:00:00Z`).toJSON()?.slice(0, 10) === text;

function isGoodWhen(when: When): boolean {
  if ('away' in when) return Number.isInteger(when.away) && Math.abs(when.away) <= MOST_AWAY;
  if ('shift' in when) return Number.isInteger(when.shift) && Math.abs(when.shift) <= MOST_AWAY;
  return isDay(when.day);
}

/** How many conditions there are in one, itself among them. */
export function countConditions(filter: Filter): number {
  const inner =
    'all' in filter
      ? filter.all
      : 'any' in filter
        ? filter.any
        : 'not' in filter
          ? [filter.not]
          : 'relation' in filter && filter.where
            ? [filter.where]
            : [];
  return inner.reduce((sum, part) => sum + countConditions(part), 1);
}

/** What values a comparison wants, in words; null where these will do. */
function wrongValue(field: Field, { op, value }: Comparison): string | null {
  if (op === 'empty' || op === 'filled') return value === undefined ? null : 'takes no value';
  const values = asList(value);
  if (values.length > MOST_VALUES) return `takes at most ${MOST_VALUES} values`;
  const all = (is: (one: unknown) => boolean): boolean => values.every(is);
  const many = op === 'between' ? 2 : null;
  switch (field.type) {
    case 'place':
      return op === 'inside' ? areaProblem(values) : nearProblem(values);
    case 'flag':
      return typeof value === 'boolean' ? null : 'takes yes or no';
    case 'number':
    case 'money': {
      const isCount = many
        ? values.length === many
        : op === 'is' || op === 'isNot'
          ? values.length > 0
          : values.length === 1;
      return isCount && all((one) => typeof one === 'number' && Number.isFinite(one))
        ? null
        : many
          ? 'takes two numbers'
          : 'takes a number';
    }
    case 'day':
    case 'time':
    case 'yearly':
      return values.length === (many ?? 1) &&
        all((one) => typeof one === 'object' && one !== null && isGoodWhen(one as When))
        ? null
        : many
          ? 'takes two dates'
          : 'takes a date or a period';
    default: {
      if (!values.length || !all((one) => typeof one === 'string' && one !== ''))
        return 'takes one or more values';
      const known = field.type === 'choice' ? field.options : undefined;
      const unknown = known && values.find((one) => !known.some((option) => option.value === one));
      return unknown === undefined ? null : `has no value “${String(unknown)}”`;
    }
  }
}

class Checker {
  readonly issues: Issue[] = [];
  private conditions = 0;
  constructor(private readonly registry: Registry) {}

  say(path: string, message: string): void {
    this.issues.push({ path, message });
  }

  field(key: string, spec: KindSpec, path: string): Field | null {
    const field = spec.fields.get(key);
    if (!field) this.say(path, `${spec.many} have no field “${key}”`);
    return field ?? null;
  }

  filter(filter: Filter, spec: KindSpec, path: string, depth = 0): void {
    if (depth > MOST_DEPTH) return this.say(path, `conditions are nested at most ${MOST_DEPTH} deep`);
    if (++this.conditions === MOST_CONDITIONS + 1)
      return this.say(path, `a query has at most ${MOST_CONDITIONS} conditions`);
    if (this.conditions > MOST_CONDITIONS) return;
    if ('all' in filter) return this.parts(filter.all, spec, `${path}.all`, depth);
    if ('any' in filter) return this.parts(filter.any, spec, `${path}.any`, depth);
    if ('not' in filter) return this.filter(filter.not, spec, `${path}.not`, depth + 1);
    if ('relation' in filter) {
      const relation = spec.relations.get(filter.relation);
      if (!relation)
        return this.say(`${path}.relation`, `${spec.many} are not related to “${filter.relation}”`);
      if (filter.where) this.filter(filter.where, this.registry[relation.to], `${path}.where`, depth + 1);
      return;
    }
    const field = this.field(filter.field, spec, `${path}.field`);
    if (!field) return;
    const operators = OPERATORS[field.type];
    if (!operators.length)
      return this.say(
        `${path}.field`,
        `“${field.label}” is calculated when it is shown, and cannot be a condition`,
      );
    if (!operators.includes(filter.op))
      return this.say(
        `${path}.op`,
        `“${field.label}” cannot be compared with “${OPERATOR_WORDS[filter.op]}”; use ${operators.map((op) => `“${OPERATOR_WORDS[op]}”`).join(', ')}`,
      );
    const wrong = wrongValue(field, filter);
    if (wrong) this.say(`${path}.value`, `“${field.label}” ${OPERATOR_WORDS[filter.op]} … ${wrong}`);
  }

  private parts(parts: readonly Filter[], spec: KindSpec, path: string, depth: number): void {
    parts.forEach((part, at) => this.filter(part, spec, `${path}.${at}`, depth + 1));
  }

  most(list: readonly unknown[] | undefined, most: number, path: string, noun: string): void {
    if (list && list.length > most) this.say(path, `a query has at most ${most} ${noun}`);
  }
}

/**
 * Whether a query of the right shape can be asked: its fields are there and can be compared, grouped, sorted and added up
 * like this.
 * @returns all that is wrong, in words for whoever wrote it; nothing where it is fine
 */
export function checkQuery(query: Query, registry: Registry): Issue[] {
  const checker = new Checker(registry);
  const spec = registry[query.kind];
  if (query.filter) checker.filter(query.filter, spec, 'filter');
  checker.most(query.groups, MOST_GROUPS, 'groups', 'groups');
  checker.most(query.order, MOST_ORDER, 'order', 'fields to sort by');
  checker.most(query.totals, MOST_COLUMNS, 'totals', 'totals');
  checker.most(query.columns, MOST_COLUMNS, 'columns', 'columns');
  query.groups?.forEach((group, at) => {
    const path = `groups.${at}`;
    const field = checker.field(group.field, spec, `${path}.field`);
    if (!field) return;
    if (!isGroupable(field.type)) return checker.say(path, `“${field.label}” cannot be grouped by`);
    const isTime =
      field.type === 'day' || field.type === 'time' || (field.type === 'yearly' && group.by === 'month');
    const isNumber = field.type === 'number' || field.type === 'money';
    const { by } = group;
    const fits =
      by === undefined ||
      (typeof by === 'object'
        ? isNumber &&
          by.bands.length > 0 &&
          by.bands.every((edge, n) => n === 0 || edge > (by.bands[n - 1] ?? edge))
        : by === 'letter'
          ? field.type === 'text'
          : isTime);
    if (!fits) checker.say(`${path}.by`, `“${field.label}” cannot be grouped like this`);
  });
  query.order?.forEach(({ field: key }, at) => {
    const field = checker.field(key, spec, `order.${at}.field`);
    if (field && !isSortable(field.type)) checker.say(`order.${at}`, `“${field.label}” cannot be sorted by`);
  });
  query.totals?.forEach(({ how, field: key }, at) => {
    if (how === 'count') return;
    const field = checker.field(key ?? '', spec, `totals.${at}.field`);
    if (field && !TOTALS[field.type].includes(how))
      checker.say(`totals.${at}`, `“${field.label}” has no ${how}`);
  });
  query.columns?.forEach((key, at) => checker.field(key, spec, `columns.${at}`));
  return checker.issues;
}
