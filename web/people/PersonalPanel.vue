<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { computed } from 'vue';
import type { CellKind } from '../kit/cells';
import Fact from '../dossier/Fact.vue';
import SidePanel from '../kit/SidePanel.vue';

type Field = PersonDossier['custom'][number];
/** What is personal about somebody, each with its source; none of it is ever required. */
const props = defineProps<{
  person: PersonDossier;
  putBirthday: (value: string, version: number) => Promise<void>;
  putCustom: (key: string) => (value: string, version: number) => Promise<void>;
}>();
const emit = defineEmits<{ close: [] }>();
const fields = computed(() => props.person.custom.filter(({ isPersonal }) => isPersonal));
const KINDS: Partial<Record<Field['kind'], CellKind>> = {
  date: 'date',
  choice: 'choice',
  'yes or no': 'choice',
};
const optionsOf = ({ kind, options }: Field): { value: string; title: string }[] | undefined =>
  kind === 'choice' || kind === 'yes or no'
    ? (kind === 'choice' ? options : ['yes', 'no']).map((value) => ({ value, title: value }))
    : undefined;
</script>

<template>
  <SidePanel label="Personal" @close="emit('close')">
    <div class="personal" @keydown.esc="emit('close')">
      <p class="soft">
        What helps you to be good company. Whatever is not known stays empty; managers add further fields
        under
        <RouterLink to="/settings/fields" class="quiet-link">Fields</RouterLink>.
      </p>
      <Fact
        label="Birthday"
        kind="date"
        field="birthday"
        :value="person.birthday"
        placeholder="Not known"
        :save="putBirthday"
      />
      <Fact
        v-for="one in fields"
        :key="one.key"
        :label="one.label"
        field="custom"
        :kind="KINDS[one.kind]"
        :options="optionsOf(one)"
        :value="one.value || null"
        :claim="one.claim"
        placeholder="Not known"
        :save="putCustom(one.key)"
      />
    </div>
  </SidePanel>
</template>

<style scoped>
.personal {
  display: grid;
  gap: 4px;
  padding: 12px 24px 24px;
}
@media (max-width: 700px) {
  .personal {
    padding: 10px 14px 20px;
  }
}
</style>
