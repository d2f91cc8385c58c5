<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import CallerCard from './CallerCard.vue';

/**
 * When my line rings, a card in the corner says who it is; the page stays. The sheet opens beside the page when it is
 * asked for, or by itself once the call is answered and nothing is being typed.
 */
const CallSheet = defineAsyncComponent(() => import('./CallSheet.vue'));
const route = useRoute();
const waved = ref<string[]>([]);
const open = ref<string | null>(null);
/** The call that knocked last: it is followed when it is answered, too. */
const followed = ref<string | null>(null);
const { data } = useFetched(() => api('GET /api/calls', { query: { ringing: 'true', limit: 5 } }), ['calls']);
watch(data, (now) => {
  const ringing = now?.items.find((item) => item.direction === 'in' && !waved.value.includes(item.id));
  if (ringing) followed.value = ringing.id;
});
const { data: call, load } = useFetched(
  async () =>
    followed.value ? api('GET /api/calls/:id', { params: { id: followed.value } }) : Promise.resolve(null),
  ['calls', 'people', 'contact_points'],
);
watch(followed, () => void load());

const isHere = computed(() => route.params.id === followed.value && route.path.startsWith('/calls/'));
const isKnocking = computed(
  () =>
    call.value !== null &&
    call.value.id === followed.value &&
    ['ringing', 'answered'].includes(call.value.state) &&
    open.value !== call.value.id &&
    !waved.value.includes(call.value.id) &&
    !isHere.value,
);
const isTyping = (): boolean => document.activeElement?.matches('input, textarea') === true;
watch(
  () => call.value?.state,
  (state) => {
    if (state === 'answered' && isKnocking.value && !isTyping()) take();
  },
);

function take(): void {
  open.value = followed.value;
}
function wave(): void {
  if (followed.value) waved.value.push(followed.value);
}
</script>

<template>
  <aside v-if="isKnocking && call" class="knock" role="alert" aria-label="Incoming call">
    <span class="cap"
      >{{ call.state === 'ringing' ? 'Calling now' : 'On the line' }} · {{ call.written }}</span
    >
    <template v-if="call.callers.length">
      <CallerCard v-for="one in call.callers.slice(0, 2)" :key="one.person.id" :caller="one" is-chosen />
    </template>
    <h2 v-else>{{ call.person?.name ?? 'Somebody new' }}</h2>
    <div class="do">
      <v-btn class="fill" @click="take">Take notes</v-btn>
      <v-btn class="quiet" @click="wave">Not now</v-btn>
    </div>
  </aside>
  <SidePanel v-if="open" label="Call" @close="open = null">
    <CallSheet :id="open" :key="open" @saved="open = null" />
  </SidePanel>
</template>

<style scoped>
.knock {
  position: fixed;
  z-index: 28;
  right: 24px;
  bottom: 24px;
  width: min(360px, calc(100vw - 28px));
  padding: 12px 16px;
  background: var(--sheet);
  border: 1px solid var(--theirs);
  border-radius: 3px;
}
.do {
  display: flex;
  gap: 10px;
  margin-top: 10px;
}
@media (max-width: 700px) {
  .knock {
    right: 14px;
    bottom: 70px;
  }
}
</style>
