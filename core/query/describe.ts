import { DateTime } from 'luxon';
import type {
  Comparison,
  Field,
  Filter,
  KindSpec,
  Registry,
  RelationCount,
  RelationHas,
  When,
} from './types';
import { asList } from './values';

/** How a condition stands in a strip: what it is of, and what is wanted. */
export interface Described {
  caption: string;
  value: string;
}

/** How whoever reads it writes dates, numbers and money; the organisation's currency. */
export interface Wording {
  locale: string;
  money: (minor: number) => string;
}

const date = (day: string, { locale }: Wording, options: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat(locale, { timeZone: 'UTC', ...options }).format(new Date(`${day}T00:00:00Z`));
const WHOLE = { day: 'numeric', month: 'short', year: 'numeric' } as const;

const SHIFTED: Record<number, string> = { [-1]: 'last', 0: 'this', 1: 'next' };
function whenWords(when: When, wording: Wording): string {
  if ('away' in when) {
    const { away, unit } = when;
    if (unit === 'day' && away === 0) return 'today';
    if (unit === 'day' && away === -1) return 'yesterday';
    if (unit === 'day' && away === 1) return 'tomorrow';
    const count = Math.abs(away) === 1 ? `a ${unit}` : `${Math.abs(away)} ${unit}s`;
    return away < 0 ? `${count} ago` : `in ${count}`;
  }
  if ('shift' in when) {
    const { unit, shift } = when;
    const named = SHIFTED[shift];
    if (named) return `${named} ${unit}`;
    return shift < 0 ? `${-shift} ${unit}s ago` : `in ${shift} ${unit}s`;
  }
  if (!('unit' in when) || when.unit === 'day') return date(when.day, wording, WHOLE);
  if (when.unit === 'year') return when.day.slice(0, 4);
  if (when.unit === 'month') return date(when.day, wording, { month: 'long', year: 'numeric' });
  if (when.unit === 'quarter') return `Q${DateTime.fromISO(when.day).quarter} ${when.day.slice(0, 4)}`;
  return `week of ${date(when.day, wording, WHOLE)}`;
}

const joined = (values: readonly string[], word: string): string =>
  values.length < 2 ? (values[0] ?? '') : `${values.slice(0, -1).join(', ')} ${word} ${values.at(-1) ?? ''}`;

function valueWords(value: string | number | boolean | When, field: Field, wording: Wording): string {
  if (typeof value === 'object') return whenWords(value, wording);
  if (typeof value === 'number')
    return field.type === 'money'
      ? wording.money(value)
      : `${new Intl.NumberFormat(wording.locale).format(value)}${field.unit === '%' ? ' %' : ''}`;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (field.key === 'country' && /^[A-Z]{2}$/.test(value))
    return new Intl.DisplayNames([wording.locale], { type: 'region' }).of(value) ?? value;
  if (field.type === 'user' && value === 'me') return 'me';
  if (field.type === 'user' && value === 'myTeam') return 'my team';
  const label = field.options?.find((option) => option.value === value)?.label ?? value;
  return field.type === 'choice' && !/[A-Z].*[A-Z]/.test(label) && label.toLowerCase() === value
    ? value
    : label;
}

const LASTING = (when: When, words: string): string =>
  'away' in when && (when.away < -1 || (when.away < 0 && when.unit !== 'day'))
    ? words.replace(/ ago$/, '').replace(/^a /, '')
    : '';
function timeWords({ op, value }: Comparison, wording: Wording): string {
  const whens = asList(value).filter((one): one is When => typeof one === 'object');
  const [first, last] = whens;
  if (!first) return '';
  const words = whenWords(first, wording);
  const lasting = LASTING(first, words);
  if (op === 'between' && last) {
    if ('away' in first && first.away === 0 && 'away' in last)
      return whenWords(last, wording).replace(/^in (?:a )?/, 'in the next ');
    return `${words} to ${whenWords(last, wording)}`;
  }
  if (op === 'before') return lasting ? `over ${words}` : `before ${words}`;
  if (op === 'since') return lasting ? `in the last ${lasting}` : `since ${words}`;
  if (op === 'after') return lasting ? `less than ${words}` : `after ${words}`;
  return op === 'until' ? `until ${words}` : words;
}

const NUMBERS: Partial<Record<Comparison['op'], string>> = {
  under: 'under',
  atMost: 'at most',
  over: 'over',
  atLeast: 'at least',
};
function comparisonWords(comparison: Comparison, field: Field, wording: Wording): string {
  const { op, value } = comparison;
  if (op === 'empty') return 'none';
  if (op === 'filled') return 'any';
  if (op === 'inside') return 'the area drawn on the map';
  if (op === 'near') {
    const [lon = 0, lat = 0, km = 0] = asList(value).map(Number);
    const number = (of: number, digits: number): string =>
      new Intl.NumberFormat(wording.locale, { maximumFractionDigits: digits }).format(of);
    return `within ${number(km, 1)} km of ${number(Math.abs(lat), 2)}° ${lat < 0 ? 'S' : 'N'}, ${number(Math.abs(lon), 2)}° ${lon < 0 ? 'W' : 'E'}`;
  }
  if (field.type === 'day' || field.type === 'time' || field.type === 'yearly')
    return timeWords(comparison, wording);
  const words = asList(value).map((one) => valueWords(one, field, wording));
  if (op === 'between') return `${words[0] ?? ''} to ${words[1] ?? ''}`;
  if (op === 'isNot') return `not ${joined(words, 'or')}`;
  if (op === 'hasNone') return `neither ${joined(words, 'nor')}`;
  if (op === 'hasAll') return joined(words, 'and');
  if (op === 'contains' || op === 'startsWith')
    return `${op === 'contains' ? 'contains' : 'starts with'} ${joined(
      words.map((word) => `“${word}”`),
      'or',
    )}`;
  const number = NUMBERS[op];
  return number ? `${number} ${words[0] ?? ''}` : joined(words, 'or');
}

const inline = ({ caption, value }: Described): string => (caption ? `${caption}: ${value}` : value);

function relationWords(
  filter: RelationHas | RelationCount,
  spec: KindSpec,
  registry: Registry,
  wording: Wording,
): Described {
  const relation = spec.relations.get(filter.relation);
  if (!relation) return { caption: filter.relation, value: '?' };
  const inner = filter.where && describe(filter.where, registry[relation.to], registry, wording);
  const where = inner ? inline(inner) : '';
  if ('count' in filter) {
    const { op, value } = filter.count;
    const count =
      op === 'is' ? `exactly ${value}` : op === 'atLeast' ? `at least ${value}` : `at most ${value}`;
    return { caption: relation.label, value: where ? `${count} with ${where}` : count };
  }
  if (!relation.isMany)
    return { caption: relation.label, value: `${filter.has === 'none' ? 'not ' : ''}${where || 'any'}` };
  const have = { any: 'some', all: 'all', none: 'none' }[filter.has];
  return {
    caption: relation.label,
    value: where ? `${have} with ${where}` : filter.has === 'none' ? 'none' : 'any',
  };
}

/** A condition in words: "Last spoken to", "over 30 days ago". */
export function describe(filter: Filter, spec: KindSpec, registry: Registry, wording: Wording): Described {
  const of = (part: Filter): Described => describe(part, spec, registry, wording);
  if ('all' in filter)
    return { caption: '', value: filter.all.map((part) => inline(of(part))).join(' and ') };
  if ('any' in filter) {
    const parts = filter.any.map(of);
    const [first] = parts;
    if (first && parts.every((part) => part.caption === first.caption))
      return { caption: first.caption, value: parts.map((part) => part.value).join(' or ') };
    return { caption: 'Either', value: parts.map(inline).join(' or ') };
  }
  if ('not' in filter) {
    const inner = of(filter.not);
    return inner.caption
      ? { caption: inner.caption, value: `not ${inner.value}` }
      : { caption: 'Not', value: inner.value };
  }
  if ('relation' in filter) return relationWords(filter, spec, registry, wording);
  const field = spec.fields.get(filter.field);
  if (!field) return { caption: filter.field, value: '?' };
  return { caption: field.label, value: comparisonWords(filter, field, wording) };
}
