import type { Field, KindSpec } from './types';

export const LAYOUTS = ['table', 'cards', 'lanes', 'calendar', 'map'] as const;
/** How the records of a view are shown; `by` is the field of the lanes, or of the days of the calendar. */
export interface Layout {
  as: (typeof LAYOUTS)[number];
  by?: string | undefined;
}

/** Whether records can stand in lanes by a field: it has one value of few. */
export const hasLanes = ({ type, options }: Pick<Field, 'type' | 'options'>): boolean =>
  (type === 'choice' || type === 'user') && Boolean(options?.length);

/** Whether records can stand in a calendar by a field: it says a day. */
export const hasDays = ({ type }: Pick<Field, 'type'>): boolean =>
  type === 'day' || type === 'time' || type === 'yearly';

/** What is wrong with a layout for a kind of record; null for nothing. */
export function layoutProblem({ as, by }: Layout, { fields }: KindSpec): string | null {
  if (as === 'table' || as === 'cards')
    return by === undefined ? null : 'Only lanes and calendars stand by a field.';
  if (as === 'map')
    return by === undefined && fields.has('place') ? null : 'A map is of records that have a location.';
  const field = fields.get(by ?? '');
  if (as === 'lanes')
    return field && hasLanes(field) ? null : 'Lanes need a field that has one value of a few.';
  return field && hasDays(field) ? null : 'A calendar needs a field that says a day.';
}
