import { compileExpression, type Options } from 'filtrex';
import { LONGEST_FORMULA, type OwnKind } from './own';

/** A field whose value a formula can use, by its key or its label. */
export interface Named {
  key: string;
  label: string;
  kind: OwnKind;
  /** As it is kept; '' for none. */
  value: string;
  /** Minor units in one unit of its currency, where it is money. */
  perUnit?: number;
}

const MS_PER_DAY = 86_400_000;
/** Deeper than anybody writes; the parser calls itself for each. */
const DEEPEST = 30;

function deepest(formula: string): number {
  let [now, most] = [0, 0];
  for (const sign of formula) {
    if (sign === '(') most = Math.max(most, ++now);
    if (sign === ')') now--;
  }
  return most;
}

class Missing extends Error {}

const dayNumber = (day: unknown): number => {
  const at = typeof day === 'string' ? Date.parse(`${day.slice(0, 10)}T00:00:00Z`) : Number.NaN;
  if (Number.isNaN(at)) throw new Missing('a day is missing');
  return at / MS_PER_DAY;
};

/** What a formula computes with: numbers as numbers, money in units, yes as true, the rest as text. */
function typed({ kind, value, perUnit = 1 }: Named): unknown {
  if (value === '') throw new Missing('a value is missing');
  if (kind === 'number') return Number(value);
  if (kind === 'money') return Number(value) / perUnit;
  if (kind === 'yes or no') return value === 'yes';
  return value;
}

function optionsFor(fields: readonly Named[], today: string): Options {
  const named = new Map(
    fields.flatMap((one) => [[one.label.toLowerCase(), one] as const, [one.key, one] as const]),
  );
  return {
    constants: { today },
    extraFunctions: {
      days: (from: unknown, to: unknown) => dayNumber(to) - dayNumber(from),
      filled: (name: unknown) =>
        typeof name === 'string' && (named.get(name.toLowerCase())?.value ?? '') !== '',
    },
    // A pattern can be made to take for ever, and nobody needs one here.
    operators: {
      '==': (left, right) => left === right,
      '!=': (left, right) => left !== right,
      '~=': () => {
        throw new Error('“~=” is not used here');
      },
    },
    customProp: (name) => {
      const field = named.get(name.toLowerCase());
      if (!field) throw new Error(`There is no field “${name}”`);
      return typed(field);
    },
  };
}

export type Calculated = { value: string } | { why: string };

const inWords = (error: Error): string =>
  /parse error|lexical/i.test(error.message) || error.name === 'I18nError'
    ? 'It cannot be read: compare it with the examples.'
    : `${error.message.replace(/\.$/, '')}.`;

function asValue(result: unknown): Calculated {
  if (result instanceof Missing) return { value: '' };
  if (result instanceof Error) return { why: inWords(result) };
  if (typeof result === 'boolean') return { value: result ? 'yes' : 'no' };
  if (typeof result === 'number')
    return Number.isFinite(result)
      ? { value: String(Number(result.toPrecision(12))) }
      : { why: 'It divides by nothing.' };
  return typeof result === 'string' ? { value: result } : { why: 'It gives no number and no text.' };
}

/**
 * What a formula comes to: numbers and sums are added, compared and chosen between; a field stands in single quotes where
 * its label has spaces; `today` and `days(from, to)` reckon with dates; a value that is missing gives none.
 * The language is that of the package filtrex, without patterns.
 * @param fields those it may use
 * @param today YYYY-MM-DD
 * @returns its value as text ('' where a field it needs is empty), or why there is none
 */
export function calculate(formula: string, fields: readonly Named[], today: string): Calculated {
  if (formula.length > LONGEST_FORMULA) return { why: `It is longer than ${LONGEST_FORMULA} characters.` };
  if (deepest(formula) > DEEPEST) return { why: 'It has too many brackets within brackets.' };
  try {
    return asValue(compileExpression(formula, optionsFor(fields, today))({}));
  } catch (error) {
    return asValue(error);
  }
}

/** Words of a formula: what stands in quotes, and names. */
const NAMES = /"(?:[^"\\]|\\.)*"|'((?:[^'\\]|\\.)*)'|[A-Za-z_][A-Za-z0-9_]*/g;

/** A formula with the keys of fields in place of their labels, so that it stays right when a label changes. */
export function withKeys(formula: string, fields: readonly { key: string; label: string }[]): string {
  const keys = new Set(fields.map(({ key }) => key));
  const byLabel = new Map(fields.map(({ key, label }) => [label.toLowerCase(), key]));
  return formula.replace(NAMES, (word, quoted: string | undefined) => {
    const name = quoted ?? (word.startsWith('"') ? '' : word);
    return keys.has(name) ? word : (byLabel.get(name.toLowerCase()) ?? word);
  });
}

/** What is wrong with a formula over these fields, whatever their values; null where it can be calculated. */
export function formulaTrouble(formula: string, fields: readonly Omit<Named, 'value'>[]): string | null {
  const samples: Partial<Record<OwnKind, string>> = {
    number: '1',
    money: '1',
    date: '2026-01-01',
    'yearly date': '2026-01-01',
    'yes or no': 'yes',
  };
  const given = fields.map((one) => ({ ...one, value: samples[one.kind] ?? 'a' }));
  const result = calculate(formula, given, '2026-01-02');
  return 'why' in result && !/divides by nothing/.test(result.why) ? result.why : null;
}
