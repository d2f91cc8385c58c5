<script setup lang="ts">
import { nounFor } from '@emporikon/core/people/counts';
import type { Comparison, LookAlike, ToldApart } from '@emporikon/contract/lookAlikes';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { when } from '../shell/format';
import { usePaged } from '../shell/usePaged';
import { useUndo } from '../shell/undo';
import HiddenMatches from '../visibility/HiddenMatches.vue';
import AnswerButtons from './AnswerButtons.vue';
import Compared from './Compared.vue';
import GroupList from './GroupList.vue';
import MergeMany from './MergeMany.vue';
import { count } from './words';

type Kind = 'person' | 'company';
type Apart = ToldApart['how'];
type Run = { startedAt: string; finishedAt: string | null; records: number; groups: number; trouble: string };

const SURE = 0.98;
const route = useRoute();
const router = useRouter();
const undo = useUndo();
const kind = computed<Kind>(() => (route.path.startsWith('/companies') ? 'company' : 'person'));
/** Records somebody wants to see side by side without anybody having found them alike. */
const byHand = computed(() =>
  String(route.query.ids ?? '')
    .split(',')
    .filter(Boolean),
);
const total = ref(0);
const run = shallowRef<Run | null>(null);
const { items, hasMore, more, error, reload } = usePaged(
  async (cursor) => {
    const page = await api('GET /api/look-alikes', { query: { kind: kind.value, cursor, limit: 60 } });
    total.value = page.total;
    run.value = page.run;
    return page;
  },
  ['look_alikes', 'people', 'companies'],
);
const skipped = ref<string[]>([]);
const atId = ref<string | null>(null);
const comparison = shallowRef<Comparison | null>(null);
const trouble = ref('');
const isBusy = ref(false);
const isMany = ref(false);
const choices = ref<Record<string, string>>({});
const survivor = ref('');
const apart = ref<string[]>([]);

const groups = computed(() => items.value ?? []);
const current = computed<LookAlike | null>(() => groups.value.find((one) => one.id === atId.value) ?? null);
const members = computed(() =>
  byHand.value.length > 1 ? byHand.value : (current.value?.members.map((member) => member.id) ?? []),
);
const isRunning = computed(() => run.value !== null && run.value.finishedAt === null);

watch(kind, () => {
  atId.value = null;
  items.value = null;
  void reload();
});
watch(groups, (now) => {
  if (!now.some((one) => one.id === atId.value))
    atId.value = (now.find((one) => !skipped.value.includes(one.id)) ?? now[0])?.id ?? null;
});
watch(
  () => members.value.join(','),
  async () => {
    comparison.value = null;
    trouble.value = '';
    if (members.value.length < 2) return;
    const asked = members.value.join(',');
    try {
      const got = await api('POST /api/merges/compare', { body: { kind: kind.value, ids: members.value } });
      if (asked !== members.value.join(',')) return;
      choices.value = {};
      apart.value = [];
      survivor.value = got.survivorId;
      comparison.value = got;
    } catch (problem) {
      trouble.value = wordsOf(problem);
    }
  },
  { immediate: true },
);

function step(by: 1 | -1): void {
  const at = groups.value.findIndex((one) => one.id === atId.value);
  const next = groups.value[at + by];
  if (next) atId.value = next.id;
}
function skip(): void {
  if (!atId.value) return;
  skipped.value = [...skipped.value, atId.value];
  step(1);
}
async function judge(work: () => Promise<void>): Promise<void> {
  if (isBusy.value) return;
  isBusy.value = true;
  try {
    await work();
    if (!byHand.value.length) await reload();
  } catch (problem) {
    undo.fail(problem);
  } finally {
    isBusy.value = false;
  }
}
const same = (): Promise<void> =>
  judge(async () => {
    const group = current.value;
    const mergedIds = members.value.filter((one) => one !== survivor.value && !apart.value.includes(one));
    if (!mergedIds.length) return;
    if (group && apart.value.length)
      await api('POST /api/look-alikes/:id/different', {
        params: { id: group.id },
        body: { ids: apart.value },
      });
    const name = comparison.value?.records.find((record) => record.id === survivor.value)?.name ?? '';
    const { id, eventId } = await api('POST /api/merges', {
      body: { kind: kind.value, survivorId: survivor.value, mergedIds, choices: choices.value },
    });
    const to = `/${kind.value === 'person' ? 'people' : 'companies'}/${id}`;
    undo.tell({ text: `Merged: ${name}.`, eventId, links: [{ text: 'Open', to }] });
    if (byHand.value.length) await router.push(to);
  });
