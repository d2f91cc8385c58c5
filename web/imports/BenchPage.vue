<script setup lang="ts">
import Progress from '../kit/Progress.vue';
import { counted, plainNumber } from '../shell/format';
import type { ImportDetail, ImportChoices, Mapping } from '@emporikon/contract/imports';
import { computed, onScopeDispose, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import ChoicesForm from './ChoicesForm.vue';
import ColumnsTable from './ColumnsTable.vue';
import PreviewRows from './PreviewRows.vue';
import { BUSY, STATE_WORDS } from './words';

const props = defineProps<{ id: string }>();
const router = useRouter();
const undo = useUndo();
const { data, error, load } = useFetched(
  () => api('GET /api/imports/:id', { params: { id: props.id } }),
  ['imports'],
  () => [props.id],
);
const mapping = ref<Mapping | null>(null);
const choices = ref<ImportChoices | null>(null);
const isBusy = ref(false);
const POLL_MS = 700;

watch(
  data,
  (now) => {
    if (!now) return;
    mapping.value ??= now.mapping ? (JSON.parse(JSON.stringify(now.mapping)) as Mapping) : null;
    choices.value ??= JSON.parse(JSON.stringify(now.choices)) as ImportChoices;
  },
  { immediate: true },
);
const isWorking = computed(() => data.value !== null && BUSY.includes(data.value.state));
const timer = setInterval(() => (isWorking.value ? void load() : undefined), POLL_MS);
onScopeDispose(() => clearInterval(timer));

const mayMap = computed(() =>
  ['mapping', 'previewed', 'previewing', 'failed'].includes(data.value?.state ?? ''),
);
const share = computed(() => {
  const now = data.value;
  return now?.total ? Math.min(1, now.done / now.total) : 0;
});
const count = (key: string): string => plainNumber(data.value?.counts[key] ?? 0);

async function act(work: () => Promise<ImportDetail | undefined>): Promise<void> {
  isBusy.value = true;
  try {
    await work();
    await load();
  } catch (problem) {
    undo.fail(problem);
  } finally {
    isBusy.value = false;
  }
}
const none: Mapping = { columns: [], hasHead: true, dates: null, country: null };
const preview = (): void =>
  void act(() =>
    api('PUT /api/imports/:id/mapping', {
      params: { id: props.id },
      body: {
        version: data.value?.version ?? 1,
        mapping: mapping.value ?? none,
        choices: choices.value ?? data.value?.choices ?? {},
      },
    }),
  );
const takeTarget = (target: 'people' | 'companies' | 'deals'): void =>
  void act(async () => {
    const done = await api('POST /api/imports/:id/target', {
      params: { id: props.id },
      body: { version: data.value?.version ?? 1, target },
    });
    mapping.value = null;
    return done;
  });
const takeSheet = (sheet: number): void =>
  void act(async () => {
    const done = await api('POST /api/imports/:id/sheet', {
      params: { id: props.id },
      body: { version: data.value?.version ?? 1, sheet },
    });
    mapping.value = null;
    return done;
  });
const start = (): void => void act(() => api('POST /api/imports/:id/start', { params: { id: props.id } }));
const pause = (): void => void act(() => api('POST /api/imports/:id/pause', { params: { id: props.id } }));
const takeBack = (): void => void act(() => api('POST /api/imports/:id/undo', { params: { id: props.id } }));
const forget = (): void =>
  void act(async () => {
    await api('DELETE /api/imports/:id', { params: { id: props.id } });
    await router.push('/imports');
    return undefined;
  });
</script>

<template>
  <div v-if="data" class="page">
    <div class="page-head">
      <h1>{{ data.name }}</h1>
      <span class="soft" role="status"
        >{{ counted(data.total, 'row') }} · {{ STATE_WORDS[data.state]
        }}<template v-if="data.reading">
          · {{ data.reading.encoding.toUpperCase()
          }}<template v-if="data.reading.separator"
            >, separated by “{{ data.reading.separator === '\t' ? 'tab' : data.reading.separator }}”</template
          ><template v-if="data.reading.dates">, dates {{ data.reading.dates }}</template
          ><template v-if="data.reading.decimal">, decimal “{{ data.reading.decimal }}”</template
          ><template v-if="data.reading.remembered">
            · mapped like the last file with these columns</template
          ></template
        ></span
      >
    </div>
    <div v-if="isWorking" class="progress">
      <Progress :value="share" :max="1" label="Imported" />
      <span class="num">{{ plainNumber(data.done) }} of {{ plainNumber(data.total) }}</span>
      <v-btn v-if="data.state === 'running'" class="word" @click="pause">Pause</v-btn>
    </div>
    <p v-if="data.trouble" class="wrong" role="alert">{{ data.trouble }}</p>
    <div v-if="Object.keys(data.counts).length" class="counts" aria-label="What will change">
      <span
        ><b class="num">{{ count('new') }}</b> new</span
      >
      <span
        ><b class="num">{{ count('same') }}</b> known</span
      >
      <span
        ><b class="num">{{ count('maybe') }}</b> maybe</span
      >
      <span
        ><b class="num">{{ count('unusable') }}</b> unusable</span
      >
      <span v-if="data.counts['left out']"
        ><b class="num">{{ count('left out') }}</b> partly filled in</span
      >
      <template v-if="data.state === 'done' || data.state === 'undone'">
        <span class="soft"
          >added {{ count('made') }}, changed {{ count('changed') }}, unchanged {{ count('left alone') }},
          rejected {{ count('rejected') }}</span
        >
      </template>
    </div>
    <template v-if="mayMap">
      <p v-if="(data.reading?.sheets?.length ?? 0) > 1" class="sheets">
        <v-select
          class="field"
          :label="`This workbook has ${data.reading?.sheets?.length} sheets; one is imported at a time`"
          :model-value="data.mapping?.sheet ?? 0"
          :disabled="isBusy"
          :items="(data.reading?.sheets ?? []).map((name, at) => ({ value: at, title: name }))"
          @update:model-value="takeSheet"
        />
      </p>
      <v-select
        v-if="data.reading"
        class="field target"
        label="The rows are"
        :model-value="data.mapping?.target ?? 'people'"
        :disabled="isBusy"
        :items="[
          { value: 'people', title: 'People' },
          { value: 'companies', title: 'Companies' },
          { value: 'deals', title: 'Deals' },
        ]"
        @update:model-value="takeTarget"
      />
      <ColumnsTable v-if="data.reading && mapping" v-model="mapping" :reading="data.reading" />
      <ChoicesForm v-if="choices" v-model="choices" />
      <div class="do">
        <v-btn
          :class="data.state === 'previewed' ? 'quiet' : 'fill'"
          :loading="isBusy || data.state === 'previewing'"
          @click="preview"
          >{{ data.state === 'previewed' ? 'Check again' : 'Preview' }}</v-btn
        >
        <v-btn v-if="data.state === 'previewed'" class="fill" :loading="isBusy" @click="start"
          >Import {{ counted(data.total - (data.counts.unusable ?? 0), 'row') }}</v-btn
        >
        <v-btn class="word" @click="forget">Discard this file</v-btn>
      </div>
    </template>
    <div v-else class="do">
      <v-btn v-if="data.state === 'paused'" class="fill" @click="start">Continue</v-btn>
      <v-btn v-if="data.state === 'done' || data.state === 'paused'" class="quiet" @click="takeBack"
        >Undo the import</v-btn
      >
      <RouterLink v-if="data.state === 'done'" :to="`/${data.mapping?.target ?? 'people'}`" class="quiet-link"
        >See the {{ data.mapping?.target ?? 'people' }}</RouterLink
      >
    </div>
    <p v-if="data.problems.length">
      <a :href="`/api/imports/${id}/rejected.csv`" class="quiet-link" download
        >Download the rejected rows with reasons</a
      >
    </p>
    <PreviewRows
      v-if="['previewed', 'paused', 'done'].includes(data.state)"
      :id="id"
      :key="data.state"
      :problems="data.problems"
    />
  </div>
  <div v-else class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <span v-for="n in 6" v-else :key="n" class="ghost"></span>
  </div>
</template>

<style scoped>
.progress,
.counts,
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 22px;
  align-items: center;
  padding: 8px 0;
}
.counts b {
  font: 600 20px var(--head);
}
.target {
  max-width: 280px;
}
</style>
