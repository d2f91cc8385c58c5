import { computed, type ComputedRef } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';

/**
 * The stages of every pipeline in use, each under the name of its pipeline, for a list to choose from.
 * @param own the pipeline that is offered even when it is retired
 */
export function useStageItems(
  own: () => string | undefined,
): ComputedRef<{ type?: string; value: string; title: string }[]> {
  const { data: stages } = useFetched(() => api('GET /api/stages'), ['stages', 'pipelines']);
  const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines']);
  return computed(() =>
    (pipelines.value?.items ?? [])
      .filter((item) => item.active || item.id === own())
      .flatMap((item) => [
        { type: 'subheader', value: item.id, title: item.name },
        ...(stages.value?.items ?? [])
          .filter((stage) => stage.pipelineId === item.id)
          .map((stage) => ({ value: stage.id, title: stage.name })),
      ]),
  );
}
