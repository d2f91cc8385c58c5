<script setup lang="ts">
import { tellsOfCompanyAlone } from '@emporikon/core/reading/companyPage';
import { vFocus } from '../kit/focus';
import type { CaptureDetail, Claim } from '@emporikon/contract/captures';
import type { ClaimField } from '@emporikon/contract/fields';
import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { computed, nextTick, ref } from 'vue';
import { api } from '../shell/api';
import { due, fieldName } from '../shell/format';
import { useUndo } from '../shell/undo';
import CompanyVerdict from './CompanyVerdict.vue';
import ClaimLine from './ClaimLine.vue';
import IntentLine from './IntentLine.vue';
import VerdictBox from './VerdictBox.vue';

const props = defineProps<{ capture: CaptureDetail }>();
const emit = defineEmits<{ changed: [] }>();
const lit = defineModel<string | null>('lit', { default: null });
const person = defineModel<string | null>('person', { default: null });
const company = defineModel<string | null>('company', { default: null });
/** Whether it becomes a lead of its own although something is open with them. */
const asNewLead = defineModel<boolean>('asNewLead', { default: false });
const withMove = defineModel<boolean>('withMove', { default: true });
const undo = useUndo();
const verdictBox = ref<InstanceType<typeof VerdictBox> | null>(null);
const editing = ref<string | null>(null);
const adding = ref(false);
const newField = ref<ClaimField>('fullName');
const newValue = ref('');
const ADDABLE = CLAIM_FIELDS.filter(
  (field) => !['givenName', 'familyName', 'birthday', 'timeZone'].includes(field),
);

const isOpen = computed(() => props.capture.state === 'waiting');
const isOfCompany = computed(() => tellsOfCompanyAlone(props.capture));
const known = computed(() =>
  person.value && person.value !== 'new'
    ? props.capture.verdict.person.matches.find((match) => match.id === person.value)
    : undefined,
);
const work = computed(() => props.capture.openWork.find((one) => one.personId === known.value?.id));
const goesTo = computed(() => {
  const name =
    known.value?.label.split(',')[0] ??
    props.capture.claims.find((claim) => claim.field === 'fullName' && claim.fate !== 'rejected')?.value ??
    'somebody new';
  const company = props.capture.verdict.companyName;
  const fresh = props.capture.verdict.company.kind === 'same' ? '' : ' (new)';
  if (isOfCompany.value) return `${company ?? 'a company without a name yet'}${company ? fresh : ''}`;
  const about =
    work.value && !asNewLead.value
      ? `the ${work.value.kind} “${work.value.title}”`
      : props.capture.nature && !asNewLead.value
        ? 'no lead'
        : 'a new lead';
  return [`${name}${known.value ? '' : ' (new)'}`, ...(company ? [`${company}${fresh}`] : []), about].join(
    ' · ',
  );
});

async function change(work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
    emit('changed');
  } catch (error) {
    undo.fail(error);
  }
}

const correct = (claim: Claim, value: string): void => {
  editing.value = null;
  if (value.trim() && value.trim() !== claim.value)
    void change(() =>
      api('PATCH /api/claims/:id', { params: { id: claim.id }, body: { value: value.trim() } }),
    );
};
const retype = (claim: Claim, type: NonNullable<Claim['type']>): void =>
  void change(() => api('PATCH /api/claims/:id', { params: { id: claim.id }, body: { type } }));
const setFate = (claim: Claim): void =>
  void change(() =>
    api('PATCH /api/claims/:id', {
      params: { id: claim.id },
      body: { fate: claim.fate === 'rejected' ? 'proposed' : 'rejected' },
    }),
  );
const setIntentFate = (intent: CaptureDetail['intents'][number]): void =>
  void change(() =>
    api('PATCH /api/intents/:id', {
      params: { id: intent.id },
      body: { fate: intent.fate === 'rejected' ? 'proposed' : 'rejected' },
    }),
  );

function add(): void {
  const value = newValue.value.trim();
  adding.value = false;
  newValue.value = '';
  if (value)
    void change(() =>
      api('POST /api/captures/:id/claims', {
        params: { id: props.capture.id },
        body: { field: newField.value, value },
      }),
    );
}

defineExpose({
  askWho: () => verdictBox.value?.focus(),
  correctFirst: () => void nextTick(() => (editing.value = props.capture.claims[0]?.id ?? null)),
});
</script>

<template>
  <h2>What we read</h2>
  <VerdictBox
    v-if="!isOfCompany || !isOpen"
    ref="verdictBox"
    v-model="person"
    :verdict="capture.verdict.person"
    :is-open="isOpen"
    :filed-as="capture.filedAs"
  />
  <p v-if="isOpen && capture.verdict.hidden" class="hint" role="status">
    This may be a record that you cannot see. Ask a manager before you file it as somebody new.
  </p>
  <CompanyVerdict
    v-if="isOpen && capture.verdict.companyName"
    v-model="company"
    :verdict="capture.verdict.company"
    :name="capture.verdict.companyName"
  />
  <slot name="also"></slot>
  <ClaimLine
    v-for="claim in capture.claims"
    :key="claim.id"
    :claim="claim"
    :is-lit="lit === claim.id"
    :is-open="isOpen"
    :is-editing="editing === claim.id"
    @point="lit = $event ? claim.id : null"
    @edit="editing = $event ? claim.id : null"
    @correct="correct(claim, $event)"
    @retype="retype(claim, $event)"
    @fate="setFate(claim)"
  />
  <IntentLine
    v-for="intent in capture.intents"
    :key="intent.id"
    :intent="intent"
    :is-lit="lit === intent.id"
    :is-open="isOpen"
    @point="lit = $event ? intent.id : null"
    @fate="setIntentFate(intent)"
  />
  <p v-if="!capture.claims.length && !capture.intents.length" class="empty">
    Nothing was read from this. Add what you know below.
  </p>
  <template v-if="isOpen">
    <div v-if="capture.proposedMove" class="row">
      <span class="cap">Next move</span>
      <span :class="{ gone: !withMove }"
        >{{ capture.proposedMove.title }}, {{ due(capture.proposedMove) }}</span
      >
      <v-btn
        class="word"
        :aria-label="withMove ? 'Leave out this next move' : 'Include this next move'"
        @click="withMove = !withMove"
      >
        {{ withMove ? 'Leave out' : 'Include' }}
      </v-btn>
    </div>
    <div class="row">
      <span class="cap">Goes to</span><span>{{ goesTo }}</span>
      <v-btn v-if="work || capture.nature" class="word" @click="asNewLead = !asNewLead">
        {{ !asNewLead ? 'Make a new lead' : work ? `Add to the ${work.kind}` : 'No lead' }}
      </v-btn>
      <span v-else></span>
    </div>
    <form v-if="adding" class="add" @submit.prevent="add" @keydown.esc.stop="adding = false">
      <v-select
        v-model="newField"
        class="inline-edit"
        aria-label="Field"
        :items="ADDABLE.map((field) => ({ value: field, title: fieldName(field) }))"
      />
      <v-text-field v-model="newValue" v-focus class="inline-edit" aria-label="Its value" />
      <v-btn class="quiet" type="submit">Add</v-btn>
    </form>
    <v-btn v-else class="word" @click="adding = true">Add a fact</v-btn>
  </template>
  <slot></slot>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 0 6px;
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
  align-items: baseline;
}
.gone {
  text-decoration: line-through;
  color: var(--soft);
}
.add {
  display: grid;
  grid-template-columns: 110px 1fr auto;
  gap: 6px;
  padding: 6px 0;
}
</style>
