<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import type { LeadDetail } from '@emporikon/contract/leads';
import { ref } from 'vue';
import SourceMark from '../kit/SourceMark.vue';
import { api, ApiProblem } from '../shell/api';
import { useUndo } from '../shell/undo';

type Answer = LeadDetail['answers'][number];
const props = defineProps<{ lead: LeadDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
/** What is being typed, by question; what the server holds otherwise. */
const drafts = ref<Record<string, string>>({});
/** At which version each began. */
const begun: Record<string, number | null> = {};
const clashes = ref<Record<string, { theirs: string; version: number }>>({});

async function save(
  question: Answer,
  text: string,
  version: number | null,
  from: Answer['from'] = null,
): Promise<void> {
  const answer = text.trim();
  if (answer === question.answer && !clashes.value[question.questionId])
    return void Reflect.deleteProperty(drafts.value, question.questionId);
  try {
    const { eventId } = await api('PUT /api/leads/:id/answers/:questionId', {
      params: { id: props.lead.id, questionId: question.questionId },
      body: { answer, version, from },
    });
    Reflect.deleteProperty(drafts.value, question.questionId);
    Reflect.deleteProperty(clashes.value, question.questionId);
    undo.tell({ text: `Answered: ${question.label}.`, eventId });
    emit('changed');
  } catch (error) {
    const current = error instanceof ApiProblem && error.isStale ? error.problem.current : undefined;
    if (!current) return undo.fail(error);
    drafts.value[question.questionId] = answer;
    clashes.value[question.questionId] = { theirs: String(current.answer), version: Number(current.version) };
  }
}

/** The words that answered, as a claim, so that they are shown where they stand. */
const claimOf = (one: Answer): Claim | null =>
  one.evidence && {
    id: one.questionId,
    field: 'note',
    value: one.answer,
    normalized: null,
    type: null,
    confidence: 1,
    span: one.evidence.span,
    source: 'their message',
    fate: 'current',
    captureId: one.evidence.captureId,
    lookUpId: null,
    byHand: false,
    actor: one.by,
    at: one.at ?? '',
  };

function keepTheirs(question: Answer): void {
  Reflect.deleteProperty(drafts.value, question.questionId);
  Reflect.deleteProperty(clashes.value, question.questionId);
  emit('changed');
}
</script>

<template>
  <div class="questions">
    <h2>Questions</h2>
    <div v-for="one in lead.answers" :key="one.questionId" class="question">
      <label class="field">
        <span class="cap"
          >{{ one.label }}<template v-if="one.by"> · {{ one.by }}</template
          ><template v-if="one.evidence"> · in their words</template></span
        >
        <v-text-field
          :model-value="drafts[one.questionId] ?? one.answer"
          :placeholder="one.help"
          maxlength="2000"
          @focus="begun[one.questionId] = one.version"
          @update:model-value="drafts[one.questionId] = $event"
          @change="save(one, ($event.target as HTMLInputElement).value, begun[one.questionId] ?? null)"
          @keydown.enter.prevent="($event.target as HTMLInputElement).blur()"
        />
      </label>
      <SourceMark v-if="one.evidence" :claim="claimOf(one)" class="source" />
      <v-btn
        v-if="one.suggestion && !drafts[one.questionId]"
        class="word"
        @click="save(one, one.suggestion, one.version, one.from)"
      >
        Answer with “{{ one.suggestion }}”
      </v-btn>
      <div v-if="clashes[one.questionId]" class="clash" role="alert">
        Somebody answered <b>{{ clashes[one.questionId]?.theirs }}</b> meanwhile; you wrote
        <b>{{ drafts[one.questionId] }}</b>.
        <v-btn class="word on" @click="keepTheirs(one)">Keep theirs</v-btn>
        <v-btn
          class="word on"
          @click="save(one, drafts[one.questionId] ?? '', clashes[one.questionId]?.version ?? null)"
        >
          Use mine
        </v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.question {
  padding: 3px 0;
}
.question > .word {
  text-align: left;
}
.field input {
  min-height: 30px;
}
.field input::placeholder {
  color: var(--soft);
  opacity: 1;
}
.clash {
  border-left: 3px solid var(--wait-line);
  padding-left: 8px;
  font-size: 13px;
}
</style>
