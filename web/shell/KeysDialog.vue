<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { useRoute } from 'vue-router';
import { keysOf } from './keys';

/** The keys of the page that is open. */
const emit = defineEmits<{ close: [] }>();
const route = useRoute();
</script>

<template>
  <v-dialog :model-value="true" width="440" aria-labelledby="keys-title" @update:model-value="emit('close')">
    <v-card class="sheet">
      <h2 id="keys-title">Keys of this page</h2>
      <dl>
        <template v-for="line in keysOf(route.path)" :key="line.keys">
          <dt>
            <span class="key">{{ line.keys }}</span>
          </dt>
          <dd>{{ line.does }}</dd>
        </template>
      </dl>
      <v-btn v-focus class="quiet" @click="emit('close')">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 18px 22px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 12px 0 16px;
}
dd {
  margin: 0;
}
</style>
