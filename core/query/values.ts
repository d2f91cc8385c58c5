import type { Value, When } from './types';

/** What a comparison wants as a list; none where it takes no value. */
export const asList = (value: Value | undefined): readonly (string | number | boolean | When)[] =>
  value === undefined ? [] : typeof value === 'object' && 'length' in value ? value : [value];
