<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { api } from '../shell/api';
import { usePageKeys } from '../shell/browser';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useQueryRef } from '../shell/useQueryRef';
import RoundAside from './RoundAside.vue';
import RoundRow from './RoundRow.vue';
import { GROUPS, minutesWords } from './words';
import { useRound } from './useRound';

/** Everything that wants a rep today, in the order of what waiting costs, done in place. */
const session = useSession();
const whose = useQueryRef<'mine' | 'team'>('whose', 'mine');
const kind = useQueryRef<'' | 'turn' | 'task' | 'case' | 'quiet' | 'stuck' | 'new'>('kind', '');
const { data, error, load } = useFetched(
  () => api('GET /api/round', { query: { whose: whose.value, kind: kind.value || undefined } }),
  ['tasks', 'ledger_entries', 'ledger_links', 'leads', 'deals', 'cases', 'people', 'rhythms', 'round_later'],
);
watch([whose, kind], load);
const { finish, later, open, call, write, recordOf } = useRound(load);

const lines = computed(() => data.value?.items ?? []);
const chosen = ref(0);
const moving = ref<string | null>(null);
watch(lines, (next) => (chosen.value = Math.max(0, Math.min(chosen.value, next.length - 1))));
const line = computed(() => lines.value[chosen.value]);
const countOf = (group: (typeof GROUPS)[number]): number =>
  group.kind ? (data.value?.counts[group.kind] ?? 0) : (data.value?.total ?? 0);
const groups = computed(() => GROUPS.filter((group) => !group.kind || countOf(group)));

function startMoving(index: number): void {
  chosen.value = index;
  const key = lines.value[index]?.key ?? null;
  moving.value = moving.value === key ? null : key;
  void nextTick(() =>
    document.querySelector<HTMLInputElement>('[data-round-line][aria-current] .day input')?.focus(),
  );
}
async function putOff(index: number, day: string): Promise<void> {
  const one = lines.value[index];
  if (one && day && (await later(one, day))) moving.value = null;
}

const KEYS: Record<string, () => void> = {
  j: () => void (chosen.value = Math.min(chosen.value + 1, lines.value.length - 1)),
  k: () => void (chosen.value = Math.max(chosen.value - 1, 0)),
  d: () => line.value && void finish(line.value),
  l: () => startMoving(chosen.value),
  c: () => line.value && call(line.value),
  w: () => line.value && write(line.value),
};
const SAME: Record<string, string> = { ArrowDown: 'j', ArrowUp: 'k' };
usePageKeys((event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const act = KEYS[SAME[event.key] ?? event.key];
  const isOnControl = (event.target as HTMLElement | null)?.closest('a, button') !== null;
  if (act) {
    event.preventDefault();
    act();
  } else if (event.key === 'Enter' && line.value && !isOnControl) open(line.value);
});
</script>

<template>
  <div class="round">
    <div class="page">
      <div class="page-head">
        <h1>Round</h1>
        <span class="soft">{{
          data ? `${data.total} today${data.minutes ? `, about ${minutesWords(data.minutes)}` : ''}` : '…'
        }}</span>
        <span v-if="session.me?.role !== 'rep'" class="whose"
          ><v-btn class="word" :aria-pressed="whose === 'mine'" @click="whose = 'mine'">Mine</v-btn>
          <v-btn class="word" :aria-pressed="whose === 'team'" @click="whose = 'team'"
            >The team’s</v-btn
          ></span
        >
      </div>
      <div v-if="data" class="groups">
        <v-btn
          v-for="group in groups"
          :key="group.name"
          class="word"
          :aria-pressed="kind === (group.kind ?? '')"
          @click="kind = group.kind ?? ''"
          >{{ group.name }} {{ countOf(group) }}</v-btn
        >
      </div>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <p v-if="data && !lines.length" class="empty">
        Nothing is waiting for you today. What is due, what you owe an answer, cases, new leads, stuck deals
        and people going quiet come here by themselves.
      </p>
      <ol v-if="lines.length" aria-label="Round">
        <RoundRow
          v-for="(one, index) in lines"
          :key="one.key"
          :line="one"
          :position="index + 1"
          :is-chosen="index === chosen"
          :is-moving="moving === one.key"
          :shows-owner="whose === 'team'"
          :to="recordOf(one)"
          @choose="chosen = index"
          @done="finish(one)"
          @move="startMoving(index)"
          @later="putOff(index, $event)"
          @call="call(one)"
          @write="write(one)"
        />
      </ol>
      <p v-if="data && data.total > lines.length && !kind" class="soft">
        The first {{ lines.length }} are shown; the others come up as these are done.
      </p>
      <template v-if="!data && !error"><span v-for="n in 8" :key="n" class="ghost"></span></template>
    </div>
    <RoundAside />
  </div>
</template>

<style scoped>
.round {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
}
.whose {
  margin-left: auto;
}
.groups {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  padding-bottom: 10px;
}
ol {
  list-style: none;
  margin: 0 -10px;
  padding: 0;
  border-top: 1px solid var(--rule);
}
@media (max-width: 1000px) {
  .round {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
