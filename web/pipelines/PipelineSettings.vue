<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { plainNumber } from '../shell/format';
import EditCell from '../kit/EditCell.vue';
import PageHead from '../kit/PageHead.vue';
import type { PipelineHead } from '@emporikon/contract/pipelines';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import StageSheet from './StageSheet.vue';
import { useSave, type Saved } from './useSave';

const session = useSession();
const { data, load } = useFetched(() => api('GET /api/pipelines'), ['pipelines', 'deals']);
const save = useSave(load);
const name = ref('');
const chosen = ref('');
const current = computed(
  () => data.value?.items.find((item) => item.id === chosen.value) ?? data.value?.items[0] ?? null,
);
const put = (
  one: PipelineHead,
  patch: { name?: string; chances?: 'given' | 'measured'; active?: boolean },
): Promise<Saved> =>
  save(`Changed ${one.name}.`, () =>
    api('PATCH /api/pipelines/:id', { params: { id: one.id }, body: { version: one.version, ...patch } }),
  );

const isAdding = ref(false);
async function add(): Promise<void> {
  const made = await save(`Added ${name.value}.`, async () => {
    const answer = await api('POST /api/pipelines', { body: { name: name.value } });
    chosen.value = answer.id;
    return answer;
  });
  if (!made) return;
  name.value = '';
  isAdding.value = false;
}
</script>

<template>
  <PageHead
    title="Pipelines and stages"
    help="A deal moves through these stages. Its chance is the usual one of its stage until somebody sets another. The measured figures come from the deals you have closed."
  >
    <span class="heads">
      <v-btn
        v-for="one in data?.items ?? []"
        :key="one.id"
        class="word"
        :aria-pressed="one.id === current?.id"
        @click="chosen = one.id"
      >
        {{ one.name }}{{ one.active ? '' : ' (retired)' }}, {{ plainNumber(one.open) }} open
      </v-btn>
      <v-btn v-if="session.may('settings.deals')" class="word" @click="isAdding = true">Add a pipeline</v-btn>
    </span>
  </PageHead>
  <form v-if="isAdding" class="add" @submit.prevent="add">
    <v-text-field v-model="name" v-focus label="New pipeline" required maxlength="60" />
    <v-btn class="fill" type="submit">Add the pipeline</v-btn>
    <v-btn class="quiet" @click="isAdding = false">Cancel</v-btn>
  </form>
  <template v-if="!data"><span v-for="n in 10" :key="n" class="ghost"></span></template>
  <template v-if="current">
    <div v-if="session.may('settings.deals')" class="current">
      <span class="cap">Name</span>
      <EditCell
        :value="current.name"
        :label="`Name of the pipeline ${current.name}`"
        :version="current.version"
        field="name"
        :save="(text) => put(current as PipelineHead, { name: text })"
      />
      <v-checkbox
        label="Use measured chances where at least 10 deals were closed"
        :model-value="current.chances === 'measured'"
        @update:model-value="put(current as PipelineHead, { chances: $event ? 'measured' : 'given' })"
      />
      <v-btn class="word" @click="put(current as PipelineHead, { active: !current.active })">
        {{ current.active ? 'Retire the pipeline' : 'Use the pipeline again' }}
      </v-btn>
    </div>
    <StageSheet :key="current.id" :pipeline="current" />
  </template>
</template>

<style scoped>
.heads,
.current {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
}
.add {
  display: flex;
  gap: 10px;
  align-items: end;
  max-width: 520px;
  padding-bottom: 10px;
}
</style>
