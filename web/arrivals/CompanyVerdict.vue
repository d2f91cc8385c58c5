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
  return props.verdict.kind === 'maybe' ? 'Maybe a company you know' : `New company: ${props.name}`;
});
</script>

<template>
  <div class="company" :class="verdict.kind" data-company-verdict>
    <b>{{ head }}</b>
    <span v-if="verdict.kind === 'same' && verdict.matches[0]" class="soft">
      {{ reasons(verdict.matches[0]) }}</span
    >
    <v-radio-group v-if="verdict.kind === 'maybe'" v-model="company" aria-label="Which company is it?">
      <v-radio v-for="match in verdict.matches" :key="match.id" :value="match.id">
        <template #label>
          <span
            >{{ match.label }} <span class="cap num">{{ percent(match.probability) }}</span>
            <span class="soft">{{ reasons(match) }}</span></span
          >
        </template>
      </v-radio>
      <v-radio value="new" :label="`A new company, ${name}`" />
    </v-radio-group>
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
</style>
