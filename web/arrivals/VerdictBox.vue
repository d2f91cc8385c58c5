<script setup lang="ts">
import type { CaptureDetail, Verdict } from '@emporikon/contract/captures';
import { computed, ref } from 'vue';
import { percent } from '../shell/format';

const props = defineProps<{ verdict: Verdict; isOpen: boolean; filedAs: CaptureDetail['filedAs'] }>();
/** Whom it is filed on: an id, `new`, or null while nobody chose. */
const person = defineModel<string | null>({ default: null });
const box = ref<HTMLElement | null>(null);

const reasons = (match: Verdict['matches'][number]): string =>
  match.reasons.map((reason) => `${reason.text} (${reason.weight})`).join(', ');
const head = computed(() => {
  const [best] = props.verdict.matches;
  if (props.verdict.kind === 'same' && best) return `Same: ${best.label}`;
  return props.verdict.kind === 'maybe'
    ? 'Maybe somebody you know'
    : 'New: nobody in your records has this address, number or name';
});

defineExpose({ focus: () => box.value?.querySelector<HTMLInputElement>('input')?.focus() });
</script>

<template>
  <div v-if="filedAs" class="verdict same">
    <b>Filed</b>
    <span v-if="filedAs.person">
      on <RouterLink :to="`/people/${filedAs.person.id}`">{{ filedAs.person.name }}</RouterLink></span
    >
    <span v-if="filedAs.company"
      >{{ filedAs.person ? ', ' : 'on '
      }}<RouterLink :to="`/companies/${filedAs.company.id}`">{{ filedAs.company.name }}</RouterLink></span
    >
    <span v-if="filedAs.deal"
      >, <RouterLink :to="`/deals/${filedAs.deal.id}`">deal “{{ filedAs.deal.name }}”</RouterLink></span
    >
    <span v-else-if="filedAs.case"
      >, <RouterLink :to="`/cases/${filedAs.case.id}`">case “{{ filedAs.case.name }}”</RouterLink></span
    >
    <span v-else-if="filedAs.project"
      >,
      <RouterLink :to="`/projects/${filedAs.project.id}`"
        >project “{{ filedAs.project.name }}”</RouterLink
      ></span
    >
    <span v-else-if="filedAs.lead"
      >, <RouterLink :to="`/leads/${filedAs.lead.id}`">lead “{{ filedAs.lead.name }}”</RouterLink></span
    >
  </div>
  <div v-else ref="box" class="verdict" :class="verdict.kind">
    <b>{{ head }}</b>
    <span v-if="verdict.kind === 'same' && verdict.matches[0]" class="odds num">
      {{ percent(verdict.matches[0].probability) }}</span
    >
    <div v-if="verdict.kind === 'same' && verdict.matches[0]" class="soft">
      {{ reasons(verdict.matches[0]) }}
    </div>
    <v-radio-group
      v-if="isOpen && verdict.matches.length"
      v-model="person"
      aria-label="Who is it?"
      :inline="verdict.kind === 'same'"
    >
      <v-radio
        v-for="match in verdict.kind === 'same' ? verdict.matches.slice(0, 1) : verdict.matches"
        :key="match.id"
        :value="match.id"
      >
        <template #label>
          <span v-if="verdict.kind === 'same'">{{ match.label.split(',')[0] }}</span><span v-else
            >{{ match.label }} <span class="odds num">{{ percent(match.probability) }}</span><br /><span
              class="soft"
              >{{ reasons(match) }}</span
            ></span
          >
        </template>
      </v-radio>
      <v-radio value="new" label="Somebody new" />
    </v-radio-group>
  </div>
</template>

<style scoped>
.verdict {
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 8px 12px;
  margin: 8px 0 10px;
  background: var(--sheet);
}
.same {
  border-color: var(--theirs);
}
.same b {
  color: var(--theirs);
}
.maybe {
  border-color: var(--wait-line);
}
.maybe b {
  color: var(--wait);
}
.odds {
  margin-left: 6px;
  font-size: 12px;
  color: var(--soft);
}
</style>
