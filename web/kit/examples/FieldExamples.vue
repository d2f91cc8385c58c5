<script setup lang="ts">
import { ref } from 'vue';
import DateField from '../DateField.vue';
import FileButton from '../FileButton.vue';
import FileDrop from '../FileDrop.vue';
import type { RecordValue } from '../forms';
import MoneyField from '../MoneyField.vue';
import NumberField from '../NumberField.vue';
import RecordField from '../RecordField.vue';
import RichText from '../RichText.vue';
import RecordPicker from '../RecordPicker.vue';
import TagField from '../TagField.vue';
import TimeField from '../TimeField.vue';
import ExampleLine from './ExampleLine.vue';

const day = ref<string | null>('2026-12-03');
const time = ref('09:30');
const count = ref<number | null>(1250);
const sum = ref('1250.50');
const tags = ref(['fair', 'bakery']);
const company = ref<RecordValue | null>(null);
const picked = ref('');
const letter = ref('<p>Dear Ana,</p>');
const files = ref<string[]>([]);
</script>

<template>
  <ExampleLine name="DateField" says="A day, typed in words or picked from a month." :value="day">
    <DateField v-model="day" label="Expected" />
  </ExampleLine>
  <ExampleLine name="TimeField" says="A time of day, typed as people write it." :value="time">
    <TimeField v-model="time" label="At" />
  </ExampleLine>
  <ExampleLine name="NumberField" says="A number, with a decimal comma or point." :value="count">
    <NumberField v-model="count" label="Employees" />
  </ExampleLine>
  <ExampleLine name="MoneyField" says="A sum in one currency." :value="sum">
    <MoneyField v-model="sum" label="Amount" currency="EUR" />
  </ExampleLine>
  <ExampleLine name="RichText" says="Text with bold, lists, quotes and links." :value="letter">
    <RichText v-model="letter" label="Letter" />
  </ExampleLine>
  <ExampleLine name="TagField" says="Several tags; those in use are offered." :value="tags">
    <TagField v-model="tags" />
  </ExampleLine>
  <ExampleLine
    name="RecordField"
    says="A record in a form: an existing one, or the name of a new one."
    :value="company"
  >
    <RecordField v-model="company" kind="company" label="Company" may-be-new />
  </ExampleLine>
  <ExampleLine name="RecordPicker" says="Finds one record and hands it over at once." :value="picked">
    <RecordPicker kind="person" label="Find a person" @pick="picked = $event.label" />
  </ExampleLine>
  <ExampleLine name="FileButton" says="One file, chosen with a button." :value="files">
    <FileButton label="Upload a file" @take="files = [$event.name]">Upload</FileButton>
  </ExampleLine>
  <ExampleLine name="FileDrop" says="Files that are dropped or chosen." :value="files">
    <FileDrop
      accept=".csv"
      multiple
      hint="CSV files"
      @take="files = [...($event ?? [])].map(({ name }) => name)"
    >
      Drop a file here, or <u>choose one</u>
    </FileDrop>
  </ExampleLine>
</template>
