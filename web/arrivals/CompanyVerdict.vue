<script setup lang="ts">
import type { CaptureDetail } from '@emporikon/contract/captures';
import { computed } from 'vue';
import { percent } from '../shell/format';

type Verdict = CaptureDetail['verdict']['company'];
const props = defineProps<{ verdict: Verdict; name: string }>();
/** Which company it is filed on: an id, `new`, or null to leave it to the verdict. */
const company = defineModel<string | null>({ default: null });

const reasons = (match: Verdict['matches'][number]): string =>
  match.reasons.map((reason) => `${reason.text} (${reason.weight})`).join(', ');
const head = computed(() => {
  const [best] = props.verdict.matches;
  if (props.verdict.kind === 'same' && best) return `Same company: ${best.label}`;
  return props.verdict.kind === 'maybe' ? 'Maybe a company we know' : `New company: ${props.name}`;
});
</script>

<template>
  <div class="company" :class="verdict.kind" data-company-verdict>
    <b>{{ head }}</b>
    <span v-if="verdict.kind === 'same' && verdict.matches[0]" class="soft">
      {{ reasons(verdict.matches[0]) }}</span
    >
    <fieldset v-if="verdict.kind === 'maybe'">
      <legend class="visually-hidden">Which company is it?</legend>
      <label v-for="match in verdict.matches" :key="match.id">
        <input v-model="company" type="radio" name="company" :value="match.id" />
        <span
          >{{ match.label }} <span class="cap num">{{ percent(match.probability) }}</span>
          <span class="soft">{{ reasons(match) }}</span></span
        >
      </label>
      <label
        ><input v-model="company" type="radio" name="company" value="new" />
        <span>a new company, {{ name }}</span></label
      >
    </fieldset>
  </div>
</template>

<style scoped>
.company {
  padding: 0 0 8px;
  font-size: 13px;
}
.same b {
  color: var(--theirs);
}
.maybe b {
  color: var(--wait);
}
fieldset {
  border: 0;
  padding: 0;
  margin: 2px 0 0;
}
label {
  display: flex;
  gap: 8px;
  min-height: 24px;
  cursor: pointer;
}
input {
  accent-color: var(--ours);
}
</style>
