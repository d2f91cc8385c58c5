<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import { ref } from 'vue';
import { z } from 'zod';
import { useUndo } from '../../shell/undo';
import ChannelIcon from '../ChannelIcon.vue';
import FilterBar from '../FilterBar.vue';
import FormDialog from '../FormDialog.vue';
import type { FormField } from '../forms';
import { CHANNELS, type Channel } from '../icons';
import PageHead from '../PageHead.vue';
import Progress from '../Progress.vue';
import UnderWay from '../UnderWay.vue';
import RemovableRows from '../RemovableRows.vue';
import RetireButton from '../RetireButton.vue';
import SidePanel from '../SidePanel.vue';
import SourceMark from '../SourceMark.vue';
import ExampleLine from './ExampleLine.vue';

const undo = useUndo();
const days = ref([
  { id: '1', cells: ['Thu, 24 Dec 2026', 'Stocktaking'] },
  { id: '2', cells: ['Fri, 7 May 2027', 'Outing'] },
]);
const town = ref('');
const isOpen = ref(false);
const isBeside = ref(false);
const isActive = ref(true);
const done = ref(40);
const saved = ref<unknown>(null);
const FIELDS: FormField[] = [
  { name: 'name', label: 'Name', kind: 'text', isRequired: true, help: 'As the town writes it.' },
  { name: 'email', label: 'Email', kind: 'email' },
  { name: 'day', label: 'Opens on', kind: 'date' },
];
const SCHEMA = z.object({ name: z.string().trim().min(1, 'needs a name'), email: z.email().optional() });
function keep(body: unknown): Promise<void> {
  saved.value = body;
  isOpen.value = false;
  return Promise.resolve();
}
const claim = (byHand: boolean, lookUpId: string | null): Claim => ({
  id: '01890000-0000-7000-8000-000000000000',
  field: 'jobTitle',
  value: 'Baker',
  normalized: null,
  type: null,
  confidence: 0.9,
  span: null,
  source: byHand ? 'Pell Garrick' : 'the signature of a message',
  byHand,
  fate: 'current',
  captureId: null,
  lookUpId,
  at: '2026-11-02T09:30:00.000Z',
  actor: byHand ? 'Pell Garrick' : null,
});
</script>

<template>
  <ExampleLine name="PageHead" says="The title of a page, what belongs beside it, and a sentence of help.">
    <PageHead title="Prices" help="What you sell, and for how much." />
  </ExampleLine>
  <ExampleLine
    name="FilterBar"
    says="The filters of a list; on a phone they fold behind one word."
    :value="town"
  >
    <FilterBar :set="[town]">
      <v-select
        v-model="town"
        class="inline-edit"
        aria-label="Town"
        :items="[{ value: '', title: 'Any town' }, 'Braga', 'Utrecht']"
      />
    </FilterBar>
  </ExampleLine>
  <ExampleLine name="SourceMark" says="Where a value comes from: read, entered by hand, or looked up.">
    <span>Baker <SourceMark :claim="claim(false, null)" /></span>
    <span>Baker <SourceMark :claim="claim(true, null)" /></span>
    <span>Baker <SourceMark :claim="claim(false, '01890000-0000-7000-8000-000000000001')" /></span>
  </ExampleLine>
  <ExampleLine name="ChannelIcon" says="What came in, or what kind of entry it is.">
    <span v-for="channel in Object.keys(CHANNELS) as Channel[]" :key="channel"
      ><ChannelIcon :channel="channel" is-beside-word /> {{ CHANNELS[channel].word }}</span
    >
  </ExampleLine>
  <ExampleLine
    name="FormDialog"
    says="A short form on a schema of the contract, kept on the device until it is sent."
    :value="saved"
  >
    <v-btn class="quiet" @click="isOpen = true">Open the form</v-btn>
    <FormDialog
      v-if="isOpen"
      title="New bakery"
      submit="Add the bakery"
      draft="example"
      :fields="FIELDS"
      :schema="SCHEMA"
      :to-body="(values) => ({ name: values.name, email: values.email || undefined })"
      :save="keep"
      @close="isOpen = false"
    />
  </ExampleLine>
  <ExampleLine name="SidePanel" says="Something that opens beside what is being written.">
    <v-btn class="quiet" @click="isBeside = true">Open beside</v-btn>
    <SidePanel v-if="isBeside" label="A call" @close="isBeside = false"
      ><p>The page stays where it is.</p></SidePanel
    >
  </ExampleLine>
  <ExampleLine name="Undo" says="What was just done, with a way back.">
    <v-btn class="quiet" @click="undo.tell({ text: 'Moved to Proposal.', eventId: null })">Say it</v-btn>
  </ExampleLine>
  <ExampleLine name="UnderWay" says="Work in the background, at the foot of whatever page is open.">
    <div class="foot">
      <UnderWay label="Example" title="Changing 1,200 people" :done="done" :total="100" />
    </div>
  </ExampleLine>
  <ExampleLine name="Progress" says="How far something is that takes more than two seconds.">
    <Progress class="bar" :value="done" :max="100" label="Imported" />
    <v-btn class="quiet" @click="done = (done + 20) % 120">Go on</v-btn>
  </ExampleLine>
  <ExampleLine name="RetireButton" says="Takes something out of use, and back into it." :value="isActive">
    <RetireButton name="Website" :active="isActive" @turn="isActive = $event" />
  </ExampleLine>
  <ExampleLine
    name="RemovableRows"
    says="Short settings, a line each, that can be removed."
    :value="days.length"
  >
    <RemovableRows
      :heads="['Day', 'Name']"
      :rows="days"
      can-remove
      empty="No closed days yet."
      @remove="(id) => (days = days.filter((row) => row.id !== id))"
    />
  </ExampleLine>
</template>

<style scoped>
.bar {
  width: 280px;
}
.foot {
  height: 200px;
  transform: translate(0);
}
</style>
