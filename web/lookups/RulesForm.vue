<script setup lang="ts">
import { useSession } from '../shell/session';
import NumberField from '../kit/NumberField.vue';
import type { In } from '@emporikon/contract';
import type { LookUpRules } from '@emporikon/contract/lookups';
import { decimalOf } from '@emporikon/core/lifecycle/minorUnits';
import { minorOf } from '@emporikon/core/ledger/sum';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';

const props = defineProps<{ rules: LookUpRules }>();
const emit = defineEmits<{ changed: [] }>();
const session = useSession();
const undo = useUndo();
type Patch = Omit<In<'PATCH /api/look-ups/rules', 'body'>, 'version'>;

async function put(patch: Patch): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/look-ups/rules', {
      body: { version: props.rules.version, ...patch },
    });
    undo.tell({ text: 'Look-up settings saved.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  emit('changed');
}
const text = (event: Event): string => (event.target as HTMLInputElement).value;
const shown = (minor: number | null): string =>
  minor === null ? '' : decimalOf(minor, props.rules.currency);
</script>

<template>
  <div class="fields">
    <v-text-field
      :label="`Allowance per month, ${rules.currency}`"
      hint="Nothing is asked once it is spent"
      persistent-hint
      :model-value="shown(rules.allowance)"
      :disabled="!session.may('settings.channels')"
      inputmode="decimal"
      @change="put({ allowance: minorOf(text($event), rules.currency) ?? rules.allowance })"
    />
    <v-text-field
      :label="`Limit per user, ${rules.currency}`"
      hint="Empty for no limit"
      persistent-hint
      :model-value="shown(rules.perUser)"
      :disabled="!session.may('settings.channels')"
      inputmode="decimal"
      @change="put({ perUser: minorOf(text($event), rules.currency) })"
    />
    <NumberField
      label="Worth of a point, in cents"
      hint="A source is asked while it costs less than it adds"
      persistent-hint
      :model-value="rules.pointWorth"
      :disabled="!session.may('settings.channels')"
      :min="0"
      :max="1000"
      @change="put({ pointWorth: $event })"
    />
    <NumberField
      label="Complete enough, of 100"
      hint="Looking stops there"
      persistent-hint
      :model-value="rules.enough"
      :disabled="!session.may('settings.channels')"
      :min="0"
      :max="100"
      @change="put({ enough: $event })"
    />
    <NumberField
      label="Keep an answer for, in days"
      hint="The same question is not asked again before"
      persistent-hint
      :model-value="rules.keepDays"
      :disabled="!session.may('settings.channels')"
      :min="0"
      :max="3650"
      @change="put({ keepDays: $event })"
    />
    <div>
      <v-checkbox
        label="Look up new leads automatically"
        :model-value="rules.automatic"
        :disabled="!session.may('settings.channels')"
        @update:model-value="put({ automatic: $event === true })"
      />
      <v-checkbox
        label="Fill empty fields automatically; otherwise only suggest"
        :model-value="rules.fillBlanks"
        :disabled="!session.may('settings.channels')"
        @update:model-value="put({ fillBlanks: $event === true })"
      />
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 14px 20px;
  align-items: start;
  max-width: 900px;
}
</style>
