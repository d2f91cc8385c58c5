<script setup lang="ts">
import Progress from '../kit/Progress.vue';
import type { TriageCard } from '@emporikon/contract/triage';
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { plainNumber, shownCount } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { CHOICES, type As } from './choices';
import Choices from './Choices.vue';
import Glance from './Glance.vue';
import PileSide from './PileSide.vue';

/** A pass through a pile of people: one key says what each is to us, and the next is there. */
const route = useRoute();
const router = useRouter();
const undo = useUndo();
const pile = computed(() => ({
  list: typeof route.query.list === 'string' ? route.query.list : undefined,
  import: typeof route.query.import === 'string' ? route.query.import : undefined,
  tag: typeof route.query.tag === 'string' ? route.query.tag : undefined,
}));
const { data: lists } = useFetched(() => api('GET /api/lists'), ['lists', 'list_members']);
const { data: imports } = useFetched(() => api('GET /api/imports'), ['imports']);
const { data: plans } = useFetched(() => api('GET /api/plans'), ['plans']);
const active = computed(() => (plans.value?.items ?? []).filter((item) => item.active).slice(0, 9));
const cards = shallowRef<TriageCard[] | null>(null);
const left = ref(0);
const done = ref(0);
const error = ref('');
const skipped = ref(new Set<string>());
/** What was decided in this pass, newest last: each with the change it is saved as, once it is. */
const decided = shallowRef<{ card: TriageCard; saved: Promise<string | null> }[]>([]);
const card = computed(() => cards.value?.find((one) => !skipped.value.has(one.id)) ?? null);
/** Who comes after the one that is shown, and who was decided last. */
const SHOWN_NEXT = 7;
const SHOWN_LAST = 3;
const upNext = computed(() =>
  (cards.value ?? []).filter((one) => one !== card.value && !skipped.value.has(one.id)).slice(0, SHOWN_NEXT),
);
const justDecided = computed(() =>
  decided.value
    .slice(-SHOWN_LAST)
    .reverse()
    .map((one) => one.card),
);
const waiting = new Set<string>();
const returning = new Set<TriageCard>();
const isReady = computed(() => cards.value !== null && plans.value !== null && lists.value !== null);

