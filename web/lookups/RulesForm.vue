<script setup lang="ts">
import type { In } from '@emporikon/contract';
import type { LookUpRules } from '@emporikon/contract/lookups';
import { decimalOf } from '@emporikon/core/lifecycle/currencies';
import { minorOf } from '@emporikon/core/ledger/sum';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';

const props = defineProps<{ rules: LookUpRules; mayEdit: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
type Patch = Omit<In<'PATCH /api/look-ups/rules', 'body'>, 'version'>;

async function put(patch: Patch): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/look-ups/rules', {
      body: { version: props.rules.version, ...patch },
    });
    undo.tell({ text: 'Changed.', eventId });
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
  <section>
    <h2>Allowance</h2>
    <fieldset :disabled="!mayEdit">
      <div class="pair">
        <label class="field"
          ><span class="cap">A month, {{ rules.currency }}</span
          ><input
            :value="shown(rules.allowance)"
            inputmode="decimal"
            @change="put({ allowance: minorOf(text($event), rules.currency) ?? rules.allowance })"
        /></label>
        <label class="field"
          ><span class="cap">Of it for each user</span
          ><input
            :value="shown(rules.perUser)"
            inputmode="decimal"
            placeholder="no limit"
            @change="put({ perUser: minorOf(text($event), rules.currency) })"
        /></label>
      </div>
      <div class="pair">
        <label class="field"
          ><span class="cap">A point is worth, cents</span
          ><input
            :value="rules.pointWorth"
            type="number"
            min="0"
            max="1000"
            @change="put({ pointWorth: Number(text($event)) })"
        /></label>
        <label class="field"
          ><span class="cap">Enough, of 100</span
          ><input
            :value="rules.enough"
            type="number"
            min="0"
            max="100"
            @change="put({ enough: Number(text($event)) })"
        /></label>
      </div>
      <label class="tick"
        ><input
          type="checkbox"
          :checked="rules.automatic"
          @change="put({ automatic: ($event.target as HTMLInputElement).checked })"
        />
        Look up new leads by itself</label
      >
      <label class="tick"
        ><input
          type="checkbox"
          :checked="rules.fillBlanks"
          @change="put({ fillBlanks: ($event.target as HTMLInputElement).checked })"
        />
        Fill blanks by itself; else suggest</label
      >
      <label class="field"
        ><span class="cap">An answer is kept for, days</span
        ><input
          :value="rules.keepDays"
          type="number"
          min="0"
          max="3650"
          @change="put({ keepDays: Number(text($event)) })"
      /></label>
    </fieldset>
    <p v-if="!mayEdit" class="soft">A manager can change these.</p>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 6px 0 0;
  display: grid;
  gap: 8px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  align-items: end;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 26px;
}
</style>
