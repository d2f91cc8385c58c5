<script setup lang="ts">
import type { ComparedField, Comparison } from '@emporikon/contract/lookAlikes';
import { computed } from 'vue';
import { VBtn } from 'vuetify/components/VBtn';
import { shortDay } from '../shell/format';
import { movesInWords, movesOne } from './words';

const props = defineProps<{ comparison: Comparison }>();
/** By field the record whose value stays, as somebody chose it. */
const choices = defineModel<Record<string, string>>('choices', { required: true });
const survivor = defineModel<string>('survivor', { required: true });
/** Records that are not one of them after all. */
const apart = defineModel<string[]>('apart', { required: true });

const together = computed(() =>
  props.comparison.records.filter((record) => !apart.value.includes(record.id)),
);
const survivorName = computed(
  () => props.comparison.records.find((record) => record.id === survivor.value)?.name ?? '',
);
const shown = computed(() =>
  props.comparison.fields.filter((field) => field.values.some((value) => value.value !== null)),
);
const moves = computed(() => {
  const sum = { ...props.comparison.moves };
  for (const key of Object.keys(sum) as (keyof typeof sum)[])
    sum[key] = together.value
      .filter((one) => one.id !== survivor.value)
      .reduce((total, one) => total + one.work[key], 0);
  return sum;
});
const stays = (field: ComparedField, recordId: string): boolean => {
  const pick = choices.value[field.field] ?? field.proposed;
  return pick === 'both' || pick === recordId;
};
const differ = (field: ComparedField): boolean =>
  new Set(field.values.map((value) => value.value).filter((one) => one !== null)).size > 1;
const pick = (field: ComparedField, recordId: string): void => {
  choices.value = { ...choices.value, [field.field]: recordId };
};
const whyOf = (field: ComparedField): string =>
  choices.value[field.field] ? 'chosen by you' : differ(field) ? field.why : '';
function toggle(id: string): void {
  apart.value = apart.value.includes(id) ? apart.value.filter((one) => one !== id) : [...apart.value, id];
  if (apart.value.includes(survivor.value)) survivor.value = together.value[0]?.id ?? survivor.value;
}
</script>

<template>
  <div class="sides" :style="{ '--records': comparison.records.length }">
    <p v-if="comparison.reasons.length" class="reasons">
      <span class="cap">Why</span>
      <span v-for="(one, index) in comparison.reasons" :key="one.text"
        >{{ index ? ' · ' : '' }}{{ one.text }} <em class="soft">({{ one.weight }})</em></span
      >
    </p>
    <p class="moves">
      If merged, {{ movesInWords(moves) }} {{ movesOne(moves) ? 'moves' : 'move' }} to {{ survivorName }}.
      Every claim is kept, old links lead here, and they can be separated again.
    </p>
    <v-radio-group v-model="survivor" aria-label="Which record to keep"
      ><v-table class="compared">
        <thead>
          <tr>
            <th class="label"><span class="cap">Record to keep</span></th>
            <th v-for="one in comparison.records" :key="one.id" :class="{ out: apart.includes(one.id) }">
              <RouterLink
                class="name"
                :to="`/${comparison.kind === 'person' ? 'people' : 'companies'}/${one.id}`"
                target="_blank"
                >{{ one.name }}</RouterLink
              >
              <span class="soft hint">{{ one.hint || 'nothing more is known' }}</span>
              <v-radio
                class="keep"
                :value="one.id"
                :disabled="apart.includes(one.id)"
                :label="`Keep this record, from ${shortDay(one.since)}`"
              />
              <v-checkbox
                v-if="comparison.records.length > 2"
                class="keep"
                label="Merge this one too"
                :model-value="!apart.includes(one.id)"
                @update:model-value="toggle(one.id)"
              />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="field in shown" :key="field.field" :class="{ same: !differ(field) }">
            <th scope="row" class="label">
              {{ field.label }}<span v-if="whyOf(field)" class="why">{{ whyOf(field) }}</span>
            </th>
            <td
              v-for="value in field.values"
              :key="value.recordId"
              :class="{ out: apart.includes(value.recordId) }"
            >
              <component
                :is="field.choice && value.value !== null && differ(field) ? VBtn : 'span'"
                class="plain value"
                :class="{ stays: value.value !== null && stays(field, value.recordId) }"
                :aria-pressed="field.choice && differ(field) ? stays(field, value.recordId) : undefined"
                @click="field.choice && differ(field) && pick(field, value.recordId)"
              >
                {{ value.value ?? '—' }}
              </component>
              <span v-if="value.value !== null && (value.source || value.at)" class="from"
                >{{ value.source ?? (value.byHand ? 'by hand' : '')
                }}<template v-if="value.at"
                  >{{ value.source ? ', ' : '' }}{{ shortDay(value.at) }}</template
                ></span
              >
            </td>
          </tr>
        </tbody>
      </v-table></v-radio-group
    >
  </div>
</template>

<style scoped>
.compared {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 5px 12px 5px 0;
  border-bottom: 1px solid var(--rule);
  font-weight: 400;
}
.label {
  width: 190px;
  color: var(--soft);
  font-size: 13px;
}
thead th {
  border-bottom: 2px solid var(--ink);
  padding-bottom: 9px;
}
.name {
  font: 600 18px var(--head);
  color: var(--ink);
  text-decoration: none;
  display: block;
}
.name:hover {
  text-decoration: underline;
}
.hint,
.from,
.why {
  font-size: 12px;
  color: var(--soft);
  overflow-wrap: anywhere;
}
.hint {
  display: block;
}
.from {
  margin-left: 6px;
}
.why {
  margin-left: 6px;
}
.why {
  font-style: italic;
}
.keep {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
  font-size: 13px;
}
.value {
  display: inline-block;
  border: 0;
  background: none;
  padding: 1px 6px;
  margin-left: -6px;
  min-height: 24px;
  font: 14px var(--ui);
  color: var(--soft);
  text-align: left;
  border-radius: 3px;
  overflow-wrap: anywhere;
  white-space: pre-line;
}
button.value {
  cursor: pointer;
  text-decoration: line-through;
  text-decoration-color: var(--rule);
}
button.value:hover {
  background: var(--lit);
}
.value.stays {
  color: var(--ink);
  text-decoration: none;
}
button.value.stays {
  box-shadow: inset 0 -2px 0 var(--ours);
  border-radius: 0;
}
.same .value {
  color: var(--ink);
}
.out {
  opacity: 0.45;
}
.reasons,
.moves {
  margin: 0 0 6px;
  line-height: 1.5;
}
.moves {
  color: var(--soft);
}
em {
  font-style: normal;
}
@media (max-width: 700px) {
  .compared tr {
    display: grid;
    grid-template-columns: repeat(var(--records), minmax(0, 1fr));
    border-bottom: 1px solid var(--rule);
  }
  .compared.compared tr > :is(th, td) {
    height: auto !important;
    min-width: 0;
    border-bottom: 0;
    padding: 4px 10px 6px 0;
  }
  .compared.compared tr > .label {
    grid-column: 1 / -1;
    width: auto;
    padding: 6px 0 0;
  }
}
</style>
