<script setup lang="ts">
import { vFocus } from '../kit/focus';
import DateField from '../kit/DateField.vue';
import type { LeadDetail } from '@emporikon/contract/leads';
import { ref } from 'vue';
import { api } from '../shell/api';
import { calendarDay, day } from '../shell/format';
import { useUndo } from '../shell/undo';

const props = defineProps<{ lead: LeadDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
type Status = LeadDetail['status'];
const VERBS: Record<Status, string> = {
  new: 'Back to new',
  working: 'Start working',
  qualified: 'Qualify',
  converted: 'Converted',
  parked: 'Park',
  dropped: 'Drop',
};
/** A status that asks for a word more before it can be set. */
const asking = ref<'parked' | 'dropped' | null>(null);
const parkedUntil = ref('');
const dropReason = ref('');

async function set(status: Status): Promise<void> {
  if ((status === 'parked' || status === 'dropped') && asking.value !== status) {
    asking.value = status;
    return;
  }
  const extra =
    status === 'parked'
      ? { parkedUntil: parkedUntil.value }
      : status === 'dropped'
        ? { dropReason: dropReason.value }
        : {};
  try {
    const { eventId } = await api('PATCH /api/leads/:id', {
      params: { id: props.lead.id },
      body: { version: props.lead.version, status, ...extra },
    });
    asking.value = null;
    undo.tell({ text: `Status: ${status}.`, eventId, about: { leadId: props.lead.id } });
  } catch (error) {
    undo.fail(error);
  }
  emit('changed');
}
</script>

<template>
  <div class="status">
    <span class="cap">Status</span>
    <div>
      <b>{{ lead.status }}</b>
      <span class="soft"
        >since {{ day(lead.statusSince)
        }}<template v-if="lead.parkedUntil">, comes back {{ calendarDay(lead.parkedUntil) }}</template
        ><template v-if="lead.dropReason">: {{ lead.dropReason }}</template></span
      >
    </div>
    <div class="verbs">
      <v-btn
        v-for="one in lead.nextStatuses"
        :key="one"
        class="word"
        :aria-pressed="asking === one"
        @click="set(one)"
      >
        {{ VERBS[one] }}
      </v-btn>
    </div>
    <form v-if="asking" class="ask" @submit.prevent="set(asking)" @keydown.esc.stop="asking = null">
      <DateField
        v-if="asking === 'parked'"
        v-model="parkedUntil"
        class="field"
        label="Comes back on"
        required
      />
      <v-text-field
        v-else
        v-model="dropReason"
        v-focus
        class="field"
        label="Why?"
        required
        placeholder="Too far, too small, no answer …"
      />
      <v-btn class="quiet" type="submit">{{ VERBS[asking] }}</v-btn>
    </form>
  </div>
</template>

<style scoped>
.status .cap {
  display: block;
}
.verbs {
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
}
.ask {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  padding: 6px 0;
}
</style>
