<script setup lang="ts">
import { ref, watch } from 'vue';
import { useUndo } from '../shell/undo';
import { vFocus } from './focus';

const undo = useUndo();
const isSaying = ref(false);
const why = ref('');
watch(
  () => undo.told,
  () => {
    isSaying.value = false;
    why.value = '';
  },
);
function begin(): void {
  isSaying.value = true;
  undo.hold();
}
</script>

<template>
  <div class="line" role="status" aria-live="polite">
    <div v-if="undo.told" class="told" :class="{ wrong: undo.told.wrong }">
      <span>{{ undo.told.text }}</span>
      <RouterLink v-for="link in undo.told.links ?? []" :key="link.text" :to="link.to" class="quiet-link">{{
        link.text
      }}</RouterLink>
      <v-btn v-if="undo.canUndo" class="word on" @click="undo.undo()">
        Undo <span class="key">Ctrl Z</span>
      </v-btn>
      <form v-if="isSaying" class="why" @submit.prevent="undo.sayWhy(why)" @keydown.esc.stop="undo.dismiss()">
        <v-text-field
          v-model="why"
          v-focus
          aria-label="Why"
          placeholder="Why, in a sentence"
          maxlength="500"
          autocomplete="off"
        />
        <v-btn class="word on" type="submit" :disabled="!why.trim()">Save</v-btn>
      </form>
      <v-btn v-else-if="undo.told.about" class="word" @click="begin">Say why</v-btn>
      <v-btn class="word" @click="undo.dismiss()">Close</v-btn>
    </div>
  </div>
</template>

<style scoped>
.line {
  position: fixed;
  left: 0;
  right: 0;
  bottom: 92px;
  display: flex;
  justify-content: center;
  pointer-events: none;
  z-index: 30;
}
.told {
  pointer-events: auto;
  display: flex;
  gap: 16px;
  align-items: baseline;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
  padding: 5px 14px;
  max-width: min(92vw, 820px);
}
.told.wrong {
  border-color: var(--iron);
  color: var(--iron);
}
.why {
  display: flex;
  gap: 10px;
  align-items: center;
}
.why .v-input {
  width: 240px;
}
@media (max-width: 700px) {
  .told {
    flex-wrap: wrap;
  }
  .line {
    bottom: 130px;
  }
}
</style>
