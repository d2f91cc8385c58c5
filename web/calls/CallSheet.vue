<script setup lang="ts">
import type { CallDetail, Caller } from '@emporikon/contract/calls';
import type { SheetMove } from '@emporikon/core/ledger/callSheet';
import { computed, nextTick, onMounted, reactive, ref, useTemplateRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { clock } from '../shell/format';
import { minorOf } from '@emporikon/core/ledger/sum';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import CallerCard from './CallerCard.vue';
import DeliveryLine from '../outbox/DeliveryLine.vue';
import DealLine, { type SheetDeal } from './DealLine.vue';
import MoveLines from './MoveLines.vue';
import { cutLit } from './lit';
import { useSheet } from './useSheet';

const props = defineProps<{ id: string }>();
const emit = defineEmits<{ saved: [personId: string] }>();
const route = useRoute();
const session = useSession();
const undo = useUndo();
const isLoose = computed(() => props.id === 'new');
const { data: call } = useFetched(
  (): Promise<CallDetail | null> =>
    isLoose.value ? Promise.resolve(null) : api('GET /api/calls/:id', { params: { id: props.id } }),
  ['calls', 'people', 'contact_points'],
);
const text = ref('');
const field = useTemplateRef('field');
const light = ref<HTMLElement | null>(null);
const { data: products } = useFetched(() => api('GET /api/products'), ['products']);
const goods = computed(() => (products.value?.items ?? []).map(({ name }) => name));
const { reading } = useSheet(text, goods);
const person = ref<string>('new');
/** Whether somebody said who it is; then nothing that is read chooses another. */
const isChosen = ref(false);
const callers = ref<Caller[]>([]);
const verdict = ref<'same' | 'maybe' | 'new'>('new');
const isBusy = ref(false);
const error = ref('');
const KEY_FIELDS = ['fullName', 'companyName', 'phone', 'email'] as const;
const FIELDS = [
  ['fullName', 'Name'],
  ['jobTitle', 'Job title'],
  ['companyName', 'Company'],
  ['phone', 'Phone'],
  ['email', 'Email'],
  ['address', 'Address'],
] as const;
/** What a hand wrote over the reading; everything else follows the words as they are typed. */
const edited = reactive<Partial<Record<string, string>>>({});
const deal = ref<SheetDeal | null>(null);
const moves = ref<SheetMove[]>([]);
const stretches = computed(() => cutLit(text.value, reading.value?.lit ?? []));

const valueOf = (key: (typeof FIELDS)[number][0]): string =>
  edited[key] ??
  (reading.value?.person[key] ||
    (key === 'phone' && isLoose.value === false ? (call.value?.number ? call.value.written : '') : ''));
const isWorthAsking = (key: (typeof FIELDS)[number][0]): boolean =>
  (KEY_FIELDS as readonly string[]).includes(key) && person.value === 'new' && !valueOf(key);
const partOf = (key: 'background' | 'said'): string => edited[key] ?? reading.value?.[key] ?? '';
const known = computed(() => callers.value.find((one) => one.person.id === person.value));
const openDeals = computed(() => known.value?.deals ?? []);
const openLeads = computed(() => known.value?.leads ?? []);

watch(call, (now, before) => {
  if (!now) return;
  if (!before && now.note && !text.value) text.value = now.note;
  if (!now.callers.length) return;
  callers.value = now.callers;
  verdict.value = now.callers.length === 1 ? 'same' : 'maybe';
  if (now.callers.length === 1 && person.value === 'new') person.value = now.callers[0]?.person.id ?? 'new';
});

let timer: ReturnType<typeof setTimeout> | undefined;
/**
 * A part of a name or number, where no whole name was read. Where it stands alone it is meant to say who it is; at the
 * beginning of a sentence it may be any word, and only proposes.
 */
const opening = computed(() => {
  const [first = ''] = text.value.trim().split(/[.,;:\n]/);
  const words = (valueOf('fullName') || first).trim().split(/\s+/);
  const [part = ''] = words;
  if (part.length < 3 || (valueOf('fullName') && words.length > 1)) return { part: '', isAlone: false };
  return { part, isAlone: words.length === 1 };
});
const asked = computed(() => JSON.stringify([...FIELDS.map(([key]) => valueOf(key)), opening.value.part]));
watch(asked, () => {
  clearTimeout(timer);
  timer = setTimeout(() => void recognise(), 120);
});

/** Who it may be, from all that is known so far: the number that rings and the words that were typed. */
async function recognise(): Promise<void> {
  const [fullName, companyName, phone, email] = [
    valueOf('fullName'),
    valueOf('companyName'),
    valueOf('phone'),
    valueOf('email'),
  ];
  if (!fullName && !phone && !email && !opening.value.part) return;
  const answer = await api('POST /api/recognise', {
    body: {
      fullName,
      companyName,
      phones: phone ? [phone] : [],
      emails: email ? [email] : [],
      part: opening.value.part,
    },
  }).catch(() => null);
  if (!answer) return;
  callers.value = answer.callers;
  verdict.value = answer.byPart ? 'maybe' : answer.person.kind;
  if (answer.byPart && !isChosen.value && opening.value.isAlone)
    person.value = answer.callers[0]?.person.id ?? 'new';
  else if (answer.byPart) return;
  else if (answer.person.kind === 'same') person.value = answer.person.matches[0]?.id ?? 'new';
  else if (!answer.callers.some((caller) => caller.person.id === person.value)) person.value = 'new';
}

/** What is typed while talking is kept at once, so that a closed tab costs nothing. */
let keeper: ReturnType<typeof setTimeout> | undefined;
watch(text, (note) => {
  if (isLoose.value || !note) return;
  clearTimeout(keeper);
  keeper = setTimeout(
    () =>
      void api('PATCH /api/calls/:id', { params: { id: props.id }, body: { note } }).catch(() => undefined),
    600,
  );
});

onMounted(async () => {
  const given = route.query.person;
  if (typeof given === 'string') {
    person.value = given;
    edited.fullName = String(route.query.name ?? '');
  }
  await nextTick();
  field.value?.focus();
});

async function save(): Promise<void> {
  if (isBusy.value || !reading.value) return;
  isBusy.value = true;
  error.value = '';
  try {
    const saved = await api('POST /api/call-sheets', {
      body: {
        callId: isLoose.value ? null : props.id,
        text: text.value,
        person: person.value,
        ...Object.fromEntries(FIELDS.map(([key]) => [key, valueOf(key) || null])),
        background: partOf('background'),
        said: partOf('said'),
        moves: moves.value.map(({ title, kind, dueAt, endAt, allDay }) => ({
          title,
          kind,
          dueAt,
          endAt,
          allDay,
        })),
        deal: deal.value
          ? {
              id: deal.value.id,
              leadId: deal.value.leadId,
              title: deal.value.title,
              amountMinor: minorOf(deal.value.amount, deal.value.currency),
              currency: deal.value.currency,
              expectedClose: deal.value.expectedClose,
            }
          : null,
      },
    });
    undo.tell({
      text: `Saved the call with ${saved.person.name}.`,
      eventId: saved.eventId,
      links: [
        ...(saved.deal ? [{ text: 'Open the deal', to: `/deals/${saved.deal.id}` }] : []),
        { text: 'Open the dossier', to: `/people/${saved.person.id}` },
      ],
    });
    emit('saved', saved.person.id);
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}

const head = computed(() => {
  const { value } = call;
  if (isLoose.value) return 'Log a call';
  if (!value) return '…';
  const way = value.direction === 'in' ? 'from' : 'to';
  const state = {
    placing: 'is being placed',
    failed: 'failed',
    ringing: 'is ringing',
    answered: 'is on the line',
    ended: 'has ended',
    missed: 'was missed',
  }[value.state];
  return `The call ${way} ${value.person?.name ?? value.written} ${state}`;
});
</script>

<template>
  <div class="page" @keydown.ctrl.enter.prevent="save" @keydown.meta.enter.prevent="save">
    <div class="page-head">
      <h1>{{ head }}</h1>
      <span v-if="call" class="soft num">{{ call.written }} · {{ clock(call.startedAt) }}</span>
      <DeliveryLine v-if="call?.delivery" :delivery="call.delivery" what="The call" again="Call again" />
    </div>
    <div class="line">
      <div ref="light" class="light" aria-hidden="true">
        <span v-for="(one, index) in stretches" :key="index" :class="one.part && `is-${one.part}`">{{
          one.text
        }}</span>
      </div>
      <v-textarea
        ref="field"
        v-model="text"
        rows="3"
        aria-label="Write the call in plain words"
        placeholder="Ines Duarte, Padaria Sol, +351 910 555 014. wants 8 long bikes from March, budget about 40k. send quote, lunch Thu 11-12"
        @scroll="light && (light.scrollTop = ($event.target as HTMLElement).scrollTop)"
      />
    </div>
    <div class="parts">
      <section aria-label="Who it is">
        <h2>
          {{ verdict === 'same' ? 'You know them' : verdict === 'maybe' ? 'Who is it?' : 'Somebody new' }}
        </h2>
        <v-radio-group
          v-if="callers.length"
          v-model="person"
          aria-label="Who is it?"
          @update:model-value="isChosen = true"
        >
          <v-radio v-for="one in callers" :key="one.person.id" :value="one.person.id" class="choice">
            <template #label><CallerCard :caller="one" :is-chosen="person === one.person.id" /></template>
          </v-radio>
          <v-radio value="new" label="Somebody new" class="choice" />
        </v-radio-group>
        <p v-else class="soft">Nobody in your records has this name or number.</p>
        <p v-if="call?.transcript" class="soft said"><b>What was said:</b> {{ call.transcript }}</p>
      </section>
      <section aria-label="Details">
        <h2>Facts</h2>
        <v-text-field
          v-for="[key, label] in FIELDS"
          :key="key"
          class="fact"
          :label="label"
          :placeholder="isWorthAsking(key) ? 'Worth asking for' : ''"
          :model-value="valueOf(key)"
          :data-fact="key"
          @update:model-value="edited[key] = $event"
        />
        <DealLine
          v-if="reading"
          :read="reading.deal"
          :open-deals="openDeals"
          :open-leads="openLeads"
          :currency="session.me?.currency ?? ''"
          @change="deal = $event"
        />
      </section>
      <section aria-label="What it was about">
        <v-textarea
          class="field"
          label="Background, kept on the person"
          rows="2"
          data-part="background"
          :model-value="partOf('background')"
          @update:model-value="edited.background = $event"
        />
        <v-textarea
          class="field"
          label="What was said, for the ledger"
          rows="3"
          data-part="said"
          :model-value="partOf('said')"
          @update:model-value="edited.said = $event"
        />
        <MoveLines v-if="reading" :moves="reading.moves" @change="moves = $event" />
      </section>
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <div class="do">
      <v-btn class="fill" :loading="isBusy" @click="save"
        >Save the call <span class="hint">Ctrl Enter</span></v-btn
      >
      <span class="soft">Saved in one step, with one undo</span>
    </div>
  </div>
</template>

<style scoped src="./sheet.css"></style>
