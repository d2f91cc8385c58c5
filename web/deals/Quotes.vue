<script setup lang="ts">
import type { QuoteRow } from '@emporikon/contract/quotes';
import { ref } from 'vue';
import { api } from '../shell/api';
import { calendarDay, money } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** The quotes of a deal, each with where it stands and what it can become. */
const props = defineProps<{ dealId: string; hasLines: boolean }>();
const undo = useUndo();
const isBusy = ref(false);
const { data, load } = useFetched(
  () => api('GET /api/quotes', { query: { deal: props.dealId } }),
  ['quotes'],
  () => [props.dealId],
);
const TO: Record<QuoteRow['state'], string> = {
  drafted: 'drafted',
  sent: 'Mark as sent',
  accepted: 'Mark as accepted',
  declined: 'Mark as declined',
  withdrawn: 'Withdraw',
};

async function make(): Promise<void> {
  isBusy.value = true;
  try {
    const { quote, eventId } = await api('POST /api/deals/:id/quotes', { params: { id: props.dealId } });
    undo.tell({ text: `Made the quote ${quote.number}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  isBusy.value = false;
  await load();
}

async function set(quote: QuoteRow, state: QuoteRow['state']): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/quotes/:id', {
      params: { id: quote.id },
      body: { version: quote.version, state },
    });
    undo.tell({ text: `${quote.number} is ${state}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}
</script>

<template>
  <div class="quotes">
    <div v-for="quote in data?.items ?? []" :key="quote.id" class="quote">
      <a :href="`/api/quotes/${quote.id}/quote.pdf`" target="_blank" class="quiet-link num"
        ><b>{{ quote.number }}</b></a
      >
      <span class="num">{{ money(quote.grossMinor, quote.currency) }} with tax</span>
      <span class="soft"
        >{{ calendarDay(quote.issuedOn) }}, valid until {{ calendarDay(quote.validUntil) }}</span
      >
      <span :class="{ late: quote.isLapsed }">{{ quote.isLapsed ? 'lapsed' : quote.state }}</span>
      <span class="ways">
        <v-btn
          v-for="state in quote.next"
          :key="state"
          class="word"
          :aria-label="`${quote.number}: ${TO[state]}`"
          @click="set(quote, state)"
        >
          {{ TO[state] }}
        </v-btn>
      </span>
    </div>
    <p v-if="data && !data.items.length" class="soft">No quotes yet.</p>
    <v-btn class="line" :loading="isBusy" :disabled="!hasLines" @click="make"
      >Make a quote from these lines</v-btn
    >
  </div>
</template>

<style scoped>
.quotes {
  display: grid;
  gap: 4px;
  justify-items: start;
  padding-top: 4px;
}
.quote {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: baseline;
  min-height: 28px;
}
.ways {
  display: flex;
  gap: 12px;
}
p {
  margin: 0;
}
</style>
