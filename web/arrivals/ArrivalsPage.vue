<script setup lang="ts">
import type { CaptureRow } from '@emporikon/contract/captures';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api } from '../shell/api';
import { usePageKeys } from '../shell/browser';
import { ago, shownCount, when } from '../shell/format';
import { useFetched } from '../shell/live';
import CapturePane from './CapturePane.vue';

const KINDS: Record<CaptureRow['kind'], { letter: string; name: string }> = {
  email: { letter: 'E', name: 'mail' },
  text: { letter: 'N', name: 'text' },
  page: { letter: 'W', name: 'web page' },
  call: { letter: 'T', name: 'call' },
  form: { letter: 'F', name: 'form' },
  card: { letter: 'C', name: 'card' },
  row: { letter: 'R', name: 'row of a table' },
};
const route = useRoute();
const router = useRouter();
const { data, error } = useFetched(
  () => api('GET /api/captures', { query: { limit: 100 } }),
  ['captures', 'claims'],
);
const pane = ref<InstanceType<typeof CapturePane> | null>(null);
const list = ref<HTMLElement | null>(null);
const items = computed(() => data.value?.items ?? []);
const wanted = computed(() =>
  typeof route.params.id === 'string' && route.params.id ? route.params.id : null,
);
/** Without an address of its own the page shows what came in last. */
const chosen = computed(() => wanted.value ?? items.value[0]?.id ?? null);
const position = computed(() => items.value.findIndex((one) => one.id === chosen.value));

function show(index: number): void {
  const next = items.value[Math.max(0, Math.min(index, items.value.length - 1))];
  if (!next) return;
  void router.replace(`/arrivals/${next.id}`);
  void nextTick(() =>
    list.value?.querySelector<HTMLElement>('[aria-current="true"]')?.scrollIntoView({ block: 'nearest' }),
  );
}

/** After filing, the one below moves up into view. */
function goOn(): void {
  const next = items.value[position.value + 1] ?? items.value[position.value - 1];
  void router.replace(next ? `/arrivals/${next.id}` : '/arrivals');
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
        <h2>What came in</h2>
        <span class="cap"
          >{{ data ? `${shownCount(data.waiting)} waiting` : '…'
          }}<template v-if="data?.oldest"> · oldest {{ ago(data.oldest) }}</template></span
        >
        <nav class="ways" aria-label="Other ways in">
          <RouterLink class="word" to="/calls">Calls</RouterLink>
          <RouterLink class="word" to="/forms">Forms</RouterLink>
          <RouterLink class="word" to="/imports">Import bench</RouterLink>
        </nav>
      </div>
      <p v-if="error" class="wrong note" role="alert">{{ error }}</p>
      <ul ref="list">
        <li v-for="one in items" :key="one.id">
          <RouterLink :to="`/arrivals/${one.id}`" replace :aria-current="one.id === chosen">
            <span class="kind" :title="KINDS[one.kind].name">{{ KINDS[one.kind].letter }}</span>
            <b>{{ one.from }}</b>
            <span class="soft num">{{ when(one.receivedAt) }}</span>
            <span class="subject">{{ one.subject }}</span>
          </RouterLink>
        </li>
      </ul>
      <p v-if="data && !items.length" class="empty note">
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
      @back="router.replace('/arrivals')"
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
  height: calc(100dvh - 92px);
}
.in {
  border-right: 1px solid var(--rule);
  overflow-y: auto;
}
.head {
  padding: 12px 20px 10px;
  border-bottom: 1px solid var(--rule);
}
.note {
  padding: 12px 20px;
}
.ways {
  display: flex;
  gap: 14px;
  margin-top: 2px;
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
.kind {
  font: 600 10px var(--ui);
  color: var(--soft);
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
</style>
