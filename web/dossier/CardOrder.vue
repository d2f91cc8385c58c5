<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { api } from '../shell/api';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { firstOf, moved, type FactName } from './cardOrder';

/** Which facts the cards of a kind of record show first, for whoever looks. */
const props = defineProps<{
  kind: string;
  facts: HTMLElement | null;
  /** Whether there is room for the word that opens it. */
  isOffered: boolean;
}>();
const emit = defineEmits<{ arranged: [] }>();
const session = useSession();
const undo = useUndo();
const isOpen = ref(false);
const known = shallowRef<FactName[]>([]);
const first = ref<string[]>(firstOf(session.me?.cardFirst, props.kind));
const label = (key: string): string => known.value.find((one) => one.key === key)?.label ?? '';
const shown = computed(() => first.value.filter((key) => label(key)));
const rest = computed(() => known.value.filter(({ key }) => !first.value.includes(key)));

/** Several facts may have one key: all addresses and numbers stay together. */
const keyOf = (fact: HTMLElement): string => fact.dataset.fact ?? '';
function look(): void {
  const names = new Map<string, FactName>();
  for (const fact of props.facts?.querySelectorAll<HTMLElement>('.fact[data-fact]') ?? []) {
    const key = keyOf(fact);
    const own = fact.querySelector('.cap')?.textContent ?? '';
    if (!names.has(key)) names.set(key, { key, label: key === 'value' ? 'Addresses and numbers' : own });
  }
  known.value = [...names.values()];
}
function arrange(): void {
  for (const fact of props.facts?.querySelectorAll<HTMLElement>('.fact[data-fact]') ?? []) {
    const at = first.value.indexOf(keyOf(fact));
    const order = at < 0 ? '' : String(at - first.value.length);
    if (fact.style.order !== order) fact.style.order = order;
  }
  emit('arranged');
}
const watcher = new MutationObserver(arrange);
watch(
  () => props.facts,
  (now) => {
    watcher.disconnect();
    if (!now) return;
    arrange();
    watcher.observe(now, { childList: true });
  },
  { immediate: true },
);
onBeforeUnmount(() => watcher.disconnect());
watch(isOpen, (now) => now && look());

async function put(next: string[]): Promise<void> {
  const before = first.value;
  first.value = next;
  arrange();
  try {
    const cardFirst = { ...session.me?.cardFirst, [props.kind]: next };
    session.me = await api('PATCH /api/session', { body: { cardFirst } });
  } catch (problem) {
    first.value = before;
    arrange();
    undo.fail(problem);
  }
}
</script>

<template>
  <v-menu v-if="isOffered" v-model="isOpen" :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: opener }">
      <v-btn class="word" v-bind="opener">Arrange</v-btn>
    </template>
    <div class="order" role="group" aria-label="What the card shows first">
      <span class="cap">Shown first, on every card of this kind</span>
      <p v-if="!shown.length" class="soft">As it comes. Choose below what you need most.</p>
      <div v-for="(key, at) in shown" :key="key" class="line">
        <span>{{ label(key) }}</span>
        <v-btn
          class="word"
          :disabled="at === 0"
          :aria-label="`Move up ${label(key)}`"
          @click="put(moved(first, key, -1))"
          >Up</v-btn
        >
        <v-btn
          class="word"
          :aria-label="`No longer first ${label(key)}`"
          @click="put(first.filter((one) => one !== key))"
          >No longer first</v-btn
        >
      </div>
      <span class="cap">Then</span>
      <div v-for="one in rest" :key="one.key" class="line">
        <span>{{ one.label }}</span>
        <v-btn class="word" :aria-label="`Show first ${one.label}`" @click="put([...first, one.key])"
          >Show first</v-btn
        >
      </div>
      <v-btn v-if="first.length" class="word" @click="put([])">Reset</v-btn>
    </div>
  </v-menu>
</template>

<style scoped>
.order {
  display: grid;
  gap: 4px;
  max-height: 70vh;
  overflow-y: auto;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.line {
  display: grid;
  grid-template-columns: minmax(150px, 1fr) auto auto;
  gap: 12px;
  align-items: center;
  min-height: 28px;
}
p {
  margin: 0;
}
</style>
