import type { Filter } from '../types';
import { calledOtherwise, condition, withAllOf, words, type Rule, type Said, type State } from './state';

const STANDINGS: readonly (readonly [RegExp, string])[] = [
  [words('(?:past|former|ex|old|lapsed)[ -]customers?|past customer standing'), 'past customer'],
  [words('prospects?|prospective customers?'), 'prospect'],
  [words('customers?|clients?'), 'customer'],
  [words('partners?'), 'partner'],
  [words('strangers?'), 'stranger'],
  [words('personal(?: contacts?)?'), 'personal'],
];
const NON = words('non[ -](?<rest>customers?|prospects?|partners?|clients?)');
export const standing: Rule = (state) => {
  if (!state.has('standing')) return null;
  const all = (value: string): string[] => withAllOf(state.spec, 'standing', [value]);
  const non = state.take(NON);
  if (non) {
    const value = STANDINGS.find(([pattern]) =>
      new RegExp(`^${pattern.source}$`, 'u').test(non.rest ?? ''),
    )?.[1];
    return condition({ field: 'standing', op: 'isNot', value: all(value ?? 'customer') }, 'not standing');
  }
  const start = state.at;
  state.take(words('(?:whose )?standing(?: is)?'));
  const own = calledOtherwise(state, 'standing');
  if (own !== null) return condition({ field: 'standing', op: 'is', value: all(own) }, 'standing');
  for (const [pattern, value] of STANDINGS)
    if (state.take(pattern)) return condition({ field: 'standing', op: 'is', value: all(value) }, 'standing');
  state.at = start;
  return null;
};

const STATUS = words(
  '(?:(?:with |in |whose )?status(?: is)? )?(?<status>new|working|qualified|converted|parked|dropped|open|won|lost|done|finished|completed|stopped|solved|unsolved|closed)',
);
const OPEN_LEAD = ['new', 'working', 'qualified'];
export const status: Rule = (state) => {
  const start = state.at;
  state.take(words('(?:with |in |whose )?status(?: is)?'));
  const own = state.has('status') ? calledOtherwise(state, 'status') : null;
  if (own !== null)
    return condition({ field: 'status', op: 'is', value: withAllOf(state.spec, 'status', [own]) }, 'status');
  state.at = start;
  const found = state.take(STATUS);
  if (!found) return null;
  const said = statusOf(state, found.status ?? '');
  if (said?.what === 'condition') return since(state, said);
  state.at = start;
  return null;
};
/** "Converted this year", "leads dropped since June": since when it is so. */
function since(state: State, said: Extract<Said, { what: 'condition' }>): Said {
  const end = state.at;
  if (said.field === 'done') {
    const when = state.has('doneAt') ? state.when('past') : null;
    return when ? condition({ field: 'doneAt', op: when.op, value: when.value }) : said;
  }
  if (!state.has('statusSince') || !/^(?:converted|parked|dropped|qualified)$/.test(valueIn(said.filter)))
    return said;
  const noun = state.take(words('leads?'));
  const when = state.when('past');
  if (!when) state.at = end;
  return when && (noun !== null || state.at > end)
    ? condition({ all: [said.filter, { field: 'statusSince', op: when.op, value: when.value }] })
    : said;
}
const valueIn = (filter: Filter): string =>
  'value' in filter && Array.isArray(filter.value) ? String(filter.value[0]) : '';

function statusOf({ kind, spec }: State, value: string): Said | null {
  const known = spec.fields.get('status')?.options?.some((option) => option.value === value);
  if (kind === 'lead' && value === 'open')
    return condition({ field: 'status', op: 'is', value: withAllOf(spec, 'status', OPEN_LEAD) });
  if (kind === 'deal' && value === 'closed')
    return condition({ field: 'status', op: 'is', value: ['won', 'lost'] });
  if (kind === 'task') {
    if (value === 'open') return condition({ field: 'done', op: 'is', value: false });
    return /done|finished|completed|closed/.test(value)
      ? condition({ field: 'done', op: 'is', value: true }, 'done')
      : null;
  }
  if (kind === 'case' && /open|solved|unsolved|closed/.test(value))
    return condition({ field: 'solved', op: 'is', value: /^(?:solved|closed)$/.test(value) });
  return known
    ? condition({ field: 'status', op: 'is', value: withAllOf(spec, 'status', [value]) }, 'status')
    : null;
}
