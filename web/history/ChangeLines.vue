<script setup lang="ts">
import type { FieldChange } from '@emporikon/contract/history';
import { computed } from 'vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useTaskAction } from '../tasks/useTaskAction';
import { recordPath, valueWords } from './words';

/** Changes field by field, those of one time together; each value that stood there before can be put back. */
const props = defineProps<{
  items: readonly FieldChange[];
  /** Whether it is said of each which record it was on. */
  showsRecord?: boolean;
}>();
const emit = defineEmits<{ restored: [] }>();
const run = useTaskAction();
const groups = computed(() => {
  const found: { id: string; lines: FieldChange[] }[] = [];
  for (const item of props.items) {
    const last = found.at(-1);
    if (last?.id === item.eventId) last.lines.push(item);
    else found.push({ id: item.eventId, lines: [item] });
  }
  return found;
});

async function restore(item: FieldChange): Promise<void> {
  const text = `${item.caption} of ${item.record.name}: ${valueWords(item.from, item)} again.`;
  const isDone = await run(text, () =>
    api('POST /api/changes/restore', {
      body: { eventId: item.eventId, recordId: item.record.id, field: item.field },
    }),
  );
  if (isDone) emit('restored');
}
</script>

<template>
  <ol class="changes">
    <li v-for="group in groups" :key="group.id" data-change>
      <p class="cap">
        {{ day(group.lines[0]!.at) }}, {{ clock(group.lines[0]!.at) }} ·
        {{ group.lines[0]!.actor?.name ?? 'Emporikon' }} · {{ group.lines[0]!.source
        }}<template v-if="group.lines[0]!.isUndone"> · undone</template>
      </p>
      <div v-for="item in group.lines" :key="item.key" class="line">
        <span class="field">
          <template v-if="showsRecord"
            ><RouterLink v-if="recordPath(item.record)" :to="recordPath(item.record)!" class="quiet-link">{{
              item.record.name
            }}</RouterLink
            ><template v-else>{{ item.record.name }}</template> · </template
          >{{ item.caption }}
        </span>
        <span class="values"
          ><span class="soft was">{{ valueWords(item.from, item) }}</span> →
          <span>{{ valueWords(item.to, item) }}</span></span
        >
        <v-btn
          v-if="item.canRestore"
          class="word"
          :aria-label="`Restore ${item.caption}: ${valueWords(item.from, item)}`"
          @click="restore(item)"
          >Restore</v-btn
        >
      </div>
    </li>
  </ol>
</template>

<style scoped>
.changes {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--rule);
  padding: 5px 0 6px;
}
.cap {
  margin: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(90px, 1fr) minmax(0, 2fr) 52px;
  gap: 0 14px;
  align-items: baseline;
}
.values,
.field {
  overflow-wrap: anywhere;
}
.field {
  color: var(--soft);
}
@container (max-width: 430px) {
  .line {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .field {
    grid-column: 1 / -1;
  }
}
</style>
