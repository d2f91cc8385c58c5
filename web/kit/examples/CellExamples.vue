<script setup lang="ts">
import { ref } from 'vue';
import type { CellKind, CellOption } from '../cells';
import EditCell from '../EditCell.vue';
import ExampleLine from './ExampleLine.vue';

interface Cell {
  kind: CellKind;
  label: string;
  value: string;
  help?: string;
  currency?: string;
  options?: CellOption[];
}
const STAGES = ['Heard out', 'Tried out', 'Proposal'].map((title) => ({ value: title, title }));
const cells = ref<Cell[]>([
  { kind: 'text', label: 'Job title', value: 'Head of Finance' },
  {
    kind: 'long',
    label: 'Background',
    value: 'Runs four shops by the harbour.',
    help: 'Everybody can read it.',
  },
  { kind: 'number', label: 'Employees', value: '120' },
  { kind: 'date', label: 'Expected', value: '2026-12-03' },
  { kind: 'money', label: 'Amount', value: '9500', currency: 'EUR' },
  { kind: 'phone', label: 'Mobile', value: '+447700900123' },
  { kind: 'choice', label: 'Stage', value: 'Tried out', options: STAGES },
  { kind: 'several', label: 'Technologies', value: 'ovens\nvans' },
  { kind: 'person', label: 'Reports to', value: '' },
  { kind: 'company', label: 'Parent company', value: '' },
]);
const save = (cell: Cell) => (text: string) => {
  cell.value = text;
  return Promise.resolve();
};
</script>

<template>
  <ExampleLine
    name="EditCell"
    says="A value edited where it stands: press it, then Enter or Save keeps it, Escape or Cancel leaves it."
    :value="cells.map(({ value }) => value)"
  >
    <div v-for="cell in cells" :key="cell.label" class="cell">
      <span class="cap">{{ cell.label }}</span>
      <EditCell
        :value="cell.value"
        :label="cell.label"
        :kind="cell.kind"
        :save="save(cell)"
        :version="1"
        v-bind="{
          ...(cell.help ? { help: cell.help } : {}),
          ...(cell.currency ? { currency: cell.currency } : {}),
          ...(cell.options ? { options: cell.options } : {}),
        }"
      />
    </div>
  </ExampleLine>
</template>

<style scoped>
.cell {
  display: grid;
  min-width: 180px;
}
</style>
