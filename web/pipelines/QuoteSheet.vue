<script setup lang="ts">
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import NumberField from '../kit/NumberField.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSave } from './useSave';

/** What every quote prints. */

const session = useSession();
const { data, load } = useFetched(() => api('GET /api/quote-settings'), ['quote_settings']);
const save = useSave(load);
const valueOf = (event: Event): string => (event.target as HTMLInputElement).value;
const put = (patch: { issuer?: string; terms?: string; prefix?: string; validDays?: number }) =>
  save('Quote settings saved.', () =>
    api('PATCH /api/quote-settings', { body: { version: data.value?.version ?? 1, ...patch } }),
  );
</script>

<template>
  <PageHead title="Quotes" help="What is printed on every quote." />
  <div v-if="data" class="fields">
    <v-textarea
      label="Your details"
      hint="Company, address and contact details, one per line"
      persistent-hint
      rows="4"
      :model-value="data.issuer"
      :disabled="!session.may('settings.deals')"
      maxlength="600"
      @change="put({ issuer: valueOf($event) })"
    />
    <v-textarea
      label="Terms"
      hint="Printed at the end of the quote"
      persistent-hint
      rows="4"
      :model-value="data.terms"
      :disabled="!session.may('settings.deals')"
      maxlength="4000"
      @change="put({ terms: valueOf($event) })"
    />
    <v-text-field
      label="Numbers begin with"
      :model-value="data.prefix"
      :disabled="!session.may('settings.deals')"
      maxlength="12"
      @change="put({ prefix: valueOf($event) })"
    />
    <NumberField
      label="Valid for, in days"
      :min="1"
      :max="365"
      :model-value="data.validDays"
      :disabled="!session.may('settings.deals')"
      @change="put({ validDays: $event })"
    />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  max-width: 760px;
}
@media (max-width: 800px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
