<script setup lang="ts">
import type { BulkKind } from '@emporikon/core/bulk/types';
import { rightOn } from '@emporikon/core/rights/kinds';
import type { Query } from '@emporikon/core/query/types';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useSession } from '../shell/session';
import { countOf } from './words';

/** What is done with the selected records of a list, or with all of what it shows. */
const props = defineProps<{
  kind: BulkKind;
  ids: string[];
  /** What the list shows, where all of it can be taken at once, and how many those are. */
  query?: Query | null;
  total?: number | null;
}>();
const emit = defineEmits<{ clear: []; done: [] }>();
const LookUpDialog = defineAsyncComponent(() => import('../lookups/LookUpDialog.vue'));
const BulkDialog = defineAsyncComponent(() => import('./BulkDialog.vue'));
const EraseMany = defineAsyncComponent(() => import('../privacy/EraseMany.vue'));
const session = useSession();
const isErasing = ref(false);
const isLookingUp = ref(false);
/** The field that the form begins with, while it is open. */
const changing = ref<string | null>(null);
const isAll = ref(false);
watch(
  () => [props.ids, props.query],
  () => (isAll.value = false),
);

const FIRST: Record<BulkKind, readonly (readonly [field: string, label: string])[]> = {
  person: [
    ['owner', 'Owner'],
    ['standing', 'Standing'],
    ['tag', 'Tags'],
    ['list', 'List'],
    ['move', 'Next move'],
    ['', 'More'],
  ],
  company: [
    ['owner', 'Owner'],
    ['move', 'Next move'],
    ['', 'More'],
  ],
  lead: [
    ['owner', 'Owner'],
    ['status', 'Status'],
    ['source', 'Source'],
    ['move', 'Next move'],
  ],
  deal: [
    ['owner', 'Owner'],
    ['stage', 'Stage'],
    ['move', 'Next move'],
  ],
};
const isMore = computed(() => Boolean(props.query) && (props.total ?? 0) > props.ids.length);
const count = computed(() => (isAll.value ? (props.total ?? 0) : props.ids.length));
const mayChange = computed(() => session.may(rightOn(props.kind, 'bulk')));
const looksUp = computed(
  () => !isAll.value && session.may(rightOn(props.kind, 'change')) && props.kind !== 'deal',
);
/** So many are compared side by side. */
const MOST_MERGED = 10;
const place = computed(() => ({ person: '/people', company: '/companies', lead: '', deal: '' })[props.kind]);
const mayMerge = computed(
  () =>
    place.value !== '' &&
    session.may(rightOn(props.kind, 'change')) &&
    !isAll.value &&
    props.ids.length > 1 &&
    props.ids.length <= MOST_MERGED,
);
const of = (kind: BulkKind): string[] => (props.kind === kind ? props.ids : []);
</script>

<template>
  <div v-if="ids.length" class="bar" role="region" aria-label="Selected">
    <span
      ><b class="num">{{ countOf(kind, count) }}</b> selected</span
    >
    <v-btn v-if="isMore && !isAll" class="word on" @click="isAll = true"
      >Select all {{ countOf(kind, total ?? 0) }}</v-btn
    >
    <v-btn
      v-for="[field, label] in mayChange ? FIRST[kind] : []"
      :key="field"
      class="word on"
      @click="changing = field"
      >{{ label }} …</v-btn
    >
    <v-btn v-if="looksUp" class="word on" @click="isLookingUp = true">Look up …</v-btn>
    <RouterLink
      v-if="mayMerge"
      class="word"
      :to="{ path: `${place}/look-alikes`, query: { ids: ids.join(',') } }"
      >Merge into one …</RouterLink
    >
    <v-btn v-if="kind === 'person' && session.may('people.delete')" class="word on" @click="isErasing = true"
      >Erase …</v-btn
    >
    <slot />
    <v-btn class="word" @click="emit('clear')">Clear selection</v-btn>
    <LookUpDialog
      v-if="isLookingUp"
      :people="of('person')"
      :companies="of('company')"
      :leads="of('lead')"
      @done="emit('done')"
      @close="isLookingUp = false"
    />
    <EraseMany
      v-if="isErasing"
      :ids="ids"
      :query="isAll ? (query ?? null) : null"
      :count="count"
      @begun="emit('clear')"
      @close="isErasing = false"
    />
    <BulkDialog
      v-if="changing !== null"
      :kind="kind"
      :ids="ids"
      :query="isAll ? (query ?? null) : null"
      :count="count"
      :first="changing"
      @begun="emit('clear')"
      @close="changing = null"
    />
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  z-index: 3;
  bottom: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding: 8px 12px;
  background: var(--lit);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
@media (max-width: 700px) {
  .bar {
    bottom: 58px;
  }
}
</style>
