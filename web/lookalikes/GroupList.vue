<script setup lang="ts">
import type { LookAlike } from '@emporikon/contract/lookAlikes';
import { counted, percent } from '../shell/format';

defineProps<{ groups: LookAlike[]; later: string[]; hasMore: boolean }>();
const at = defineModel<string | null>({ required: true });
defineEmits<{ more: [] }>();
const namesOf = (one: LookAlike): string => [...new Set(one.members.map((each) => each.name))].join(' · ');
</script>

<template>
  <ol class="groups" aria-label="Groups, surest first">
    <li v-for="one in groups" :key="one.id">
      <v-btn
        class="plain group"
        :class="{ on: one.id === at, later: later.includes(one.id) }"
        :aria-current="one.id === at"
        @click="at = one.id"
      >
        <span class="names">{{ namesOf(one) }}</span>
        <span class="sure">{{ percent(one.probability) }}</span>
        <span class="soft hint"
          >{{ counted(one.members.length, 'record')
          }}{{ one.members[0]?.hint ? ` · ${one.members[0].hint}` : '' }}</span
        >
      </v-btn>
    </li>
    <li v-if="hasMore"><v-btn class="word" @click="$emit('more')">More</v-btn></li>
  </ol>
</template>

<style scoped>
.groups {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
.groups .v-btn.group {
  width: 100%;
  padding: 7px 10px;
  border-bottom: 1px solid var(--rule);
  border-radius: 0;
}
.group :deep(.v-btn__content) {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 8px;
}
.groups .v-btn.group.on {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--ours);
}
.groups .later {
  opacity: 0.6;
}
.names {
  font-weight: 600;
}
.sure {
  font-variant-numeric: tabular-nums;
  color: var(--soft);
}
.hint {
  grid-column: 1 / 3;
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 700px) {
  .groups {
    max-height: 132px;
    overflow-y: auto;
  }
}
</style>
