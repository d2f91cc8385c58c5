<script setup lang="ts">
import VisibilityLine from '../visibility/VisibilityLine.vue';
import type { FilingInput } from '@emporikon/contract/filing';
import type { z } from 'zod';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { api } from '../shell/api';
import { clock, counted, day, nameList } from '../shell/format';
import { useFetched } from '../shell/live';
import { safeHref } from '../shell/links';
import { useUndo } from '../shell/undo';
import { tellsOfCompanyAlone } from '@emporikon/core/reading/companyPage';
import WriteButton from '../letters/WriteButton.vue';
import AlsoOn from './AlsoOn.vue';
import FilingOptions from './FilingOptions.vue';
import { asInput, KIND_NAMES, type FilingChoices } from './choices';
import MessageBody from './MessageBody.vue';
import ReadingPane from './ReadingPane.vue';

/** Only a page that was clipped has them. */
const Conversation = defineAsyncComponent(() => import('./Conversation.vue'));
const ListedPeople = defineAsyncComponent(() => import('./ListedPeople.vue'));

const props = defineProps<{ id: string }>();
const emit = defineEmits<{ filed: []; back: [] }>();
const undo = useUndo();
const {
  data: capture,
  error,
  load,
} = useFetched(
  () => api('GET /api/captures/:id', { params: { id: props.id } }),
  ['captures', 'claims', 'intents', 'people', 'companies', 'contact_points', 'leads', 'deals'],
);
const lit = ref<string | null>(null);
const isBusy = ref(false);
const reading = ref<InstanceType<typeof ReadingPane> | null>(null);
/** Whom it is filed on: an id, `new`, or nobody chosen yet while the verdict is only a maybe. */
const person = ref<string | null>(null);
const company = ref<string | null>(null);
const asNewLead = ref(false);
const also = ref<z.output<typeof FilingInput>['also']>();
/** A text that is read at a glance needs no digest above it. */
const LONG = 700;
const withMove = ref(true);
/** What a rep decides beside who it is: owner, tags, deal, note. */
const choices = ref<FilingChoices>({ as: null, tags: [], note: '' });

watch(
  () => capture.value?.verdict.person,
  (verdict, before) => {
    if (!verdict || (before && verdict.matches[0]?.id === before.matches[0]?.id)) return;
    person.value =
      verdict.kind === 'new' ? 'new' : verdict.kind === 'same' ? (verdict.matches[0]?.id ?? 'new') : null;
  },
  { immediate: true },
);

const MOST_NAMED = 3;
/** Who it was sent to, copies included. */
const toWords = computed(() => {
  const names = (capture.value?.to ?? []).map(({ name, address }) => name || address);
  const rest = names.length - MOST_NAMED;
  return nameList(rest > 0 ? [...names.slice(0, MOST_NAMED), `${rest} more`] : names);
});

/** A page of many people has no one person it is of: they are filed from the list. */
const isList = computed(() => (capture.value?.listed.length ?? 0) > 0);
/** A page of a company and of nobody in it makes the company alone. */
const isOfCompany = computed(() => capture.value !== null && tellsOfCompanyAlone(capture.value));
const canFile = computed(
  () =>
    capture.value?.state === 'waiting' &&
    !isList.value &&
    (person.value !== null || isOfCompany.value) &&
    !isBusy.value,
);

async function act(work: () => Promise<void>): Promise<void> {
  if (isBusy.value) return;
  isBusy.value = true;
  try {
    await work();
  } catch (problem) {
    undo.fail(problem);
    await load();
  } finally {
    isBusy.value = false;
  }
}

const fileCompany = (): void =>
  void act(async () => {
    const filed = await api('POST /api/captures/:id/company', {
      params: { id: props.id },
      body: { company: company.value && company.value !== 'none' ? company.value : undefined },
    });
    undo.tell({
      text: `Filed: ${filed.company.name}.`,
      eventId: filed.eventId,
      links: [{ text: 'Open the company', to: `/companies/${filed.company.id}` }],
    });
    emit('filed');
  });

function file(): void {
  const { value } = capture;
  if (!value || value.state !== 'waiting' || isList.value) return;
  if (isOfCompany.value) return fileCompany();
  if (person.value === null) {
    undo.tell({
      text: 'Choose who it is first: somebody you know, or somebody new.',
      eventId: null,
      wrong: true,
    });
    reading.value?.askWho();
    return;
  }
  const body: z.input<typeof FilingInput> = {
    person: person.value,
    company: company.value ?? undefined,
    lead: asNewLead.value ? 'new' : undefined,
    nextMove: withMove.value ? value.proposedMove : null,
    also: also.value,
    ...asInput(choices.value),
  };
  void act(async () => {
    const filed = await api('POST /api/captures/:id/filing', { params: { id: props.id }, body });
    const links = [
      ...(filed.lead ? [{ text: 'Open the lead', to: `/leads/${filed.lead.id}` }] : []),
      ...(filed.deal ? [{ text: 'Open the deal', to: `/deals/${filed.deal.id}` }] : []),
      { text: 'Open the dossier', to: `/people/${filed.person.id}` },
    ];
    undo.tell({
      text: `Filed: ${[filed.person.name, filed.company?.name].filter(Boolean).join(', ')}${
        filed.also.length ? `; also ${nameList(filed.also)}` : ''
      }.`,
      eventId: filed.eventId,
      links,
    });
    emit('filed');
  });
}

const setAside = (): void =>
  void act(async () => {
    if (capture.value?.state !== 'waiting') return;
    const { eventId } = await api('POST /api/captures/:id/set-aside', { params: { id: props.id } });
    undo.tell({ text: `Set aside: ${capture.value.from}.`, eventId });
    emit('filed');
  });

