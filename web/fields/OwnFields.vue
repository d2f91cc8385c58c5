<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import type { FieldValue } from '@emporikon/contract/fields';
import type { OwnRecord } from '@emporikon/core/fields/own';
import { computed, ref } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import OwnFacts from './OwnFacts.vue';
import { tabsOf } from './ownFact';
import { useFileFields } from './useFileFields';

/**
 * The organisation's own fields of a record: those without a tab stand on the card, the others in a panel beside the page,
 * a tab each.
 */
const props = defineProps<{
  record: OwnRecord;
  id: string;
  items: readonly (FieldValue & { claim?: Claim | null })[];
  save: (key: string) => (value: string, version: number) => Promise<void>;
  version?: number;
}>();
const tabs = computed(() => tabsOf(props.items));
const card = computed(() => tabs.value.find(({ name }) => name === '')?.parts ?? []);
const further = computed(() => tabs.value.filter(({ name }) => name !== ''));
const open = ref<string | null>(null);
const known = (name: string): string => {
  const own = props.items.filter(({ tab }) => tab === name);
  return `${name}, ${own.filter(({ value }) => value).length} of ${own.length}`;
};

const { files, sending, send } = useFileFields(() => props);
</script>

<template>
  <OwnFacts :parts="card" :save="save" :version="version" :files="files" :sending="sending" @send="send" />
  <div v-if="further.length" class="fact further">
    <span class="cap">More fields</span>
    <v-btn
      v-for="tab in further"
      :key="tab.name"
      class="word"
      :aria-expanded="open === tab.name"
      @click="open = open === tab.name ? null : tab.name"
      >{{ known(tab.name) }}</v-btn
    >
  </div>
  <!-- Outside the card, which leaves out what does not fit into it. -->
  <Teleport v-if="open !== null" to=".v-application">
    <SidePanel label="More fields" @close="open = null">
      <div class="panel" @keydown.esc="open = null">
        <v-tabs v-model="open" class="tabs" density="compact">
          <v-tab v-for="tab in further" :key="tab.name" :value="tab.name">{{ tab.name }}</v-tab>
        </v-tabs>
        <OwnFacts
          :parts="further.find(({ name }) => name === open)?.parts ?? []"
          :save="save"
          :version="version"
          :files="files"
          :sending="sending"
          @send="send"
        />
      </div>
    </SidePanel>
  </Teleport>
</template>

<style scoped>
.further {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
.further .cap {
  display: block;
}
.further .v-btn + .v-btn {
  margin-left: 14px;
}
.panel {
  display: grid;
  gap: 4px;
  padding: 8px 24px 24px;
}
@media (max-width: 700px) {
  .panel {
    padding: 8px 14px 20px;
  }
}
</style>
