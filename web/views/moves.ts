import type { Step } from '@emporikon/core/bulk/types';
import { isBulkKind, type ViewedKind } from './kinds';

/** Kinds that are changed one at a time. */
export type WorkKind = 'task' | 'project' | 'case';
/** What is done to a record that comes to another lane; what it counts as where more has to be said; null where it cannot. */
export type Move =
  | { steps: Step[] }
  | { ask: 'parked' | 'dropped'; to: string }
  | { work: WorkKind; change: Record<string, string> }
  | { work: WorkKind; values: Record<string, string> }
  | null;

/** The fields of tasks, projects and cases in which they can move, as they are called where they are changed. */
const OF_WORK: Record<WorkKind, Readonly<Record<string, string>>> = {
  task: { owner: 'assigneeId', priority: 'priority', taskKind: 'kind' },
  project: { owner: 'ownerId', stage: 'stageId' },
  case: { owner: 'ownerId', urgency: 'urgency' },
};
const isWork = (kind: ViewedKind): kind is WorkKind => kind in OF_WORK;

const FREE_STATUSES = new Set(['new', 'working', 'qualified']);
const CUSTOM = 'custom.';

/**
 * @param field the field of the lanes
 * @param to the value of the lane it comes to; null for the lane of those without
 * @param countsAs the built-in value that counts as, where it is a term of the organisation's own
 */
export function moveTo(kind: ViewedKind, field: string, to: string | null, countsAs = to): Move {
  if (isWork(kind)) {
    if (field.startsWith(CUSTOM)) return { work: kind, values: { [field.slice(CUSTOM.length)]: to ?? '' } };
    const name = OF_WORK[kind][field];
    return to && name ? { work: kind, change: { [name]: to } } : null;
  }
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
export const isMovable = (kind: ViewedKind, field: string): boolean =>
  isWork(kind)
    ? field.startsWith(CUSTOM) || field in OF_WORK[kind]
    : isBulkKind(kind) &&
      (field === 'owner' ||
        field.startsWith(CUSTOM) ||
        (kind === 'person' && field === 'standing') ||
        (kind === 'company' && field === 'companyKind') ||
        (kind === 'deal' && field === 'stage') ||
        (kind === 'lead' && field === 'status'));
