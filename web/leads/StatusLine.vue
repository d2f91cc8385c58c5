<script setup lang="ts">
import { vFocus } from '../kit/focus';
import DateField from '../kit/DateField.vue';
import type { LeadDetail } from '@emporikon/contract/leads';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { calendarDay, day } from '../shell/format';
import { useUndo } from '../shell/undo';
import { useTerms } from '../terms/useTerms';

const props = defineProps<{ lead: LeadDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
const { nameOf, countsAs } = useTerms();
const VERBS: Record<LeadDetail['status'], string> = {
  new: 'Back to new',
  working: 'Start working',
  qualified: 'Qualify',
  converted: 'Converted',
  parked: 'Park',
  dropped: 'Drop',
};
/** What sets a status: the verb of a built-in one that has its first name, else the name. */
const verbOf = (key: string): string =>
  nameOf(key) === key && key in VERBS ? VERBS[key as LeadDetail['status']] : nameOf(key);
/** A status that asks for a word more before it can be set. */
const asking = ref<string | null>(null);
const isParking = computed(() => asking.value !== null && countsAs(asking.value) === 'parked');
const parkedUntil = ref('');
const dropReason = ref('');

async function set(status: string): Promise<void> {
  const means = countsAs(status);
  if (means !== props.lead.status && (means === 'parked' || means === 'dropped') && asking.value !== status) {
    asking.value = status;
    return;
  }
  const extra =
    asking.value === null
      ? {}
      : means === 'parked'
        ? { parkedUntil: parkedUntil.value }
        : means === 'dropped'
          ? { dropReason: dropReason.value }
          : {};
  try {
    const { eventId } = await api('PATCH /api/leads/:id', {
      params: { id: props.lead.id },
      body: { version: props.lead.version, status, ...extra },
    });
    asking.value = null;
    undo.tell({ text: `Status: ${nameOf(status)}.`, eventId, about: { leadId: props.lead.id } });
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
      <b>{{ nameOf(lead.statusTerm ?? lead.status) }}</b>
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
        {{ verbOf(one) }}
      </v-btn>
    </div>
    <form v-if="asking" class="ask" @submit.prevent="set(asking)" @keydown.esc.stop="asking = null">
      <DateField v-if="isParking" v-model="parkedUntil" class="field" label="Comes back on" required />
      <v-text-field
        v-else
        v-model="dropReason"
        v-focus
        class="field"
        label="Why?"
        required
        placeholder="Too far, too small, no answer …"
      />
      <v-btn class="quiet" type="submit">{{ verbOf(asking) }}</v-btn>
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
