<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { computed } from 'vue';
import Fact from '../dossier/Fact.vue';
import OwnFacts from '../fields/OwnFacts.vue';
import { tabsOf } from '../fields/ownFact';
import { useFileFields } from '../fields/useFileFields';
import SidePanel from '../kit/SidePanel.vue';
import { yearlyDay } from '../shell/format';

/** What is personal about somebody, each with its source; none of it is ever required. */
const props = defineProps<{
  person: PersonDossier;
  putBirthday: (value: string, version: number) => Promise<void>;
  putCustom: (key: string) => (value: string, version: number) => Promise<void>;
}>();
const emit = defineEmits<{ close: [] }>();
const fields = computed(() => props.person.custom.filter(({ isPersonal }) => isPersonal));
const { files, sending, send } = useFileFields(() => ({
  ...{ record: 'person', id: props.person.id, items: fields.value, save: props.putCustom },
  version: props.person.version,
}));
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
        :shown="person.birthday ? yearlyDay(person.birthday) : undefined"
        placeholder="Not known"
        :save="putBirthday"
      />
      <OwnFacts
        :parts="tabsOf(fields).flatMap(({ parts }) => parts)"
        :save="putCustom"
        :files="files"
        :sending="sending"
        @send="send"
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
