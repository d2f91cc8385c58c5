<script setup lang="ts">
import type { CalendarClash } from '@emporikon/contract/caldav';
import { api } from '../shell/api';
import { useTaskAction } from '../tasks/useTaskAction';
import { factsWords } from './facts';

/** A meeting that was changed here and in the other calendar: what each says, and which one to keep. */
const props = defineProps<{ clash: CalendarClash }>();
const emit = defineEmits<{ decided: [] }>();
const run = useTaskAction();

async function keep(which: 'here' | 'there', text: string): Promise<void> {
  const params = { id: props.clash.taskId };
  if (await run(text, () => api('POST /api/tasks/:id/calendar', { params, body: { keep: which } })))
    emit('decided');
}
</script>

<template>
  <div class="clash">
    <b>Changed here and in your other calendar</b>
    <dl>
      <dt>Here</dt>
      <dd>{{ factsWords(clash.here, clash.parts) }}</dd>
      <dt>There</dt>
      <dd>{{ clash.there ? factsWords(clash.there, clash.parts) : 'removed' }}</dd>
    </dl>
    <div class="ways">
      <v-btn class="line" @click="keep('here', 'Kept as it is here. Your other calendar follows.')"
        >Keep this one</v-btn
      >
      <v-btn
        class="line"
        @click="
          keep(
            'there',
            clash.there ? 'Taken from your other calendar.' : `${clash.title} is removed here too.`,
          )
        "
        >{{ clash.there ? 'Take the other' : 'Remove it here too' }}</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.clash {
  margin: 10px 0;
  padding: 8px 12px;
  border-left: 2px solid var(--wait);
}
dl {
  display: grid;
  grid-template-columns: 56px 1fr;
  gap: 2px 8px;
  margin: 4px 0 8px;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
