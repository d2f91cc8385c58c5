import { invalid } from '../http/problems';

/**
 * Where a next move with a time from and to ends; null for one of a whole day or with a beginning only.
 * @throws 422 when it ends before it begins
 */
export function endOf(move: {
  dueAt: string;
  endAt?: string | null | undefined;
  allDay: boolean;
}): Date | null {
  if (!move.endAt || move.allDay) return null;
  const end = new Date(move.endAt);
  if (end <= new Date(move.dueAt))
    throw invalid('A next move ends after it begins.', { fields: { endAt: 'is before it begins' } });
  return end;
}
