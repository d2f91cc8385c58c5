<script setup lang="ts">
import type { BulkChange, BulkPreview } from '@emporikon/contract/bulk';
import type { Query } from '@emporikon/core/query/types';
import { computed, ref, shallowRef } from 'vue';
import { useBulk } from '../bulk/useBulk';
import { countOf } from '../bulk/words';
import { vFocus } from '../kit/focus';
import { api, wordsOf } from '../shell/api';

/** Erases the selected people for good, once their number has been typed. */
const props = defineProps<{ ids: readonly string[]; query: Query | null; count: number }>();
const emit = defineEmits<{ close: []; begun: [] }>();
const bulk = useBulk();
const previewed = shallowRef<{ change: BulkChange; preview: BulkPreview } | null>(null);
const note = ref('');
const typed = ref('');
const error = ref('');
const isBusy = ref(false);
const many = computed(() => previewed.value?.preview.change ?? 0);
const prepare = (): Promise<{ change: BulkChange; preview: BulkPreview }> =>
  api('POST /api/bulk-changes', {
    body: {
      kind: 'person',
      on: props.query ? { query: props.query as never } : { ids: [...props.ids] },
      steps: [{ do: 'erase', note: note.value.trim() }],
    },
  });

async function look(): Promise<void> {
  try {
    previewed.value = await prepare();
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void look();

async function begin(): Promise<void> {
  if (Number(typed.value) !== many.value || isBusy.value) return;
  isBusy.value = true;
  error.value = '';
  try {
    const { change, preview } = await prepare();
    if (preview.change !== many.value) {
      previewed.value = { change, preview };
      error.value = 'Others changed the selection meanwhile. Check the number and type it again.';
      return;
    }
    await bulk.begin(change.id);
    emit('begun');
    emit('close');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="`Erase ${countOf('person', count)}`"
    width="560"
    @update:model-value="emit('close')"
  >
    <form class="sheet" novalidate @submit.prevent="begin">
      <h2>Erase {{ countOf('person', many || count) }}</h2>
      <p>
        Who they were goes for good: their fields, messages, files and what was said with them, also in the
        change history. Leads, deals and dates stay without them. An import does not bring them back. This
        cannot be undone.
      </p>
      <span v-if="!previewed && !error" class="ghost"></span>
      <p v-else-if="previewed" class="soft">
        {{ previewed.preview.samples.map(({ name }) => name).join(', ')
        }}<template v-if="many > previewed.preview.samples.length"> …</template>
      </p>
      <v-text-field v-model="note" label="Why (say nothing here that tells who they were)" maxlength="500" />
      <v-text-field
        v-model="typed"
        v-focus="true"
        :label="`Type ${many} to erase them`"
        inputmode="numeric"
        autocomplete="off"
      />
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="do">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!many || Number(typed) !== many"
          >Erase for good</v-btn
        >
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 12px;
  padding: 18px 22px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
p {
  margin: 0;
}
.do {
  display: flex;
  gap: 10px;
}
</style>
