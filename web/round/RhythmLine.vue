<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { computed } from 'vue';
import EditCell from '../kit/EditCell.vue';
import { useFieldPresence } from '../presence/usePresence';
import { api } from '../shell/api';
import { counted, day } from '../shell/format';
import { useTaskAction } from '../tasks/useTaskAction';

/** How often we mean to be in touch with somebody or with whoever works at a company, and whether they are important. */
const props = defineProps<{
  kind: 'person' | 'company';
  record: Pick<PersonDossier, 'id' | 'version' | 'rhythm' | 'isImportant'>;
}>();
const emit = defineEmits<{ changed: [] }>();
const run = useTaskAction();
const presence = useFieldPresence();

async function put(
  body: { rhythmDays?: number | null; isImportant?: boolean },
  version: number,
): Promise<void> {
  const request = { params: { id: props.record.id }, body: { version, ...body } };
  await run('Changed.', () =>
    props.kind === 'person'
      ? api('PATCH /api/people/:id', request)
      : api('PATCH /api/companies/:id', request),
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
  const { days, from } = props.record.rhythm;
  return days && from ? `${every(days)}${FROM[from]}` : undefined;
});
const isQuiet = computed(
  () => props.record.rhythm.quietAt !== null && Date.parse(props.record.rhythm.quietAt) <= Date.now(),
);
const isProposed = computed(
  () => props.record.rhythm.proposed !== null && props.record.rhythm.proposed !== props.record.rhythm.days,
);
</script>

<template>
  <div data-rhythm>
    <span class="cap">Rhythm</span>
    <div>
      <EditCell
        :value="record.rhythm.from === 'person' ? record.rhythm.days : null"
        :shown="shown"
        :placeholder="shown ?? 'No rhythm'"
        label="Speak every so many days"
        kind="number"
        :save="save"
        field="rhythmDays"
      />
    </div>
    <div v-if="record.rhythm.quietAt" :class="isQuiet ? 'late' : 'soft'">
      {{ isQuiet ? 'Going quiet since' : 'Next word by' }} {{ day(record.rhythm.quietAt) }}
    </div>
    <div v-if="isProposed" class="soft">
      So far {{ every(record.rhythm.proposed ?? 0) }}.
      <v-btn
        v-if="presence.mayChange()"
        class="word"
        @click="put({ rhythmDays: record.rhythm.proposed }, record.version)"
        >Use that</v-btn
      >
    </div>
    <v-btn
      v-if="presence.mayChange()"
      class="word"
      :aria-pressed="record.isImportant"
      @click="put({ isImportant: !record.isImportant }, record.version)"
      >{{ record.isImportant ? 'Important' : 'Mark as important' }}</v-btn><span
      v-else-if="record.isImportant"
      >Important</span
    >
  </div>
</template>
