<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { KeepingTime } from '@emporikon/contract/privacy';
import { computed, ref, shallowRef, watch } from 'vue';
import { api, wordsOf } from '../shell/api';
import { counted, fullDay, plainNumber } from '../shell/format';
import { useUndo } from '../shell/undo';
import { KEEPING, MONTHS } from './words';

/** How long one kind of data is kept; before a shorter time is saved, what would go is shown. */
const props = defineProps<{ time: KeepingTime; mayPreview: boolean; mayChange: boolean }>();
const emit = defineEmits<{ saved: [] }>();
const undo = useUndo();
const months = ref(props.time.months);
const preview = shallowRef<Reply<'GET /api/keeping-times/preview'> | null>(null);
const error = ref('');
const isBusy = ref(false);
const words = computed(() => KEEPING[props.time.kind]);
const isChanged = computed(() => months.value !== props.time.months);
const MOST = 1000;
const going = computed(() => {
  const shown = preview.value;
  if (!shown) return '';
  if (!shown.count) return 'Nothing is that old now.';
  const many =
    shown.count > MOST
      ? `More than ${plainNumber(MOST)} ${words.value.many}`
      : counted(shown.count, words.value.one, words.value.many);
  const since = shown.oldest ? `, the oldest from ${fullDay(shown.oldest.slice(0, 10))}` : '';
  const names = shown.samples.map(({ name }) => name).join(', ');
  return `${many} would go the next night${since}${names ? `: ${names}${shown.count > shown.samples.length ? ' …' : ''}` : ''}.`;
});

watch(
  () => props.time.months,
  (now) => (months.value = now),
);
watch(months, async (now) => {
  preview.value = null;
  error.value = '';
  if (now === null || !isChanged.value || !props.mayPreview) return;
  try {
    const shown = await api('GET /api/keeping-times/preview', {
      query: { kind: props.time.kind, months: now },
    });
    if (months.value === now) preview.value = shown;
  } catch (problem) {
    error.value = wordsOf(problem);
  }
});

async function save(): Promise<void> {
  isBusy.value = true;
  try {
    await api('PATCH /api/keeping-times', {
      body: { kind: props.time.kind, version: props.time.version, months: months.value },
    });
    undo.tell({ text: 'Keeping time saved.', eventId: null });
    preview.value = null;
    emit('saved');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <div class="row">
    <div>
      <span class="name">{{ words.title }}</span>
      <p class="soft">{{ words.help }}</p>
    </div>
    <v-select
      v-model="months"
      :label="words.title"
      :items="MONTHS as { value: number | null; title: string }[]"
      :disabled="!mayChange"
    />
    <div v-if="isChanged || error" class="what" aria-live="polite">
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <p v-else-if="months === null">Kept from now on.</p>
      <p v-else-if="!preview" class="soft">Counting …</p>
      <p v-else>{{ going }}</p>
      <v-btn class="fill" :loading="isBusy" :disabled="months !== null && !preview" @click="save">Save</v-btn>
      <v-btn class="quiet" @click="months = time.months">Cancel</v-btn>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px;
  gap: 6px 20px;
  align-items: center;
  padding: 10px 0;
  border-top: 1px solid var(--rule2);
}
.name {
  font-weight: 600;
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  grid-column: 1 / -1;
}
.what p {
  flex: 1 1 300px;
}
p {
  margin: 0;
}
@media (max-width: 600px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