const TOLD: Record<Apart, string> = {
  different: 'Kept apart; not asked again unless their facts change.',
  namesakes: 'Kept apart as namesakes, which both records show.',
  fatherAndSon: 'Kept apart as father and son, which both records show.',
};
const different = (as: Apart): Promise<void> =>
  judge(async () => {
    if (byHand.value.length) {
      const { eventId } = await api('POST /api/told-apart', {
        body: { kind: kind.value, ids: members.value, as },
      });
      undo.tell({ text: TOLD[as], eventId });
      await router.push(`/${kind.value === 'person' ? 'people' : 'companies'}/${members.value[0] ?? ''}`);
    } else if (current.value) {
      const { eventId } = await api('POST /api/look-alikes/:id/different', {
        params: { id: current.value.id },
        body: { as, ...(apart.value.length ? { ids: apart.value } : {}) },
      });
      undo.tell({ text: TOLD[as], eventId });
    }
  });
const related = (): Promise<void> =>
  judge(async () => {
    if (!current.value) return;
    const { eventId } = await api('POST /api/look-alikes/:id/related', {
      params: { id: current.value.id },
      body: { parentId: survivor.value },
    });
    undo.tell({ text: 'Noted as branches.', eventId });
  });
async function again(): Promise<void> {
  await api('POST /api/look-alikes/run', { body: { kind: kind.value } }).catch(undo.fail);
  undo.tell({ text: 'Comparing your records. New groups appear here as they are found.', eventId: null });
}

function press(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || isMany.value) return;
  if (target.closest('input:not([type=radio], [type=checkbox]), textarea, .v-overlay')) return;
  const act = {
    s: same,
    d: () => different('different'),
    n: () => different('namesakes'),
    f: kind.value === 'person' ? () => different('fatherAndSon') : undefined,
    k: skip,
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
  }[event.key];
  if (!act) return;
  event.preventDefault();
  void act();
}
onMounted(() => window.addEventListener('keydown', press));
onBeforeUnmount(() => window.removeEventListener('keydown', press));
</script>

<template>
  <div class="page alike">
    <div class="page-head">
      <h1>{{ byHand.length ? 'Side by side' : 'Look-alikes' }}</h1>
      <template v-if="!byHand.length">
        <span class="soft run" role="status">
          <template v-if="isRunning">Comparing your records…</template>
          <template v-else-if="run?.trouble">The last comparison failed: {{ run.trouble }}</template>
          <template v-else-if="run?.finishedAt"
            >{{ count(total) }} {{ nounFor(total, 'group') }} among {{ count(run.records) }}, last compared
            {{ when(run.finishedAt) }}</template
          >
          <template v-else-if="items">Not compared yet</template>
        </span>
        <v-btn class="word" @click="again">Compare again</v-btn>
        <v-btn v-if="groups.some((one) => one.probability >= SURE)" class="word" @click="isMany = true">
          Merge the sure ones…
        </v-btn>
      </template>
    </div>
    <HiddenMatches v-if="!byHand.length" />
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <div class="columns" :class="{ alone: byHand.length > 0 }">
      <GroupList
        v-if="!byHand.length && groups.length"
        v-model="atId"
        :groups="groups"
        :later="skipped"
        :has-more="hasMore"
        @more="more"
      />
      <section v-if="members.length > 1" class="sheet" aria-label="Side by side">
        <template v-if="comparison">
          <AnswerButtons
            :kind="kind"
            :is-busy="isBusy"
            :is-found="!byHand.length"
            :survivor-name="comparison.records.find((one) => one.id === survivor)?.name ?? ''"
            @same="same"
            @apart="different"
            @related="related"
            @skip="skip"
          />
          <Compared
            v-model:choices="choices"
            v-model:survivor="survivor"
            v-model:apart="apart"
            :comparison="comparison"
          />
        </template>
        <p v-else-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
        <template v-else><span v-for="n in 7" :key="n" class="ghost"></span></template>
      </section>
      <p v-else-if="items && !groups.length" class="empty">
        {{
          run?.finishedAt
            ? 'No two records look alike. Records are compared every night and after each import.'
            : 'Not compared yet. “Compare again” goes through all your records.'
        }}
      </p>
      <template v-else-if="!items"><span v-for="n in 6" :key="n" class="ghost"></span></template>
    </div>
    <MergeMany
      v-if="isMany"
      :groups="groups.filter((one) => one.probability >= SURE).slice(0, 50)"
      @close="isMany = false"
      @done="reload"
    />
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  gap: 0 28px;
  align-items: start;
}
.columns.alone {
  grid-template-columns: minmax(0, 1fr);
}
.sheet {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 14px 20px 16px;
}
.word.on {
  color: var(--ink);
  text-decoration: underline;
}
.run {
  margin-left: auto;
}
@media (max-width: 700px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }
  .sheet {
    padding: 12px 14px;
  }
  .run {
    margin-left: 0;
    width: 100%;
  }
}
</style>
