<script setup lang="ts">
import type { readTypedDay } from '@emporikon/core/calendar/typedDay';
import type { FreeDays } from '@emporikon/core/calendar/workingDays';
import { mdiCalendarBlankOutline } from '@mdi/js';
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef, watch } from 'vue';
import { fullDay, isMonthFirst, todayOf, yearlyDay } from '../shell/format';
import { loadFreeDays } from './useFreeDays';

/**
 * A day (YYYY-MM-DD; empty for none) that is typed ("fri", "3 dec", "in 3 working days") or picked. It is shown as the
 * user writes days. `change` comes once the field is left or a day is picked. Further attributes go to the text field.
 */
const model = defineModel<string | null>();
const emit = defineEmits<{ change: [day: string] }>();
const DayPicker = defineAsyncComponent(() => import('./DayPicker.vue'));
const EXAMPLES = 'Type a day, such as “3 Dec”, “Friday” or “in 3 working days”';

const field = useTemplateRef('field');
const text = ref('');
const isTyping = ref(false);
const isPicking = ref(false);
const error = ref('');
let read: typeof readTypedDay | null = null;
let free: FreeDays | undefined;
let settled = model.value ?? '';

/** A day that comes back every year may stand without one. */
const inWords = (day: string): string => (day.startsWith('--') ? yearlyDay(day) : fullDay(day));
const shown = computed(() => (isTyping.value || !model.value ? text.value : inWords(model.value)));
watch(model, (day) => {
  if (day) error.value = '';
  if (!isTyping.value) settled = day ?? '';
});
watch(error, (words) => field.value?.setCustomValidity(words));

async function begin(): Promise<void> {
  const days = loadFreeDays();
  ({ readTypedDay: read } = await import('@emporikon/core/calendar/typedDay'));
  free = await days;
}

/** What was typed, as a day; null while it names none. */
const dayOf = (typed: string): string | null =>
  /^\d{4}-\d\d-\d\d$/.test(typed.trim()) || !read
    ? typed.trim()
    : read(typed, { today: todayOf(), monthFirst: isMonthFirst(), free });

function type(typed: string): void {
  isTyping.value = true;
  text.value = typed;
  error.value = '';
  // Words that came before they could be read are read as soon as they can be.
  if (!read) void begin().then(() => isTyping.value && text.value === typed && type(typed));
  const day = typed.trim() ? dayOf(typed) : '';
  if (day === '' || /^\d{4}-\d\d-\d\d$/.test(day ?? '')) model.value = day;
}

async function settle(): Promise<void> {
  if (!isTyping.value) return;
  if (!read) await begin();
  const typed = text.value.trim();
  const day = typed ? dayOf(typed) : '';
  isTyping.value = false;
  model.value = day ?? '';
  if (day === null) error.value = `“${typed}” is not a day. ${EXAMPLES}.`;
  else {
    text.value = '';
    finish(day);
  }
}
/** Enter that comes before words can be read sends its form once they are, and not the day of before. */
async function enter(event: KeyboardEvent): Promise<void> {
  if (read || !isTyping.value) return settle();
  event.preventDefault();
  const { form } = event.target as HTMLInputElement;
  await settle();
  await nextTick();
  if (!error.value) form?.requestSubmit();
}
function finish(day: string): void {
  if (day === settled) return;
  settled = day;
  emit('change', day);
}
function pick(day: string): void {
  isPicking.value = false;
  isTyping.value = false;
  error.value = '';
  model.value = day;
  finish(day);
}
</script>

<template>
  <v-text-field
    ref="field"
    :model-value="shown"
    :error-messages="error"
    :title="EXAMPLES"
    autocomplete="off"
    class="date-field"
    @update:model-value="type"
    @focus="begin"
    @blur="settle"
    @keydown.enter="enter"
  >
    <template #append-inner>
      <v-menu v-model="isPicking" :close-on-content-click="false" location="bottom end">
        <template #activator="{ props: activator }">
          <v-btn class="word open" aria-label="Choose a day" tabindex="-1" v-bind="activator">
            <v-icon :icon="mdiCalendarBlankOutline" size="16" />
          </v-btn>
        </template>
        <DayPicker :day="model ?? ''" @pick="pick" />
      </v-menu>
    </template>
  </v-text-field>
</template>

<style scoped>
.date-field {
  min-width: 132px;
}
</style>
