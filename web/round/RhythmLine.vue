<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { computed } from 'vue';
import EditCell from '../kit/EditCell.vue';
import { api } from '../shell/api';
import { counted, day } from '../shell/format';
import { useTaskAction } from '../tasks/useTaskAction';

/** How often we mean to be in touch with somebody, and whether they are important. */
const props = defineProps<{ person: Pick<PersonDossier, 'id' | 'version' | 'rhythm' | 'isImportant'> }>();
const emit = defineEmits<{ changed: [] }>();
const run = useTaskAction();

async function put(
  body: { rhythmDays?: number | null; isImportant?: boolean },
  version: number,
): Promise<void> {
  await run('Changed.', () =>
    api('PATCH /api/people/:id', { params: { id: props.person.id }, body: { version, ...body } }),
  );
  emit('changed');
}
const save = (text: string, version: number): Promise<void> =>
  put({ rhythmDays: text.trim() ? Math.round(Number(text)) : null }, version);

const FROM = {
  person: '',
  company: ', as their company',
  tag: ', by their tag',
  standing: ', by their standing',
} as const;
const every = (days: number): string =>
  days % 7 || days > 60
    ? `every ${counted(days, 'day')}`
    : days === 7
      ? 'every week'
      : `every ${days / 7} weeks`;
const shown = computed(() => {
  const { days, from } = props.person.rhythm;
  return days && from ? `${every(days)}${FROM[from]}` : undefined;
});
const isQuiet = computed(
  () => props.person.rhythm.quietAt !== null && Date.parse(props.person.rhythm.quietAt) <= Date.now(),
);
const isProposed = computed(
  () => props.person.rhythm.proposed !== null && props.person.rhythm.proposed !== props.person.rhythm.days,
);
</script>

<template>
  <div data-rhythm>
    <span class="cap">Rhythm</span>
    <div>
      <EditCell
        :value="person.rhythm.from === 'person' ? person.rhythm.days : null"
        :shown="shown"
        :placeholder="shown ?? 'No rhythm'"
        label="Speak every so many days"
        kind="number"
        :save="save"
        field="rhythmDays"
      />
    </div>
    <div v-if="person.rhythm.quietAt" :class="isQuiet ? 'late' : 'soft'">
      {{ isQuiet ? 'Going quiet since' : 'Next word by' }} {{ day(person.rhythm.quietAt) }}
    </div>
    <div v-if="isProposed" class="soft">
      So far {{ every(person.rhythm.proposed ?? 0) }}.
      <v-btn class="word" @click="put({ rhythmDays: person.rhythm.proposed }, person.version)"
        >Use that</v-btn
      >
    </div>
    <v-btn
      class="word"
      :aria-pressed="person.isImportant"
      @click="put({ isImportant: !person.isImportant }, person.version)"
      >{{ person.isImportant ? 'Important' : 'Mark as important' }}</v-btn
    >
  </div>
</template>
