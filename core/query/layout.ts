import type { Field, KindSpec } from './types';

export const LAYOUTS = ['table', 'cards', 'lanes'] as const;
/** How the records of a view are shown; `by` is the field of the lanes. */
export interface Layout {
  as: (typeof LAYOUTS)[number];
  by?: string | undefined;
}

/** Whether records can stand in lanes by a field: it has one value of few. */
export const hasLanes = ({ type, options }: Pick<Field, 'type' | 'options'>): boolean =>
  (type === 'choice' || type === 'user') && Boolean(options?.length);

/** What is wrong with a layout for a kind of record; null for nothing. */
export function layoutProblem({ as, by }: Layout, { fields }: KindSpec): string | null {
  if (as !== 'lanes') return by === undefined ? null : 'Only lanes stand by a field.';
  const field = fields.get(by ?? '');
  return field && hasLanes(field) ? null : 'Lanes need a field that has one value of a few.';
}
