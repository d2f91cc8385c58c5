import type { QueryField } from '@emporikon/contract/queries';
import type { Group, KindSpec, Order } from '@emporikon/core/query/types';
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue';

/** Letters typed in a table that stands in the order of a text: its rows begin with the first that has them. */
export function useTypedStart(
  draft: Ref<{ groups: readonly Group[]; order: readonly Order[] } | null>,
  fields: Ref<ReadonlyMap<string, QueryField>>,
  spec: Ref<KindSpec | null>,
): {
  letters: Ref<string>;
  isPossible: ComputedRef<boolean>;
  asked: ComputedRef<{ from?: string }>;
} {
  const letters = ref('');
  const order = computed(() => draft.value?.order[0]?.field ?? spec.value?.name ?? '');
  const isPossible = computed(
    () => draft.value?.groups.length === 0 && fields.value.get(order.value)?.type === 'text',
  );
  const asked = computed(() => (letters.value && isPossible.value ? { from: letters.value } : {}));
  // What was typed was looked for in what was shown then.
  watch(draft, () => (letters.value = ''));
  return { letters, isPossible, asked };
}
