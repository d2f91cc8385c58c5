<script setup lang="ts">
import type { PersonConsent } from '@emporikon/contract/consent';
import { computed, ref } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useTaskAction } from '../tasks/useTaskAction';
import { placesWords, reachWords, stateWords, wayWords } from './words';

/** What somebody agreed to be written to about, how and when; what they say now is noted here. */
const props = defineProps<{ id: string; name: string }>();
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const undo = useUndo();
const run = useTaskAction();
const params = computed(() => ({ id: props.id }));
const { data, error } = useFetched(
  () => api('GET /api/people/:id/consent', { params: params.value }),
  ['consents', 'contact_points', 'purposes', 'topics'],
  () => [props.id],
);
const { data: areas } = useFetched(() => api('GET /api/areas'), ['areas']);
const mayChange = computed(() => session.may('people.change'));

type Purpose = PersonConsent['purposes'][number];
interface Line {
  key: string;
  name: string;
  purposeId: string;
  topicId: string | undefined;
  state: Purpose['state'];
  words: string;
}
const lines = computed<Line[]>(() =>
  (data.value?.purposes ?? []).flatMap((purpose) => [
    line(purpose, purpose, undefined, ''),
    ...purpose.topics.map((topic) =>
      line(purpose, topic, topic.id, placesWords(topic, areas.value?.items ?? [])),
    ),
  ]),
);
const line = (
  purpose: Purpose,
  { id, name, state, at, how }: Pick<Purpose, 'id' | 'name' | 'state' | 'at' | 'how'>,
  topicId: string | undefined,
  where: string,
): Line => ({
  ...{ key: id, name, purposeId: purpose.id, topicId, state },
  words: [stateWords(state), where, at ? when(at) : '', how ? wayWords(how, state) : '']
    .filter(Boolean)
    .join(' · '),
});
const unasked = computed(() =>
  (data.value?.purposes ?? []).filter(({ state }) => state === null || state === 'unconfirmed'),
);

/** Which line an agreement is being noted on, and how they agreed. */
const agreeing = ref<string | null>(null);
const how = ref('');
function begin(key: string): void {
  agreeing.value = key;
  how.value = '';
}
async function note({ purposeId, topicId, name }: Line, state: 'agreed' | 'withdrawn'): Promise<void> {
  const words = state === 'agreed' ? how.value.trim() : '';
  const body = { purposeId, ...(topicId ? { topicId } : {}), state, words };
  const done = await run(`${name}: ${stateWords(state)}.`, () =>
    api('POST /api/people/:id/consent', { params: params.value, body }),
  );
  if (done) agreeing.value = null;
}
async function mail(purposeIds: string[]): Promise<void> {
  try {
    await api('POST /api/people/:id/consent-mail', { params: params.value, body: { purposeIds } });
    undo.tell({ text: 'Their page is on its way to them by mail.', eventId: null });
  } catch (problem) {
    undo.fail(problem);
  }
}
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(data.value?.link ?? '');
    undo.tell({ text: 'Copied. Whoever has this link can change what they receive.', eventId: null });
  } catch (problem) {
    undo.fail(problem);
  }
}
const markGood = (id: string, version: number): Promise<boolean> =>
  run('Marked as working.', () =>
    api('PATCH /api/contacts/:id', { params: { id }, body: { version, reach: 'good' } }),
  );
</script>

<template>
  <SidePanel label="Consent" @close="emit('close')">
    <div class="consent">
      <h2>What we may write to {{ name }} about</h2>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="!data"><span v-for="n in 5" :key="n" class="ghost"></span></template>
      <template v-else>
        <div v-for="one in lines" :key="one.key" class="line" :class="{ topic: one.topicId }">
          <span class="named">{{ one.name }}</span>
          <span class="soft said" :class="one.state">{{ one.words }}</span>
          <template v-if="mayChange">
            <v-btn
              v-if="one.state !== 'agreed' && agreeing !== one.key"
              class="word"
              :aria-label="`They agreed to ${one.name}`"
              @click="begin(one.key)"
              >They agreed</v-btn
            >
            <v-btn
              v-if="one.state !== 'withdrawn'"
              class="word"
              :aria-label="`They withdrew from ${one.name}`"
              @click="note(one, 'withdrawn')"
              >They withdrew</v-btn
            >
          </template>
          <form v-if="agreeing === one.key" class="agree" @submit.prevent="note(one, 'agreed')">
            <v-text-field
              v-model="how"
              label="How they agreed"
              placeholder="By phone on Monday"
              maxlength="1000"
              autofocus
            />
            <v-btn class="fill" type="submit" :disabled="!how.trim()">Save</v-btn>
            <v-btn class="quiet" @click="agreeing = null">Cancel</v-btn>
          </form>
        </div>
        <p class="do">
          <v-btn
            v-if="mayChange && unasked.length"
            class="quiet"
            @click="mail(unasked.map((purpose) => purpose.id))"
            >Ask by mail</v-btn
          >
          <v-btn v-if="mayChange" class="quiet" @click="mail([])">Mail them their page</v-btn>
          <v-btn class="word" @click="copy">Copy the link to their page</v-btn>
        </p>
        <template v-if="data.addresses.length">
          <h3>Addresses</h3>
          <div v-for="one in data.addresses" :key="one.contactId" class="line">
            <span class="named">{{ one.address }}</span>
            <span :class="one.reach === 'good' ? 'soft' : 'wrong'" :title="one.words"
              >{{ reachWords(one.reach) }}<template v-if="one.at"> · {{ when(one.at) }}</template></span
            >
            <v-btn
              v-if="mayChange && one.reach !== 'good'"
              class="word"
              @click="markGood(one.contactId, one.version)"
              >Mark as working</v-btn
            >
          </div>
        </template>
        <h3>What they said</h3>
        <p v-if="!data.history.length" class="empty">Nothing yet.</p>
        <div v-for="one in data.history" :key="one.id" class="past">
          <span class="num soft">{{ when(one.at) }}</span>
          <span
            ><b>{{ one.topic ?? one.purpose }}</b> {{ stateWords(one.state) }},
            {{ wayWords(one.how, one.state) }}<template v-if="one.by"> by {{ one.by }}</template
            ><span v-if="one.words" class="soft words">“{{ one.words }}”</span
            ><span v-if="one.source" class="soft words">{{ one.source }}</span></span
          >
        </div>
        <p v-if="data.history.length && session.may('people.export')">
          <a :href="`/api/people/${id}/consent.csv`" class="quiet-link" download>Save as a table</a>
        </p>
      </template>
    </div>
  </SidePanel>
</template>

<style scoped>
.consent {
  padding: 14px 24px 24px;
}
h3 {
  margin: 18px 0 4px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--rule2);
}
.topic {
  padding-left: 18px;
}
.named {
  font-weight: 600;
}
.said {
  flex: 1;
}
.said.agreed {
  color: var(--theirs);
}
.said.unconfirmed {
  color: var(--wait);
}
.said.withdrawn {
  color: var(--iron);
}
.agree {
  display: flex;
  flex: 1 0 100%;
  gap: 10px;
  align-items: end;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 12px 0 0;
}
.past {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 10px;
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
.words {
  display: block;
}
</style>
