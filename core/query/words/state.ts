import type { Asking, Filter, Group, KindSpec, Option, Order, RecordKind, Registry } from '../types';
import { anyOf, asTyped } from './tokens';
import { readWhen, type Tense, type TimePhrase } from './when';

/** What the words may name besides fields: colleagues, and values that fields have here. */
export interface Vocabulary {
  users: readonly Option[];
  /** By field: values as they are stored, and what they are called. */
  values: Readonly<Record<string, readonly Option[]>>;
  /** How many minor units make one of the currency that money is asked for in. */
  perUnit: number;
}

/** What a phrase says. */
export type Said =
  | {
      what: 'condition';
      filter: Filter;
      /** The fields of one value that a list of values can follow for. */ field?: string;
    }
  | { what: 'group'; groups: Group[] }
  | { what: 'order'; order: Order[] }
  | { what: 'nothing' };
export const condition = (filter: Filter, field?: string): Said => ({
  what: 'condition',
  filter,
  ...(field ? { field } : {}),
});
export const NOTHING: Said = { what: 'nothing' };

/** The words, how far they are read, and what is known of them so far. */
export class State {
  at = 0;
  /** Words further on that were read already. */
  readBefore: { from: number; to: number } | null = null;
  /** The field whose values go on, where the words before say "and" or "or". */
  goesOn: string | null = null;
  /** What was read so far. */
  said: readonly Filter[] = [];
  constructor(
    readonly flat: string,
    readonly spec: KindSpec,
    readonly registry: Registry,
    readonly vocabulary: Vocabulary,
    readonly asking: Asking,
  ) {}

  get kind(): RecordKind {
    return this.spec.kind;
  }
  /** Where something came from was said last. */
  get isAfterSource(): boolean {
    const last = this.said.at(-1);
    return last !== undefined && 'field' in last && last.field === 'source';
  }
  has(field: string): boolean {
    return this.spec.fields.has(field);
  }
  /** Reads a pattern here, and goes on behind it. */
  take(pattern: RegExp): Record<string, string | undefined> | null {
    pattern.lastIndex = this.at;
    const match = pattern.exec(this.flat);
    if (!match?.[0]) return null;
    this.at += match[0].length;
    while (this.flat[this.at] === ' ') this.at++;
    return { ...match.groups, all: match[0] };
  }
  /** Reads a time here, and goes on behind it. */
  when(tense: Tense): TimePhrase | null {
    const found = readWhen(this.flat, this.at, tense, this.asking);
    if (!found) return null;
    this.at = found.end;
    while (this.flat[this.at] === ' ') this.at++;
    return found;
  }
}

/** A pattern of whole words that is read at one place. */
export const words = (pattern: string): RegExp => new RegExp(`(?:${pattern})(?![\\p{L}\\d])`, 'uy');

/** A rule reads what it knows at a place, or gives null and leaves the words. */
export type Rule = (state: State) => Said | null;

/** The forms in which a value is typed: as it is, and more than one of it. */
export function formsOf(label: string): string[] {
  const typed = asTyped(label);
  if (!typed) return [];
  const several = /[^aeiou]y$/.test(typed)
    ? `${typed.slice(0, -1)}ies`
    : /(?:s|x|ch|sh)$/.test(typed)
      ? `${typed}es`
      : `${typed}s`;
  return [typed, several, ...(/^head of /.test(typed) ? [typed.replace(/^head/, 'heads')] : [])];
}

/** Some values of a choice, and whatever counts as one of them. */
export const withAllOf = ({ fields }: KindSpec, field: string, values: readonly string[]): string[] => [
  ...values,
  ...(fields.get(field)?.options ?? []).flatMap(({ value, countsAs = value }) =>
    countsAs !== value && values.includes(countsAs) ? value : [],
  ),
];

/** The value of a choice that its organisation calls otherwise than we do, where that is what comes next. */
export function calledOtherwise(state: State, field: string): string | null {
  const options = state.spec.fields.get(field)?.options ?? [];
  const own = options.filter(({ value, label }) => label.toLowerCase() !== value.toLowerCase());
  if (!own.length) return null;
  const { values, pattern } = byForm(own);
  const found = state.take(words(`(?<value>${pattern})`));
  return found && (values.get(found.value ?? '') ?? null);
}

/** Values by the forms they are typed in. */
export function byForm(options: readonly Option[]): { values: Map<string, string>; pattern: string } {
  const values = new Map<string, string>();
  for (const { value, label } of options)
    for (const form of formsOf(label)) if (!values.has(form)) values.set(form, value);
  return { values, pattern: anyOf(values.keys()) };
}
