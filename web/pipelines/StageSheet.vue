<script setup lang="ts">
import { useSession } from '../shell/session';
import type { Stage } from '@emporikon/contract/deals';
import type { PipelineHead } from '@emporikon/contract/pipelines';
import { DEAL_ASK_KEYS, DEAL_ASKS, type DealAsk } from '@emporikon/core/lifecycle/stages';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import EditCell from '../kit/EditCell.vue';
import { percent, plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSave, type Saved } from './useSave';

/** The stages of one pipeline: their order, chances given and measured, what each asks for. */
const props = defineProps<{ pipeline: PipelineHead }>();
const { data, load } = useFetched(
  () => api('GET /api/stages', { query: { pipeline: props.pipeline.id } }),
  ['stages', 'deals', 'pipelines'],
);
const session = useSession();
const save = useSave(load);
const name = ref('');
const asks = DEAL_ASK_KEYS.map((key) => ({ value: key, title: DEAL_ASKS[key] }));
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
  <template v-if="!data"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <div v-else class="scroll" tabindex="0" role="region" aria-label="Stages">
    <v-table class="book">
      <thead>
        <tr>
          <th>Stage</th>
          <th class="num">Usual chance</th>
          <th class="num">Measured</th>
          <th class="num">Typical days</th>
          <th class="num">Measured</th>
          <th>Required to enter</th>
          <th><span class="visually-hidden">Order</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(stage, at) in stages" :key="stage.id">
          <td class="name">
            <EditCell
              :value="stage.name"
              :disabled="!session.may('settings.deals')"
              :label="`Name of the stage ${stage.name}`"
              :version="stage.version"
              field="name"
              :save="(text, version) => put(stage, { name: text }, version)"
            />
            <span v-if="stage.kind !== 'open'" class="soft"> {{ stage.kind }}</span>
          </td>
          <td class="num">
            <EditCell
              v-if="stage.kind === 'open'"
              kind="number"
              :value="stage.probability"
              :shown="percent(stage.probability / 100)"
              :disabled="!session.may('settings.deals')"
              :label="`Chance of ${stage.name}, per cent`"
              :version="stage.version"
              field="probability"
              :save="(text, version) => put(stage, { probability: Number(text) }, version)"
            />
          </td>
          <td class="num soft">
            <template v-if="stage.measured && stage.kind === 'open'"
              >{{ percent(stage.measured.share) }}
              <span class="cap"
                >({{ percent(stage.measured.low) }} – {{ percent(stage.measured.high) }}, of
                {{ plainNumber(stage.measured.closed) }})</span
              ></template
            >
          </td>
          <td class="num">
            <EditCell
              v-if="stage.kind === 'open'"
              kind="number"
              :value="stage.typicalDays"
              :disabled="!session.may('settings.deals')"
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
            <EditCell
              kind="several"
              :value="stage.asks.join('\n')"
              :shown="stage.asks.map((ask) => DEAL_ASKS[ask]).join(', ')"
              placeholder="Nothing"
              :options="asks"
              :disabled="!session.may('settings.deals')"
              :label="`Required to enter ${stage.name}`"
              :version="stage.version"
              field="asks"
              :stored="stage.asks"
              :save="
                (text, version) =>
                  put(stage, { asks: text.split('\n').filter(Boolean) as DealAsk[] }, version)
              "
            />
          </td>
          <td class="order">
            <template v-if="session.may('settings.deals')">
              <v-btn
                class="word"
                :disabled="at === 0"
                :aria-label="`Move ${stage.name} up`"
                @click="put(stage, { position: stage.position - 1 })"
              >
                ↑
              </v-btn>
              <v-btn
                class="word"
                :disabled="at === stages.length - 1"
                :aria-label="`Move ${stage.name} down`"
                @click="put(stage, { position: stage.position + 1 })"
              >
                ↓
              </v-btn>
              <v-btn
                v-if="others(stage).length"
                class="word"
                :aria-label="`Remove ${stage.name}`"
                @click="leaving = { stage, to: others(stage)[0]?.id ?? '' }"
              >
                Remove
              </v-btn>
            </template>
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
  <form v-if="leaving" class="row" @submit.prevent="remove(leaving.stage, leaving.to)">
    <v-select
      v-model="leaving.to"
      class="pick"
      :label="`Move the deals in ${leaving.stage.name} to`"
      :items="others(leaving.stage)"
      item-value="id"
      item-title="name"
    />
    <v-btn class="fill" type="submit">Remove the stage</v-btn>
    <v-btn class="quiet" @click="leaving = null">Cancel</v-btn>
  </form>
  <form v-if="data && session.may('settings.deals')" class="row" @submit.prevent="add">
    <v-text-field v-model="name" class="pick" label="New stage" required maxlength="60" />
    <v-btn class="fill" type="submit">Add a stage</v-btn>
  </form>
</template>

<style scoped>
.name {
  font-weight: 600;
}
.name .soft {
  font-weight: 400;
}
.asks {
  min-width: 180px;
}
.order {
  white-space: nowrap;
}
.order .v-btn {
  margin-left: 6px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  padding: 12px 0 4px;
}
.pick {
  flex: 0 1 280px;
}
</style>
