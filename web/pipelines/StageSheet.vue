<script setup lang="ts">
import type { Stage } from '@emporikon/contract/deals';
import type { PipelineHead } from '@emporikon/contract/pipelines';
import { DEAL_ASK_KEYS, DEAL_ASKS, type DealAsk } from '@emporikon/core/lifecycle/stages';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import EditCell from '../shell/EditCell.vue';
import { percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSave, type Saved } from './useSave';

/** The stages of one pipeline: their order, chances given and measured, what each asks for. */
const props = defineProps<{ pipeline: PipelineHead; mayEdit: boolean }>();
const { data, load } = useFetched(
  () => api('GET /api/stages', { query: { pipeline: props.pipeline.id } }),
  ['stages', 'deals', 'pipelines'],
);
const save = useSave(load);
const name = ref('');
const leaving = ref<{ stage: Stage; to: string } | null>(null);
const stages = computed(() => data.value?.items ?? []);
type Patch = {
  name?: string;
  probability?: number;
  typicalDays?: number;
  position?: number;
  asks?: DealAsk[];
};
const put = (stage: Stage, patch: Patch, version = stage.version): Promise<Saved> =>
  save(`Changed ${stage.name}.`, () =>
    api('PATCH /api/stages/:id', { params: { id: stage.id }, body: { version, ...patch } }),
  );
const toggle = (stage: Stage, ask: DealAsk): Promise<Saved> =>
  put(stage, {
    asks: stage.asks.includes(ask) ? stage.asks.filter((one) => one !== ask) : [...stage.asks, ask],
  });

async function add(): Promise<void> {
  const made = await save(`Added ${name.value}.`, () =>
    api('POST /api/stages', { body: { pipelineId: props.pipeline.id, name: name.value } }),
  );
  if (made === true) name.value = '';
}

async function remove(stage: Stage, to?: string): Promise<void> {
  leaving.value = null;
  await save(`Removed ${stage.name}.`, () =>
    api('DELETE /api/stages/:id', { params: { id: stage.id }, query: { to } }),
  );
}
const others = (stage: Stage): Stage[] =>
  stages.value.filter((one) => one.id !== stage.id && one.kind === stage.kind);
</script>

<template>
  <div class="scroll">
    <table class="book">
      <thead>
        <tr>
          <th>Stage</th>
          <th class="num">Chance given</th>
          <th class="num">Measured</th>
          <th class="num">Days given</th>
          <th class="num">Measured</th>
          <th>Asks for</th>
          <th><span class="d-sr-only">Order</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(stage, at) in stages" :key="stage.id">
          <td>
            <EditCell
              :value="stage.name"
              :disabled="!mayEdit"
              maxlength="60"
              :label="`Name of the stage ${stage.name}`"
              :version="stage.version"
              field="name"
              :save="(text, version) => put(stage, { name: text }, version)"
            />
          </td>
          <td class="num">
            <EditCell
              v-if="stage.kind === 'open'"
              class="few"
              type="number"
              min="0"
              max="100"
              :value="stage.probability"
              :disabled="!mayEdit"
              :label="`Chance of ${stage.name}, per cent`"
              :version="stage.version"
              field="probability"
              :save="(text, version) => put(stage, { probability: Number(text) }, version)"
            /><template v-else>{{ stage.kind }}</template>
          </td>
          <td class="num soft">
            <template v-if="stage.measured && stage.kind === 'open'"
              >{{ percent(stage.measured.share) }}, of {{ stage.measured.closed }}
              <span class="cap"
                >{{ percent(stage.measured.low) }} – {{ percent(stage.measured.high) }}</span
              ></template
            >
          </td>
          <td class="num">
            <EditCell
              v-if="stage.kind === 'open'"
              class="few"
              type="number"
              min="1"
              max="999"
              :value="stage.typicalDays"
              :disabled="!mayEdit"
              :label="`Typical days in ${stage.name}`"
              :version="stage.version"
              field="typicalDays"
              :save="(text, version) => put(stage, { typicalDays: Number(text) }, version)"
            />
          </td>
          <td class="num soft">
            {{ stage.kind === 'open' ? (stage.measured?.typicalDays ?? '') : '' }}
          </td>
          <td class="asks">
            <details>
              <summary>{{ stage.asks.map((ask) => DEAL_ASKS[ask]).join(', ') || 'nothing' }}</summary>
              <label v-for="ask in DEAL_ASK_KEYS" :key="ask"
                ><input
                  type="checkbox"
                  :checked="stage.asks.includes(ask)"
                  :disabled="!mayEdit"
                  @change="toggle(stage, ask)"
                />
                {{ DEAL_ASKS[ask] }}</label
              >
            </details>
          </td>
          <td class="order">
            <template v-if="mayEdit">
              <button
                class="word"
                :disabled="at === 0"
                :aria-label="`${stage.name} up`"
                @click="put(stage, { position: stage.position - 1 })"
              >
                ↑
              </button>
              <button
                class="word"
                :disabled="at === stages.length - 1"
                :aria-label="`${stage.name} down`"
                @click="put(stage, { position: stage.position + 1 })"
              >
                ↓
              </button>
              <button
                v-if="others(stage).length"
                class="word"
                :aria-label="`Remove ${stage.name}`"
                @click="leaving = { stage, to: others(stage)[0]?.id ?? '' }"
              >
                remove
              </button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <form v-if="leaving" class="row" @submit.prevent="remove(leaving.stage, leaving.to)">
    <span
      >Deals in <b>{{ leaving.stage.name }}</b> go to</span
    >
    <select v-model="leaving.to" class="inline-edit pick" aria-label="Where its deals go">
      <option v-for="one in others(leaving.stage)" :key="one.id" :value="one.id">{{ one.name }}</option>
    </select>
    <v-btn class="quiet" type="submit">Remove the stage</v-btn>
    <button type="button" class="word" @click="leaving = null">keep it</button>
  </form>
  <form v-if="mayEdit" class="row" @submit.prevent="add">
    <input
      v-model="name"
      class="inline-edit pick"
      required
      maxlength="60"
      placeholder="a new stage"
      :aria-label="`New stage of ${pipeline.name}`"
    />
    <button class="word" type="submit">Add a stage</button>
  </form>
</template>

<style scoped>
.few {
  width: 64px;
  text-align: right;
}
.asks {
  min-width: 180px;
}
summary {
  cursor: pointer;
  min-height: 24px;
}
.asks label {
  display: flex;
  gap: 6px;
  min-height: 24px;
  align-items: center;
}
.order {
  white-space: nowrap;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding: 6px 0;
}
.pick {
  width: 180px;
}
</style>