const bringBack = (): void =>
  void act(async () => {
    const { eventId } = await api('POST /api/captures/bring-back', { body: { ids: [props.id] } });
    undo.tell({
      text: `Back in Arrivals: ${capture.value?.from ?? ''}.`,
      eventId,
      links: [{ text: 'Open it', to: `/arrivals/${props.id}` }],
    });
    emit('filed');
  });

/** Asked for before the reading is here, it is done when it comes: keys are typed faster than pages load. */
let isCorrectionWanted = false;
function correctFirst(): void {
  isCorrectionWanted = reading.value === null;
  reading.value?.correctFirst();
}
watch(reading, (pane) => {
  if (pane && isCorrectionWanted) correctFirst();
});

defineExpose({ file, setAside, correctFirst });
</script>

<template>
  <section class="raw" aria-label="The message">
    <template v-if="capture">
      <v-btn class="word back" @click="emit('back')">Back to what came in</v-btn>
      <div class="cap">
        {{ KIND_NAMES[capture.kind] }} · {{ day(capture.sentAt ?? capture.receivedAt) }}
        {{ clock(capture.sentAt ?? capture.receivedAt)
        }}<template v-if="capture.to.length"> · to {{ toWords }}</template> ·
        <VisibilityLine :id="capture.id" :key="capture.id" kind="captures" />
      </div>
      <div v-if="capture.kind === 'email'" class="answers">
        <WriteButton :letter="{ answers: { captureId: id, how: 'reply' } }">Reply</WriteButton>
        <WriteButton v-if="capture.to.length > 1" :letter="{ answers: { captureId: id, how: 'reply all' } }"
          >Reply to all</WriteButton
        >
        <WriteButton :letter="{ answers: { captureId: id, how: 'forward' } }">Forward</WriteButton>
      </div>
      <p v-if="capture.digest && capture.text.length > LONG" class="digest">
        {{ capture.digest }}
        <span v-if="capture.tone && capture.tone !== 'neutral'" class="soft">Sounds {{ capture.tone }}.</span>
      </p>
      <a
        v-if="capture.page"
        class="quiet-link cap"
        :href="safeHref(capture.page.url)"
        rel="noreferrer"
        target="_blank"
        >{{ capture.page.url }}</a
      >
      <Conversation v-if="capture.page?.kind === 'messages'" :said="capture.page.conversation" />
      <ListedPeople
        v-else-if="isList"
        :id="id"
        :people="capture.listed"
        :is-open="capture.state !== 'set aside'"
        @filed="load"
      />
      <MessageBody v-else v-model:lit="lit" :capture="capture" />
    </template>
    <p v-else-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else
      ><span class="ghost" style="width: 40%"></span><span class="ghost"></span
      ><span class="ghost" style="width: 80%"></span
    ></template>
  </section>
  <section class="read" aria-label="What we read">
    <template v-if="capture && isList">
      <h2>A list of {{ counted(capture.listed.length, 'person', 'people') }}</h2>
      <p class="soft">
        Choose who to file. Each becomes a person with the tags you give. People already in your records keep
        what they have.
      </p>
      <div v-if="capture.state === 'waiting'" class="do">
        <v-btn class="quiet" @click="setAside">Set aside <span class="hint">x</span></v-btn>
      </div>
      <v-btn v-else-if="capture.state === 'set aside'" class="fill" @click="bringBack">Bring it back</v-btn>
    </template>
    <ReadingPane
      v-else-if="capture"
      ref="reading"
      v-model:lit="lit"
      v-model:person="person"
      v-model:company="company"
      v-model:as-new-lead="asNewLead"
      v-model:with-move="withMove"
      :capture="capture"
      @changed="load"
    >
      <template #also>
        <AlsoOn v-model="also" :people="capture.onMessage" :is-open="capture.state === 'waiting'" />
      </template>
      <FilingOptions
        v-if="capture.state === 'waiting' && !isOfCompany"
        v-model="choices"
        :known="capture.known"
      />
      <div v-if="capture.state === 'waiting'" class="do">
        <v-btn class="fill" :disabled="!canFile" @click="file">File it <span class="hint">Enter</span></v-btn>
        <v-btn class="quiet" @click="setAside">Set aside <span class="hint">x</span></v-btn>
      </div>
      <div v-else-if="capture.state === 'set aside'" class="do">
        <v-btn class="fill" @click="bringBack">Bring it back</v-btn>
      </div>
    </ReadingPane>
    <template v-else
      ><span class="ghost" style="width: 60%"></span><span class="ghost"></span><span class="ghost"></span
    ></template>
  </section>
</template>

<style scoped>
.raw {
  background: var(--sheet);
  padding: 16px 28px;
  overflow-y: auto;
  border-right: 1px solid var(--rule);
}
.read {
  padding: 14px 20px;
  overflow-y: auto;
}
.do {
  display: flex;
  gap: 10px;
  margin-top: 14px;
  position: sticky;
  z-index: 3;
  bottom: -14px;
  padding: 8px 0 14px;
  background: var(--ground);
}
.hint {
  font-weight: 500;
  margin-left: 8px;
  font-size: 12px;
}
.answers {
  display: flex;
  gap: 14px;
}
.digest {
  margin: 6px 0 8px;
  padding-left: 10px;
  border-left: 2px solid var(--theirs);
}
.back {
  display: none;
}
@media (max-width: 800px) {
  .back {
    display: inline-block;
  }
  .do {
    bottom: 58px;
  }
  .raw {
    border: 0;
    padding: 12px 14px;
  }
}
</style>
