<script setup lang="ts">
import type { PipelineHead } from '@emporikon/contract/pipelines';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { gatherFetches, useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import CloseReasons from './CloseReasons.vue';
import ProductSheet from './ProductSheet.vue';
import QuoteSheet from './QuoteSheet.vue';
import RateSheet from './RateSheet.vue';
import StageSheet from './StageSheet.vue';
import { useSave, type Saved } from './useSave';

const waiting = gatherFetches();
const session = useSession();
const mayEdit = computed(() => session.me?.role !== 'rep');
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

async function add(): Promise<void> {
  const made = await save(`Added ${name.value}.`, async () => {
    const answer = await api('POST /api/pipelines', { body: { name: name.value } });
    chosen.value = answer.id;
    return answer;
  });
  if (made) name.value = '';
}
const valueOf = (event: Event): string => (event.target as HTMLInputElement).value;
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Stages and prices</h1>
      <span class="soft"
        >how deals go, and what they are made of{{ mayEdit ? '' : '; a manager can change it' }}</span
      >
    </div>
    <template v-if="waiting"><span v-for="n in 14" :key="n" class="ghost"></span></template>
    <div v-show="!waiting">
      <section v-if="current" class="pipeline">
        <div class="heads">
          <button
            v-for="one in data?.items ?? []"
            :key="one.id"
            class="word"
            :aria-pressed="one.id === current.id"
            @click="chosen = one.id"
          >
            {{ one.name }}{{ one.active ? '' : ' (retired)' }}, {{ one.open }} open
          </button>
          <form v-if="mayEdit" class="heads" @submit.prevent="add">
            <input
              v-model="name"
              class="inline-edit pick"
              required
              maxlength="60"
              placeholder="a new pipeline"
              aria-label="New pipeline"
            /><button class="word" type="submit">Add a pipeline</button>
          </form>
        </div>
        <div v-if="mayEdit" class="heads">
          <label
            >Name
            <input
              class="inline-edit pick"
              :value="current.name"
              maxlength="60"
              @change="put(current, { name: valueOf($event) })"
          /></label>
          <label
            >Chances are
            <select
              class="inline-edit pick"
              :value="current.chances"
              @change="put(current, { chances: valueOf($event) as 'given' | 'measured' })"
            >
              <option value="given">as given</option>
              <option value="measured">measured, where 10 were closed</option>
            </select></label
          >
          <button class="word" @click="put(current, { active: !current.active })">
            {{ current.active ? 'Retire it' : 'Take it up again' }}
          </button>
        </div>
        <StageSheet :key="current.id" :pipeline="current" :may-edit="mayEdit" />
      </section>
      <ProductSheet class="next" :may-edit="mayEdit" />
      <div class="columns next">
        <CloseReasons :may-edit="mayEdit" />
        <RateSheet :may-edit="mayEdit" />
        <div><QuoteSheet :may-edit="mayEdit" /></div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.heads {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
  padding: 2px 0;
}
.heads .heads {
  padding: 0;
  gap: 8px;
}
.pick {
  width: 200px;
}
.next {
  margin-top: 26px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 24px 40px;
}
</style>
