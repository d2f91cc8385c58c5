import type { CustomField } from '@emporikon/contract/fields';
import type { BulkKind } from '@emporikon/core/bulk/types';
import { computed, type ComputedRef } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useTeam } from '../shell/useTeam';
import type { Choices } from './steps';
import { useTerms } from '../terms/useTerms';

const FOR_MANY: ReadonlySet<CustomField['kind']> = new Set([
  'text',
  'number',
  'date',
  'choice',
  'yes or no',
  'link',
]);
/** Whether it makes sense that many have the same in a field. */
const isForMany = ({ active, kind, isUnique, seenBy }: CustomField): boolean =>
  active && !isUnique && seenBy === 'everybody' && FOR_MANY.has(kind);

/** What records of a kind can be given to, put on and moved to in this organisation; null until all of it is there. */
export function useChoices(kind: BulkKind): ComputedRef<Choices | null> {
  const team = useTeam();
  const isPerson = kind === 'person';
  const { data: lists } = useFetched(async () => (isPerson ? api('GET /api/lists') : null), ['lists']);
  const { data: fields } = useFetched(
    () => api('GET /api/fields', { query: { record: kind } }),
    ['custom_fields'],
  );
  const { data: projects } = useFetched(
    async () => (isPerson ? api('GET /api/projects', { query: { state: 'open', limit: 200 } }) : null),
    ['projects'],
  );
  const { data: stages } = useFetched(
    async () => (kind === 'deal' ? api('GET /api/stages') : null),
    ['pipelines', 'stages'],
  );
  const terms = useTerms();
  const { data: teams } = useFetched(() => api('GET /api/teams'), ['teams']);
  return computed(() => {
    const isThere =
      fields.value && (isPerson ? lists.value && projects.value : kind !== 'deal' || stages.value);
    if (!team.value.length || !teams.value || !terms.all.value.length || !isThere) return null;
    return {
      users: team.value.map(({ id, name }) => ({ value: id, title: name })),
      lists: (lists.value?.items ?? []).map(({ id, name }) => ({ value: id, title: name })),
      projects: (projects.value?.items ?? []).map(({ id, title }) => ({ value: id, title })),
      stages: (stages.value?.items ?? [])
        .filter((stage) => stage.kind === 'open')
        .map(({ id, name }) => ({ value: id, title: name })),
      terms: terms.all.value.filter(({ isRetired }) => !isRetired),
      teams: teams.value.items.map(({ id, name }) => ({ value: id, title: name })),
      fields: (fields.value?.items ?? []).filter(isForMany),
    };
  });
}
