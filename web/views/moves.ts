import type { BulkKind, Step } from '@emporikon/core/bulk/types';
import { isBulkKind, type ViewedKind } from './kinds';

/** What is done to a record that comes to another lane; the name of a form where more has to be said; null where it cannot. */
export type Move = { steps: Step[] } | { ask: 'status'; to: string } | null;

const FREE_STATUSES = new Set(['new', 'working', 'qualified']);
const CUSTOM = 'custom.';

/**
 * @param field the field of the lanes
 * @param to the value of the lane it comes to; null for the lane of those without
 */
export function moveTo(kind: ViewedKind, field: string, to: string | null): Move {
  if (!isBulkKind(kind)) return null;
  if (field === 'owner')
    return to || kind === 'person' || kind === 'company' ? { steps: [{ do: 'owner', to }] } : null;
  if (field.startsWith(CUSTOM))
    return { steps: [{ do: 'field', key: field.slice(CUSTOM.length), to: to ?? '' }] };
  if (!to) return null;
  if (kind === 'person' && field === 'standing')
    return { steps: [{ do: 'standing', to: to as Extract<Step, { do: 'standing' }>['to'] }] };
  if (kind === 'deal' && field === 'stage') return { steps: [{ do: 'stage', to }] };
  if (kind === 'lead' && field === 'status') {
    if (to === 'parked' || to === 'dropped') return { ask: 'status', to };
    return FREE_STATUSES.has(to)
      ? { steps: [{ do: 'status', to: to as Extract<Step, { do: 'status' }>['to'] }] }
      : null;
  }
  return null;
}

/** Whether records of a kind are ever moved between lanes by a field. */
export const isMovable = (kind: ViewedKind, field: string): kind is BulkKind =>
  isBulkKind(kind) &&
  (field === 'owner' ||
    field.startsWith(CUSTOM) ||
    (kind === 'person' && field === 'standing') ||
    (kind === 'deal' && field === 'stage') ||
    (kind === 'lead' && field === 'status'));
