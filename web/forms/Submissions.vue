<script setup lang="ts">
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';
import DeliveryLine from '../outbox/DeliveryLine.vue';

const props = defineProps<{
  about: { personId?: string; formId?: string };
  title?: string;
  /** What is said where there are none; left out, nothing is shown then. */
  empty?: string;
}>();
const { data } = useFetched(
  () => api('GET /api/submissions', { query: props.about }),
  ['form_submissions', 'captures', 'outbox'],
  () => Object.values(props.about),
);
</script>

<template>
  <section v-if="data?.items.length" class="submissions">
    <h2 v-if="title">{{ title }}</h2>
    <details v-for="one in data.items" :key="one.id">
      <summary>
        <b>{{ one.form.name }}</b>
        <span class="soft">
          {{ day(one.at) }} {{ clock(one.at) }} · {{ one.by ? `entered by ${one.by}` : 'filled in by them'
          }}{{ one.confirmedAt ? ' · address confirmed' : '' }}</span
        >
      </summary>
      <DeliveryLine
        v-if="one.delivery && !one.confirmedAt"
        :delivery="one.delivery"
        what="The mail that asks to confirm the address"
        again="Send again"
      />
      <dl>
        <template v-for="answer in one.answers" :key="answer.label">
          <dt class="cap">{{ answer.label }}</dt>
          <dd>{{ answer.value }}</dd>
        </template>
      </dl>
      <RouterLink :to="`/arrivals/${one.captureId}`" class="quiet-link">Open the original</RouterLink>
    </details>
  </section>
  <p v-else-if="data && empty" class="empty">{{ empty }}</p>
</template>

<style scoped>
.submissions {
  padding: 6px 24px 10px;
}
details {
  border-top: 1px solid var(--rule2);
  padding: 5px 0;
}
summary {
  cursor: pointer;
  min-height: 24px;
}
dl {
  display: grid;
  grid-template-columns: 180px 1fr;
  gap: 2px 12px;
  margin: 4px 0;
}
dd {
  margin: 0;
  white-space: pre-line;
}
</style>
