<script setup lang="ts">
import type { ComparedField, Comparison } from '@emporikon/contract/lookAlikes';
import { computed } from 'vue';
import { VBtn } from 'vuetify/components/VBtn';
import { shortDay } from '../shell/format';
import { movesInWords, movesOne, pairsInWords } from './words';

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
const isGroup = computed(() => props.comparison.records.length > 2);
const evidence = computed(() => [
  { title: 'For a match', reasons: props.comparison.reasons.filter((one) => !one.isAgainst) },
  { title: 'Against a match', reasons: props.comparison.reasons.filter((one) => one.isAgainst) },
]);
const whichOf = (reason: Comparison['reasons'][number]): string =>
  isGroup.value ? pairsInWords(reason.pairs, props.comparison.records) : '';
const whyOf = (field: ComparedField): string =>
  choices.value[field.field] ? 'chosen by you' : differ(field) ? field.why : '';
function toggle(id: string): void {
  apart.value = apart.value.includes(id) ? apart.value.filter((one) => one !== id) : [...apart.value, id];
  if (apart.value.includes(survivor.value)) survivor.value = together.value[0]?.id ?? survivor.value;
}
</script>

<template>
  <div class="sides" :style="{ '--records': comparison.records.length }">
    <div class="evidence">
      <div v-for="side in evidence" :key="side.title">
        <span class="cap">{{ side.title }}</span>
        <ul v-if="side.reasons.length" :aria-label="side.title">
          <li v-for="one in side.reasons" :key="one.text">
            {{ one.text }}<span v-if="whichOf(one)" class="soft">, {{ whichOf(one) }}</span>
            <em class="soft">{{ one.weight }}</em>
          </li>
        </ul>
        <p v-else class="soft nothing">Nothing we know of</p>
      </div>
    </div>
    <p class="moves">
      If merged, {{ movesInWords(moves) }} {{ movesOne(moves) ? 'moves' : 'move' }} to {{ survivorName }}.
      Every claim is kept, old links lead here, and they can be separated again.
    </p>
    <v-radio-group v-model="survivor" aria-label="Which record to keep"
      ><v-table class="compared">
        <thead>
          <tr>
            <th class="label"><span class="cap">Record to keep</span></th>
            <th
              v-for="(one, index) in comparison.records"
              :key="one.id"
              :class="{ out: apart.includes(one.id) }"
            >
              <RouterLink
                class="name"
                :to="`/${comparison.kind === 'person' ? 'people' : 'companies'}/${one.id}`"
                target="_blank"
                >{{ isGroup ? `${index + 1}. ${one.name}` : one.name }}</RouterLink
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
.evidence {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 28px;
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  padding: 8px 0;
  margin-bottom: 8px;
}
.evidence ul {
  list-style: none;
  margin: 0;
  padding: 0;
  line-height: 1.5;
}
.evidence em {
  font-style: normal;
  font-size: 12px;
  margin-left: 4px;
}
.nothing,
.moves {
  margin: 0 0 6px;
  line-height: 1.5;
}
.nothing {
  margin: 0;
}
.moves {
  color: var(--soft);
}
@media (max-width: 700px) {
  .evidence {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
  .compared tr {
    display: grid;
    grid-template-columns: repeat(var(--records), minmax(0, 1fr));
    border-bottom: 1px solid var(--rule);
  }
  .compared.compared tr > :is(th, td) {
    height: auto !important;
    min-width: 0;
    white-space: normal;
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
