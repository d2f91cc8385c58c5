<script setup lang="ts">
import type { ConversionProposal } from '@emporikon/contract/leads';
import { DEAL_ROLES, type DealRole } from '@emporikon/core/lifecycle/conversion';
import { computed, ref } from 'vue';
import RecordPicker from '../kit/RecordPicker.vue';

/** Who has a part in the deal to be: those proposed are ticked, colleagues are offered, others are looked for. */
const parts = defineModel<{ personId: string; role: DealRole }[]>({ required: true });
const props = defineProps<{ people: ConversionProposal['people'] }>();
const more = ref<{ id: string; name: string; role: DealRole; why: string }[]>([]);
const shown = computed(() => [
  ...props.people,
  ...more.value.filter((one) => !props.people.some((each) => each.id === one.id)),
]);
const roleOf = (id: string): DealRole | undefined => parts.value.find((part) => part.personId === id)?.role;

function tick(id: string, role: DealRole, isIn: boolean): void {
  const others = parts.value.filter((part) => part.personId !== id);
  parts.value = isIn ? [...others, { personId: id, role }] : others;
}

function add(hit: { id: string; label: string }): void {
  more.value = [...more.value, { id: hit.id, name: hit.label, role: 'influences', why: 'added' }];
  tick(hit.id, 'influences', true);
}
</script>

<template>
  <div class="parts" role="group" aria-label="People on this deal">
    <span class="cap">People on this deal</span>
    <div v-for="(one, at) in shown" :key="one.id" class="part">
      <v-checkbox
        :title="one.why"
        :label="one.name"
        :model-value="roleOf(one.id) !== undefined"
        :disabled="at === 0"
        @update:model-value="tick(one.id, one.role, $event === true)"
      />
      <v-select
        class="role"
        :aria-label="`Role of ${one.name}`"
        :model-value="roleOf(one.id) ?? one.role"
        :disabled="roleOf(one.id) === undefined"
        :items="DEAL_ROLES"
        @update:model-value="tick(one.id, $event as DealRole, true)"
      />
    </div>
    <RecordPicker kind="person" label="Add a person" placeholder="Add a person" @pick="add" />
  </div>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  min-height: 26px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
  min-width: 0;
}
label span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.role {
  font: inherit;
  font-size: 13px;
  color: var(--ink);
  background: none;
  border: 0;
  border-bottom: 1px solid var(--rule);
  min-height: 24px;
}
.role:disabled {
  color: var(--soft);
}
.role option {
  color: var(--ink);
  background: var(--sheet);
}
</style>
