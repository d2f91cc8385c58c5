import type { BulkKind, Step } from '@emporikon/core/bulk/types';
import { isBulkKind, type ViewedKind } from './kinds';

/** What is done to a record that comes to another lane; what it counts as where more has to be said; null where it cannot. */
export type Move = { steps: Step[] } | { ask: 'parked' | 'dropped'; to: string } | null;

const FREE_STATUSES = new Set(['new', 'working', 'qualified']);
const CUSTOM = 'custom.';

/**
 * @param field the field of the lanes
 * @param to the value of the lane it comes to; null for the lane of those without
 * @param countsAs the built-in value that counts as, where it is a term of the organisation's own
 */
export function moveTo(kind: ViewedKind, field: string, to: string | null, countsAs = to): Move {
  if (!isBulkKind(kind)) return null;
  if (field === 'owner')
    return to || kind === 'person' || kind === 'company' ? { steps: [{ do: 'owner', to }] } : null;
  if (field.startsWith(CUSTOM))
    return { steps: [{ do: 'field', key: field.slice(CUSTOM.length), to: to ?? '' }] };
  if (!to) return null;
  if (kind === 'person' && field === 'standing') return { steps: [{ do: 'standing', to }] };
  if (kind === 'company' && field === 'companyKind') return { steps: [{ do: 'kind', to }] };
  if (kind === 'deal' && field === 'stage') return { steps: [{ do: 'stage', to }] };
  if (kind === 'lead' && field === 'status') {
    if (countsAs === 'parked' || countsAs === 'dropped') return { ask: countsAs, to };
    return FREE_STATUSES.has(countsAs ?? '') ? { steps: [{ do: 'status', to }] } : null;
  }
  return null;
}

/** Whether records of a kind are ever moved between lanes by a field. */
export const isMovable = (kind: ViewedKind, field: string): kind is BulkKind =>
  isBulkKind(kind) &&
  (field === 'owner' ||
    field.startsWith(CUSTOM) ||
    (kind === 'person' && field === 'standing') ||
    (kind === 'company' && field === 'companyKind') ||
    (kind === 'deal' && field === 'stage') ||
    (kind === 'lead' && field === 'status'));
