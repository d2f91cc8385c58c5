<script setup lang="ts">
import type { FieldChange } from '@emporikon/contract/history';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { usePaged } from '../shell/usePaged';
import ChangeLines from './ChangeLines.vue';

/** Who changed what on a record, beside its page. */
const props = defineProps<{ id: string }>();
const emit = defineEmits<{ close: [] }>();
const { items, hasMore, more, error, reload } = usePaged<FieldChange>(
  (cursor) => api('GET /api/changes', { query: { recordId: props.id, cursor } }),
  ['people', 'companies', 'leads', 'deals', 'tasks', 'contact_points'],
  () => [props.id],
);
</script>

<template>
  <SidePanel label="History" @close="emit('close')">
    <div class="history" @keydown.esc="emit('close')">
      <p class="soft">
        Who changed what, newest first. Nobody can change this.
        <a :href="`/api/changes.csv?recordId=${id}`" class="quiet-link" download>Save as a table</a>
      </p>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="items">
        <ChangeLines :items="items" @restored="reload" />
        <p v-if="!items.length" class="empty">Nothing was changed yet.</p>
        <v-btn v-if="hasMore" class="quiet" @click="more">Show earlier</v-btn>
      </template>
      <template v-else-if="!error"><span v-for="n in 5" :key="n" class="ghost"></span></template>
    </div>
  </SidePanel>
</template>

<style scoped>
.history {
  padding: 10px 24px 24px;
}
@media (max-width: 700px) {
  .history {
    padding: 8px 14px 20px;
  }
}
</style>
