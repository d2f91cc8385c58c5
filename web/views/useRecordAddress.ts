import { useRoute, useRouter } from 'vue-router';
import { VIEWED, type ViewedKind } from './kinds';

/** Where the records of a view are opened: on a page of their own, a task beside its view; empty for what has no page. */
export function useRecordAddress(kind: ViewedKind): (row: { id: string }) => string {
  const [route, router] = [useRoute(), useRouter()];
  const { record } = VIEWED[kind];
  return ({ id }) => {
    if (kind === 'task') return router.resolve({ query: { ...route.query, task: id } }).fullPath;
    return record ? `${record}${id}` : '';
  };
}
