<script setup lang="ts">
import PageHead from '../kit/PageHead.vue';
import type { SightChoice, SightDefault, SightKind } from '@emporikon/contract/visibility';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import ChoiceFields from './ChoiceFields.vue';
import { KINDS } from './words';

/** Who sees new records, by kind and by source of the lead. */
const session = useSession();
const undo = useUndo();
const { data: teams } = useFetched(() => api('GET /api/teams'), ['teams', 'users']);
const { data: kept, load } = useFetched(() => api('GET /api/visibility-defaults'), ['visibility_defaults']);
const source = ref('');
const draft = ref<SightDefault[]>([]);
const keyOf = (one: Pick<SightDefault, 'kind' | 'source'>): string => `${one.kind}/${one.source ?? ''}`;
/** A default for each kind, and for each source of leads that has one. */
watch(
  kept,
  (now) => {
    const said = now?.items ?? [];
    draft.value = KINDS.flatMap(({ value }) => [
      said.find((one) => one.kind === value && !one.source) ?? {
        kind: value,
        visibility: 'everybody' as const,
      },
      ...said.filter((one) => one.kind === value && one.source),
    ]);
  },
  { immediate: true },
);
const isChanged = computed(() => {
  const plain = (items: readonly SightDefault[]): string =>
    JSON.stringify(
      items
        .filter(({ visibility }) => visibility !== 'everybody')
        .map((item) => [keyOf(item), item.visibility, item.teamId, item.peopleIds])
        .sort(),
    );
  return plain(draft.value) !== plain(kept.value?.items ?? []);
});
const isWhole = computed(() =>
  draft.value.every(
    ({ visibility, teamId, peopleIds }) =>
      (visibility !== 'team' || teamId) && (visibility !== 'named' || peopleIds?.length),
  ),
);
const titleOf = (kind: SightKind, of?: string): string =>
  `${KINDS.find(({ value }) => value === kind)?.title ?? ''}${of ? ` from “${of}”` : ''}`;
const put = (at: number, choice: SightChoice): void => {
  const there = draft.value[at];
  if (there)
    draft.value[at] = { kind: there.kind, ...(there.source ? { source: there.source } : {}), ...choice };
};

async function act(work: () => Promise<{ eventId: string | null }>, text: string): Promise<boolean> {
  try {
    undo.tell({ text, eventId: (await work()).eventId });
    return true;
  } catch (error) {
    undo.fail(error);
    return false;
  } finally {
    await load();
  }
}
const save = (): Promise<boolean> =>
  act(
    () => api('PUT /api/visibility-defaults', { body: { items: draft.value } }),
    'Saved who sees new records.',
  );
function addSource(): void {
  const name = source.value.trim();
  if (!name) return;
  const at = draft.value.findLastIndex(({ kind }) => kind === 'leads');
  if (!draft.value.some((one) => one.kind === 'leads' && one.source === name))
    draft.value.splice(at + 1, 0, { kind: 'leads', source: name, visibility: 'owner' });
  source.value = '';
}
</script>

<template>
  <PageHead
    title="Who may see what"
    help="Who sees a new record, unless it is changed on the record itself. What belongs to a record is never visible to more people than the record."
  />
  <div class="rows">
    <ChoiceFields
      v-for="(one, at) in draft"
      :key="keyOf(one)"
      :model-value="one"
      :teams="teams?.items ?? []"
      :label="titleOf(one.kind, one.source)"
      :is-off="!session.mayManage"
      @update:model-value="put(at, $event)"
    />
  </div>
  <template v-if="session.mayManage">
    <form class="add" @submit.prevent="addSource">
      <v-text-field
        v-model="source"
        label="Lead source"
        hint="To choose differently for its leads"
        persistent-hint
        maxlength="120"
      />
      <v-btn class="quiet" type="submit">Add a source</v-btn>
    </form>
    <v-btn class="fill" :disabled="!isChanged || !isWhole" @click="save">Save</v-btn>
  </template>
</template>

<style scoped>
.rows {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 14px 24px;
  align-items: start;
}
.add {
  display: grid;
  grid-template-columns: minmax(0, 300px) auto;
  gap: 8px;
  justify-content: start;
  padding: 18px 0;
  margin-top: 18px;
  border-top: 1px solid var(--rule2);
}
.add .quiet {
  margin-top: 20px;
}
</style>
