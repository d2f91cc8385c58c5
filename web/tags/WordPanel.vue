<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { useStarting } from '../bulk/useStarting';
import { api } from '../shell/api';
import { counted } from '../shell/format';
import type { WordRow } from './WordTable.vue';

/** Renames a tag, a source or a list, makes it one with another, or takes it away. */
export type WordKind = 'tag' | 'source' | 'list';
const props = defineProps<{ kind: WordKind; row: WordRow; others: readonly WordRow[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const name = ref(props.row.name);
const intoKey = ref<string | null>(null);
const uses = ref<string[]>([]);
const { isBusy, wrong, act } = useStarting(() => emit('done'));

const records = computed(() => props.row.counts.reduce((sum, n) => sum + n, 0));
const isMerge = computed(() => props.others.some((one) => one.name === name.value.trim()));

watch(
  () => props.row.key,
  async () => {
    if (props.kind === 'list') return;
    const { kind, row } = props;
    uses.value = await (
      kind === 'tag'
        ? api('GET /api/tags/uses', { query: { tag: row.name } })
        : api('GET /api/sources/uses', { query: { source: row.name } })
    ).then(
      (told) => told.uses,
      () => [],
    );
  },
  { immediate: true },
);

function rename(): Promise<void> {
  const { kind, row } = props;
  const to = name.value.trim();
  const text = isMerge.value ? `“${row.name}” is now one with “${to}”.` : `“${row.name}” is now “${to}”.`;
  if (kind === 'tag') return act(() => api('POST /api/tags/changes', { body: { tag: row.name, to } }), text);
  if (kind === 'source')
    return act(() => api('POST /api/sources/changes', { body: { source: row.name, to } }), text);
  return act(() => api('PATCH /api/lists/:id', { params: { id: row.key }, body: { name: to } }), text);
}

function moveAll(): Promise<void> {
  const into = props.others.find(({ key }) => key === intoKey.value);
  return act(
    () => api('POST /api/lists/:id/moves', { params: { id: props.row.key }, body: { toId: intoKey.value } }),
    into
      ? `The people of “${props.row.name}” go to “${into.name}”.`
      : `The people of “${props.row.name}” are taken off it.`,
  );
}

const remove = (): Promise<void> =>
  act(
    () =>
      props.kind === 'tag'
        ? api('POST /api/tags/changes', { body: { tag: props.row.name, to: null } })
        : api('DELETE /api/lists/:id', { params: { id: props.row.key } }),
    `“${props.row.name}” is removed.`,
  );
</script>

<template>
  <SidePanel :label="row.name" @close="emit('close')">
    <div class="panel">
      <p v-if="kind !== 'list'">
        {{ counted(records, 'record') }} {{ records === 1 ? 'has' : 'have' }} it, as far as you may see them.
        A change reaches all of them.
      </p>
      <p v-if="uses.length">Also named by {{ uses.join(', ') }}.</p>
      <form class="part" @submit.prevent="rename">
        <v-text-field v-model="name" label="Name" required :maxlength="kind === 'list' ? 80 : 60" />
        <p v-if="isMerge && kind !== 'list'" class="soft">
          “{{ name.trim() }}” exists already: both become one.
        </p>
        <v-btn
          class="fill"
          type="submit"
          :loading="isBusy"
          :disabled="!name.trim() || name.trim() === row.name"
        >
          {{ isMerge && kind !== 'list' ? 'Merge' : 'Rename' }}
        </v-btn>
      </form>
      <form v-if="kind === 'list' && records" class="part" @submit.prevent="moveAll">
        <v-select
          v-model="intoKey"
          label="Move its people to"
          :items="[
            { value: null, title: 'No list: take them off' },
            ...others.map((one) => ({ value: one.key, title: one.name })),
          ]"
        />
        <v-btn class="quiet" type="submit" :loading="isBusy">{{ intoKey ? 'Move' : 'Take them off' }}</v-btn>
      </form>
      <div v-if="kind === 'tag' || (kind === 'list' && !records)" class="part">
        <p v-if="kind === 'tag'" class="soft">
          Removing takes the tag off every record and form, and its rhythm goes. Views that ask for it find
          nobody.
        </p>
        <v-btn class="quiet" :loading="isBusy" @click="remove">Remove</v-btn>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </div>
  </SidePanel>
</template>

<style scoped>
.panel,
.part {
  display: grid;
  gap: 12px;
}
.panel {
  padding: 16px 24px;
}
.part {
  padding-top: 12px;
  border-top: 1px solid var(--rule2);
}
.part .v-btn {
  justify-self: start;
}
p {
  margin: 0;
}
</style>
