import type { FieldType, How, Operator, Unit } from './types';

const ALWAYS = ['empty', 'filled'] as const;
const OF_NUMBERS = ['is', 'isNot', 'under', 'atMost', 'over', 'atLeast', 'between', ...ALWAYS] as const;
const OF_TIMES = ['in', 'before', 'after', 'since', 'until', 'between', ...ALWAYS] as const;

/** How a field of each type can be compared. */
export const OPERATORS: Readonly<Record<FieldType, readonly Operator[]>> = {
  text: ['is', 'isNot', 'contains', 'startsWith', ...ALWAYS],
  choice: ['is', 'isNot', ...ALWAYS],
  user: ['is', 'isNot', ...ALWAYS],
  several: ['hasAny', 'hasAll', 'hasNone', ...ALWAYS],
  number: OF_NUMBERS,
  money: OF_NUMBERS,
  day: OF_TIMES,
  time: OF_TIMES,
  yearly: ['in', 'between', ...ALWAYS],
  flag: ['is'],
  place: ['inside', 'near', ...ALWAYS],
  calculated: [],
};

export const OPERATOR_WORDS: Readonly<Record<Operator, string>> = {
  is: 'is',
  isNot: 'is not',
  contains: 'contains',
  startsWith: 'starts with',
  hasAny: 'has any of',
  hasAll: 'has all of',
  hasNone: 'has none of',
  under: 'is under',
  atMost: 'is at most',
  over: 'is over',
  atLeast: 'is at least',
  in: 'is in',
  before: 'is before',
  after: 'is after',
  since: 'is since',
  until: 'is until',
  between: 'is between',
  inside: 'is inside',
  near: 'is near',
  empty: 'is empty',
  filled: 'is filled in',
};

export const UNITS: readonly Unit[] = ['day', 'week', 'month', 'quarter', 'year'];

/** What each type can be grouped by; where nothing is named, by its value. */
export const isGroupable = (type: FieldType): boolean => !['several', 'place', 'calculated'].includes(type);
export const isSortable = (type: FieldType): boolean => isGroupable(type);

const OF_SUMS: readonly How[] = ['sum', 'mean', 'median', 'least', 'most'];
/** What can be added up of each type. */
export const TOTALS: Readonly<Record<FieldType, readonly How[]>> = {
  text: [],
  choice: [],
  user: [],
  several: [],
  flag: [],
  yearly: [],
  place: [],
  calculated: [],
  number: OF_SUMS,
  money: OF_SUMS,
  day: ['least', 'most'],
  time: ['least', 'most'],
};