const AHEAD = 20;
let newest = 0;
async function load(): Promise<void> {
  const mine = ++newest;
  try {
    const answer = await api('GET /api/triage', {
      query: { ...pile.value, limit: AHEAD + skipped.value.size },
    });
    if (mine !== newest) return;
    const back = [...returning];
    cards.value = [
      ...back,
      ...answer.items.filter((item) => !waiting.has(item.id) && !back.some((each) => each.id === item.id)),
    ];
    left.value = answer.left + back.length;
    done.value = answer.done - back.length;
    error.value = '';
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
watch(
  pile,
  () => {
    skipped.value = new Set();
    cards.value = null;
    void load();
  },
  { immediate: true, deep: true },
);

const sourceOf = computed(() => {
  const list = lists.value?.items.find((item) => item.id === pile.value.list)?.name;
  const file = imports.value?.items.find((item) => item.id === pile.value.import)?.name;
  return list ?? file ?? pile.value.tag ?? 'triage';
});

/** How many decisions are still on their way to be saved. */
const pending = ref(0);
async function saving<T>(work: () => Promise<T>): Promise<T> {
  pending.value++;
  try {
    return await work();
  } finally {
    pending.value--;
  }
}
/** Leaving the page while something is on its way asks first; within the program it goes on being saved. */
const holdBack = (event: BeforeUnloadEvent): void => {
  if (pending.value) event.preventDefault();
};

const show = (one: TriageCard): void => {
  cards.value = [one, ...(cards.value ?? []).filter((each) => each.id !== one.id)];
  left.value += 1;
  done.value = Math.max(0, done.value - 1);
};

const hide = (one: TriageCard): void => {
  cards.value = (cards.value ?? []).filter((each) => each.id !== one.id);
  left.value = Math.max(0, left.value - 1);
  done.value += 1;
};

/** The next one is shown at once; what was decided is saved behind it, and comes back if it cannot be. */
function decide(as: As, planId?: string, words: string = as): void {
  const one = card.value;
  if (!one) return;
  waiting.add(one.id);
  hide(one);
  decided.value = [...decided.value, { card: one, saved: saving(() => keep(one, as, planId, words)) }];
}

async function keep(
  one: TriageCard,
  as: As,
  planId: string | undefined,
  words: string,
): Promise<string | null> {
  let eventId: string | null = null;
  try {
    const answer = await api('POST /api/triage/:id', {
      params: { id: one.id },
      body: { as, planId, source: sourceOf.value.slice(0, 80) },
    });
    eventId = answer.eventId;
    undo.tell({ text: `${one.name}: ${words}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
    if (!returning.has(one)) show(one);
    decided.value = decided.value.filter((each) => each.card !== one);
  }
  waiting.delete(one.id);
  if (!waiting.size && (cards.value ?? []).length < 6) await load();
  return eventId;
}

function skip(): void {
  if (card.value) skipped.value = new Set([...skipped.value, card.value.id]);
}

/** Takes the newest decision back: the person is there again at once, and gone again if it cannot be taken back. */
async function back(): Promise<void> {
  const before = decided.value.at(-1);
  if (!before) return;
  decided.value = decided.value.slice(0, -1);
  returning.add(before.card);
  show(before.card);
  await saving(async () => {
    try {
      const change = await before.saved;
      if (!change) return;
      await api('POST /api/events/:id/undo', { params: { id: change } });
      undo.tell({ text: `Undone: ${before.card.name}.`, eventId: null });
    } catch (problem) {
      undo.fail(problem);
      hide(before.card);
    } finally {
      returning.delete(before.card);
    }
  });
}

function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement | null;
  if (event.ctrlKey || event.metaKey || event.altKey || target?.closest('input, textarea, .v-overlay'))
    return;
  const key = event.key.toLowerCase();
  const plan = active.value[Number(key) - 1];
  const choice = CHOICES.find((one) => one.key === key);
  if (plan) decide('prospect', plan.id, `prospect, ${plan.name.toLowerCase()}`);
  else if (key === 'p') decide('prospect');
  else if (choice) decide(choice.as, undefined, choice.words.toLowerCase());
  else if (key === 'k') skip();
  else if (key === 'u') void back();
  else return;
  event.preventDefault();
}
onMounted(() => {
  window.addEventListener('keydown', onKey);
  window.addEventListener('beforeunload', holdBack);
});
onUnmounted(() => {
  window.removeEventListener('keydown', onKey);
  window.removeEventListener('beforeunload', holdBack);
});

function choosePile(value: string): void {
  const [kind = '', id = ''] = value.split(/:(.*)/);
  void router.replace({ path: route.path, query: kind ? { [kind]: id } : {} });
}
const chosen = computed(() =>
  pile.value.list
    ? `list:${pile.value.list}`
    : pile.value.import
      ? `import:${pile.value.import}`
      : pile.value.tag
        ? `tag:${pile.value.tag}`
        : '',
);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Triage</h1>
      <v-select
        class="inline-edit pile"
        aria-label="Which pile"
        :model-value="chosen"
        :items="[
          { value: '', title: 'Strangers' },
          ...(lists?.items ?? []).map((one) => ({ value: `list:${one.id}`, title: `List: ${one.name}` })),
          ...(imports?.items ?? []).map((one) => ({
            value: `import:${one.id}`,
            title: `Import: ${one.name}`,
          })),
          ...(lists?.tags ?? []).map((one) => ({ value: `tag:${one.tag}`, title: `Tag: ${one.tag}` })),
        ]"
        @update:model-value="choosePile($event)"
      />
      <span class="soft" role="status"
        >{{ shownCount(left) }} to decide, {{ shownCount(done) }} decided{{
          pending ? `, saving ${pending}` : ''
        }}</span
      >
      <Progress class="decided" :max="left + done" :value="done" label="Decided" />
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <div class="desk">
      <div class="main">
        <template v-if="!isReady && !error"><span v-for="n in 7" :key="n" class="ghost"></span></template>
        <Glance v-else-if="card" :card="card" />
        <p v-else-if="cards" class="empty">
          {{
            skipped.size
              ? `Only the ${plainNumber(skipped.size)} you skipped are left.`
              : 'Nobody is left in this pile.'
          }}
          <v-btn v-if="skipped.size" class="word on" @click="skipped = new Set()">Go through them</v-btn>
        </p>
        <Choices
          v-if="isReady"
          :plans="active"
          :has-card="card !== null"
          :has-decided="decided.length > 0"
          @decide="(as, plan, words) => decide(as, plan, words)"
          @skip="skip"
          @back="back"
        />
      </div>
      <PileSide :next="upNext" :decided="justDecided" />
    </div>
  </div>
</template>

<style scoped>
.pile {
  width: 220px;
}
.decided {
  margin-left: auto;
}
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 32px;
  min-height: calc(100dvh - 250px);
}
.main {
  display: grid;
  grid-template-rows: 1fr auto;
  min-width: 0;
}
@media (max-width: 900px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
