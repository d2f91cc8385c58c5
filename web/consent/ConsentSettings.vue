<script setup lang="ts">
import type { Purpose, Topic } from '@emporikon/contract/consent';
import { computed, ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { shownCount } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';
import SubscriberPanel from './SubscriberPanel.vue';
import TextsPanel from './TextsPanel.vue';
import TrackingRules from './TrackingRules.vue';

/** What people can agree to be written to about, and the topics they subscribe to. */
const session = useSession();
const run = useTaskAction();
const mayChange = computed(() => session.may('settings.channels'));
/** In one, so that nothing on the page moves when the second comes. */
const { data, error, load } = useFetched(async () => {
  const [{ items }, rules] = await Promise.all([api('GET /api/purposes'), api('GET /api/tracking-rules')]);
  return { items, rules };
}, ['purposes', 'topics', 'consents', 'tracking_rules']);
const purposes = computed(() => data.value?.items ?? []);
const mailPurposes = computed(() => purposes.value.filter(({ kind }) => kind === 'mail'));
const editing = ref<Purpose | Topic | null>(null);
const reading = ref<Topic | null>(null);
const name = ref('');
const topicName = ref('');
const topicOf = ref<string | null>(null);
const isByArea = ref(false);

const isTopic = (one: Purpose | Topic): one is Topic => 'purposeId' in one;
type Patch = Partial<Pick<Purpose, 'name' | 'words' | 'isDefault' | 'translations'>> & { byArea?: boolean };
async function change(one: Purpose | Topic, { isDefault, byArea, ...texts }: Patch): Promise<void> {
  const params = { id: one.id };
  const { version } = one;
  const done = await run(`Changed ${one.name}.`, () =>
    isTopic(one)
      ? api('PATCH /api/topics/:id', { params, body: { version, byArea, ...texts } })
      : api('PATCH /api/purposes/:id', { params, body: { version, isDefault, ...texts } }),
  );
  if (done) editing.value = null;
  await load();
}
async function retire(one: Purpose | Topic): Promise<void> {
  const params = { id: one.id };
  await run(`${one.name} is no longer offered.`, () =>
    isTopic(one) ? api('DELETE /api/topics/:id', { params }) : api('DELETE /api/purposes/:id', { params }),
  );
  await load();
}
async function addPurpose(): Promise<void> {
  const body = { name: name.value.trim() };
  if (await run(`Added ${body.name}.`, () => api('POST /api/purposes', { body }))) name.value = '';
  await load();
}
async function addTopic(): Promise<void> {
  const purposeId = topicOf.value ?? mailPurposes.value[0]?.id ?? '';
  const body = { purposeId, name: topicName.value.trim(), byArea: isByArea.value };
  if (await run(`Added ${body.name}.`, () => api('POST /api/topics', { body }))) topicName.value = '';
  await load();
}
const agreedWords = (one: Purpose | Topic): string => `${shownCount(one.agreed)} agreed`;
</script>

<template>
  <PageHead
    title="Consent and topics"
    help="Mailings only go to people who agreed to their purpose. People choose purposes and topics on a page of their own, in their language."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-if="!data"><span v-for="n in 5" :key="n" class="ghost"></span></template>
  <section v-for="purpose in purposes" :key="purpose.id" class="purpose" :aria-label="purpose.name">
    <div class="head">
      <h2>{{ purpose.name }}</h2>
      <span class="soft">{{ agreedWords(purpose) }}</span>
      <template v-if="mayChange">
        <v-btn class="word" :aria-label="`Edit ${purpose.name}`" @click="editing = purpose">Edit</v-btn>
        <v-btn
          v-if="purpose.kind === 'mail' && mailPurposes.length > 1"
          class="word"
          :aria-label="`Retire ${purpose.name}`"
          @click="retire(purpose)"
          >Retire</v-btn
        >
      </template>
    </div>
    <p class="sentence">{{ purpose.words || 'No sentence yet.' }}</p>
    <v-checkbox
      v-if="purpose.kind === 'mail'"
      :model-value="purpose.isDefault"
      :disabled="!mayChange"
      label="Used where a form or an import names no purpose"
      :aria-label="`Used where a form or an import names no purpose: ${purpose.name}`"
      @update:model-value="change(purpose, { isDefault: $event === true })"
    />
    <TrackingRules
      v-if="data && purpose.kind === 'tracking'"
      :rules="data.rules"
      :may-change="mayChange"
      @changed="load"
    />
    <div v-for="topic in purpose.topics" :key="topic.id" class="topic">
      <span class="named">{{ topic.name }}</span>
      <v-btn class="word" :aria-label="`${agreedWords(topic)} to ${topic.name}`" @click="reading = topic">{{
        agreedWords(topic)
      }}</v-btn>
      <v-checkbox
        :model-value="topic.byArea"
        :disabled="!mayChange"
        label="By area"
        :aria-label="`By area: ${topic.name}`"
        @update:model-value="change(topic, { byArea: $event === true })"
      />
      <template v-if="mayChange">
        <v-btn class="word" :aria-label="`Edit ${topic.name}`" @click="editing = topic">Edit</v-btn>
        <v-btn class="word" :aria-label="`Retire ${topic.name}`" @click="retire(topic)">Retire</v-btn>
      </template>
    </div>
  </section>
  <template v-if="data && mayChange">
    <form class="make" aria-label="Add a topic" @submit.prevent="addTopic">
      <v-text-field v-model="topicName" label="Topic" maxlength="80" placeholder="Test rides near you" />
      <v-select
        :model-value="topicOf ?? mailPurposes[0]?.id"
        label="Purpose"
        :items="mailPurposes.map((purpose) => ({ value: purpose.id, title: purpose.name }))"
        @update:model-value="topicOf = $event"
      />
      <v-checkbox v-model="isByArea" label="By area" />
      <v-btn class="fill" type="submit" :disabled="!topicName.trim()">Add a topic</v-btn>
    </form>
    <form class="make" aria-label="Add a purpose" @submit.prevent="addPurpose">
      <v-text-field v-model="name" label="Purpose" maxlength="80" placeholder="Invitations" />
      <v-btn class="quiet" type="submit" :disabled="!name.trim()">Add a purpose</v-btn>
    </form>
  </template>
  <p v-if="data && session.may('people.export')">
    <a href="/api/consents.csv" class="quiet-link" download>Save every statement as a table</a>
  </p>
  <TextsPanel
    v-if="editing"
    :key="editing.id"
    :one="editing"
    @close="editing = null"
    @save="editing && change(editing, $event)"
  />
  <SubscriberPanel v-else-if="reading" :key="reading.id" :topic="reading" @close="reading = null" />
</template>

<style scoped>
.purpose {
  max-width: 760px;
  padding: 10px 0 12px;
  border-top: 1px solid var(--rule);
}
.head,
.topic {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
}
.topic {
  align-items: center;
  padding: 4px 0 4px 18px;
  border-top: 1px solid var(--rule2);
}
.named {
  font-weight: 600;
}
.sentence {
  margin: 2px 0 0;
}
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 760px;
  padding-top: 14px;
}
</style>
