<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { CaptureRow } from '@emporikon/contract/captures';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api } from '../shell/api';
import { usePageKeys } from '../shell/browser';
import { ago, plainNumber, shownCount, when } from '../shell/format';
import { usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import ChannelIcon from '../kit/ChannelIcon.vue';
import { useUndo } from '../shell/undo';
import CapturePane from './CapturePane.vue';
import Strangers from './Strangers.vue';
import { NATURES } from './natures';

const undo = useUndo();
const route = useRoute();
const router = useRouter();
/** The same tray shows what was set aside, so that it can be brought back. */
const isAside = computed(() => route.path.startsWith('/arrivals/set-aside'));
/** What sounds negative stands before the rest, where one wants it so. */
const first = useQueryRef<'newest' | 'negative'>('first', 'newest');
const home = computed(() => (isAside.value ? '/arrivals/set-aside' : '/arrivals'));
const {
  items: paged,
  first: data,
  hasMore,
  more,
  error,
  reload: load,
} = usePaged<CaptureRow, Reply<'GET /api/captures'>>(
  (cursor) =>
    api('GET /api/captures', {
      query: { limit: 100, state: isAside.value ? 'set aside' : 'waiting', first: first.value, cursor },
    }),
  ['captures', 'claims'],
);
const pane = ref<InstanceType<typeof CapturePane> | null>(null);
const list = ref<HTMLElement | null>(null);
const items = computed(() => paged.value ?? []);
/** What no person wrote to somebody. */
const automatic = computed(() => items.value.filter((one) => one.nature).map((one) => one.id));
const wanted = computed(() =>
  typeof route.params.id === 'string' && route.params.id ? route.params.id : null,
);
/** Without an address of its own the page shows what came in last. */
const chosen = computed(() => wanted.value ?? items.value[0]?.id ?? null);
watch([isAside, first], load);
const position = computed(() => items.value.findIndex((one) => one.id === chosen.value));

function show(index: number): void {
  const next = items.value[Math.max(0, Math.min(index, items.value.length - 1))];
  if (!next) return;
  void router.replace(`${home.value}/${next.id}`);
  void nextTick(() =>
    list.value?.querySelector<HTMLElement>('[aria-current="true"]')?.scrollIntoView({ block: 'nearest' }),
  );
}

/** Several are chosen and moved at once. */
const isChoosing = ref(false);
const several = ref<string[]>([]);
watch(isAside, () => stopChoosing());
function stopChoosing(): void {
  isChoosing.value = false;
  several.value = [];
}
async function moveSeveral(): Promise<void> {
  const body = { ids: several.value };
  const count = plainNumber(body.ids.length);
  try {
    const { eventId } = isAside.value
      ? await api('POST /api/captures/bring-back', { body })
      : await api('POST /api/captures/set-aside', { body });
    undo.tell({ text: isAside.value ? `Brought back: ${count}.` : `Set aside: ${count}.`, eventId });
    stopChoosing();
    void router.replace(home.value);
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}

/** After filing, the one below moves up into view. */
function goOn(): void {
  const next = items.value[position.value + 1] ?? items.value[position.value - 1];
  void router.replace(next ? `${home.value}/${next.id}` : home.value);
}

usePageKeys((event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const target = event.target as HTMLElement;
  if (event.key === 'ArrowDown' || event.key === 'j') show(position.value + 1);
  else if (event.key === 'ArrowUp' || event.key === 'k') show(position.value - 1);
  else if (event.key === 'Enter' && !target.closest('a, button, label, mark')) pane.value?.file();
  else if (event.key === 'x') pane.value?.setAside();
  else if (event.key === 'e') pane.value?.correctFirst();
  else return;
  event.preventDefault();
});

watch(
  () => data.value?.waiting,
  (waiting) => {
    if (waiting === 0 && wanted.value === null) document.getElementById('main')?.focus();
  },
);
</script>

<template>
  <h1 class="visually-hidden">Arrivals</h1>
  <div class="tri" :class="{ one: wanted }">
    <section class="in" aria-label="What came in">
      <div class="head">
        <h2>{{ isAside ? 'Set aside' : 'What came in' }}</h2>
        <span v-if="isAside" class="cap">Not filed. Open one to bring it back.</span>
        <span v-else class="cap"
          >{{ data ? `${shownCount(data.waiting)} waiting` : '…'
          }}<template v-if="data?.oldest"> · oldest {{ ago(data.oldest) }}</template></span
        >
        <div v-if="items.length || !isAside" class="several">
          <template v-if="isChoosing">
            <v-btn class="word on" :disabled="!several.length" @click="moveSeveral">{{
              isAside ? `Bring back (${several.length})` : `Set aside (${several.length})`
            }}</v-btn>
            <v-btn class="word" @click="several = items.map((one) => one.id)">All</v-btn>
            <v-btn
              v-if="automatic.length"
              class="word"
              title="Newsletters, notices and automatic replies"
              @click="several = automatic"
              >Automatic ({{ automatic.length }})</v-btn
            >
            <v-btn class="word" @click="stopChoosing">Cancel</v-btn>
          </template>
          <template v-else>
            <v-btn v-if="items.length" class="word" @click="isChoosing = true">Select several</v-btn>
            <v-btn
              v-if="items.length"
              class="word"
              :aria-pressed="first === 'negative'"
              @click="first = first === 'negative' ? 'newest' : 'negative'"
              >Negative first</v-btn
            >
            <Strangers v-if="!isAside" />
          </template>
        </div>
      </div>
      <p v-if="error" class="wrong note" role="alert">{{ error }}</p>
      <ul ref="list">
        <li v-for="one in items" :key="one.id" :class="{ choosing: isChoosing }">
          <v-checkbox-btn
            v-if="isChoosing"
            v-model="several"
            :value="one.id"
            :aria-label="`Select ${one.from}: ${one.subject}`"
          />
          <RouterLink :to="`${home}/${one.id}`" replace :aria-current="one.id === chosen">
            <ChannelIcon :channel="one.kind" />
            <b>{{ one.from }}</b>
            <span class="soft num">{{ when(one.receivedAt) }}</span>
            <span class="subject"
              ><span v-if="one.nature" class="nature">{{ NATURES[one.nature] }}</span
              >{{ one.subject }}</span
            >
          </RouterLink>
        </li>
      </ul>
      <v-btn v-if="hasMore" class="quiet more" @click="more">Show more</v-btn>
      <p v-if="data && !items.length && isAside" class="empty note">Nothing is set aside.</p>
      <p v-else-if="data && !items.length" class="empty note">
        Nothing waits. Mail to <b>arrivals@wharfside.example</b> at the post office, drop a message, a page, a
        card or a table on <b>Capture</b>, or paste one there.
      </p>
    </section>
    <CapturePane
      v-if="chosen"
      :id="chosen"
      ref="pane"
      :key="chosen"
      @filed="goOn"
      @back="router.replace(home)"
    />
    <section v-else class="raw"></section>
  </div>
</template>

<style scoped>
.tri {
  flex: none;
  display: grid;
  grid-template-columns: 290px minmax(0, 1fr) 400px;
  grid-template-rows: minmax(0, 1fr);
  height: calc(100dvh - 122px);
}
.in {
  border-right: 1px solid var(--rule);
  overflow-y: auto;
}
.head {
  padding: 12px 20px 10px;
  border-bottom: 1px solid var(--rule);
}
.more {
  margin: 12px 20px;
}
.note {
  padding: 12px 20px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.in li a {
  display: grid;
  grid-template-columns: 22px 1fr auto;
  align-items: baseline;
  padding: 9px 20px 8px 17px;
  border-left: 3px solid transparent;
  border-bottom: 1px solid var(--rule2);
  text-decoration: none;
}
.in li a b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.in li a[aria-current='true'] {
  background: var(--sheet);
  border-left-color: var(--ours);
}
.several {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  min-height: 30px;
}
.choosing {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  padding-left: 12px;
}
/* What no person wrote is told from what somebody did. */
.nature {
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 0 5px;
  margin-right: 6px;
  font-size: 12px;
}
.subject {
  grid-column: 2 / 4;
  font-size: 13px;
  color: var(--soft);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 1000px) {
  .tri {
    grid-template-columns: 240px minmax(0, 1fr) 330px;
  }
}
@media (max-width: 800px) {
  .tri {
    display: block;
    height: auto;
  }
  .tri.one .in {
    display: none;
  }
  .tri:not(.one) > :not(.in) {
    display: none;
  }
  .in {
    border: 0;
  }
}
/* On a phone that lies on its side the frame scrolls away and the columns have the whole screen. */
@media (max-height: 500px) and (min-width: 701px) {
  .tri {
    height: 100dvh;
  }
}
</style>
