<script setup lang="ts">
import type { CaptureDetail } from '@emporikon/contract/captures';
import { computed, defineAsyncComponent, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { minorOf } from '@emporikon/core/ledger/sum';
import { useSession } from '../shell/session';
import { URGENCIES } from '../cases/words';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';
import TurnWords from '../dossier/TurnWords.vue';
import type { FilingChoices } from './choices';

/** They come once the choices are opened. */
const RecordPicker = defineAsyncComponent(() => import('../kit/RecordPicker.vue'));
const TagField = defineAsyncComponent(() => import('../kit/TagField.vue'));

defineProps<{ known: CaptureDetail['known'] }>();
const choices = defineModel<FilingChoices>({ required: true });
const session = useSession();
const undo = useUndo();
const isOpen = ref(false);
const team = useTeam();
const { data: stages } = useFetched(() => api('GET /api/stages'), ['stages']);
const amount = ref('');
const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines']);
/** Open stages, with the name of their pipeline where there are several. */
const open = computed(() => {
  const names = new Map(
    (pipelines.value?.items ?? []).filter((item) => item.active).map((item) => [item.id, item.name]),
  );
  return (stages.value?.items ?? [])
    .filter((item) => item.kind === 'open' && names.has(item.pipelineId))
    .map((item) => ({
      id: item.id,
      name: names.size > 1 ? `${names.get(item.pipelineId) ?? ''}, ${item.name}` : item.name,
    }));
});
const KINDS = [
  { value: null, name: 'Automatic' },
  { value: 'person', name: 'a person only' },
  { value: 'lead', name: 'a new lead' },
  { value: 'deal', name: 'a new deal' },
  { value: 'case', name: 'a new case' },
] as const;

function setAmount(): void {
  try {
    choices.value.amountMinor = minorOf(amount.value, choices.value.currency ?? session.me?.currency ?? '');
  } catch (error) {
    undo.fail(error);
  }
  choices.value.currency ??= session.me?.currency;
}
</script>

<template>
  <div class="options">
    <p v-if="known" class="soft known">
      {{ known.owner ? `${known.owner} looks after them. ` : '' }}<TurnWords :turn="known.turn" />.
      <template v-if="known.tags.length">Tags: {{ known.tags.join(', ') }}.</template>
    </p>
    <v-btn class="word" :aria-expanded="isOpen" @click="isOpen = !isOpen">
      {{ isOpen ? 'Fewer choices' : 'Owner, tags, deal, case, note' }}
    </v-btn>
    <div v-if="isOpen" class="grid">
      <v-select v-model="choices.as" class="field" label="File as" :items="KINDS" item-title="name" />
      <v-select
        class="field"
        label="Owner"
        :model-value="choices.ownerId ?? ''"
        :items="[
          { value: '', title: 'Me, or the present owner' },
          ...team.map((one) => ({ value: one.id, title: one.name })),
        ]"
        @update:model-value="choices.ownerId = $event || undefined"
      />
      <v-select
        v-if="choices.as === 'case'"
        class="field"
        label="Urgency"
        :model-value="choices.urgency ?? 'normal'"
        :items="URGENCIES"
        @update:model-value="choices.urgency = $event"
      />
      <p v-if="choices.about" class="wide">
        Goes on the {{ choices.about.kind }} <b>{{ choices.about.label }}</b>.
        <v-btn class="word" @click="choices.about = undefined">Not on it</v-btn>
      </p>
      <template v-else-if="choices.as !== 'case'">
        <RecordPicker
          v-for="kind in ['case', 'project'] as const"
          :key="kind"
          class="field"
          :kind="kind"
          :label="`Put it on a ${kind}`"
          placeholder="By its title"
          @pick="choices.about = { kind, id: $event.id, label: $event.label }"
        />
      </template>
      <template v-if="choices.as === 'deal'">
        <v-text-field v-model="choices.dealTitle" class="field" label="Deal" placeholder="What it is about" />
        <v-text-field
          v-model="amount"
          class="field"
          :label="`Value in ${choices.currency ?? session.me?.currency}`"
          inputmode="decimal"
          @change="setAmount"
        />
        <v-select
          class="field"
          label="Stage"
          :model-value="choices.stageId ?? ''"
          :items="[
            { value: '', title: 'First stage' },
            ...open.map((one) => ({ value: one.id, title: one.name })),
          ]"
          @update:model-value="choices.stageId = $event || undefined"
        />
      </template>
      <TagField v-model="choices.tags" class="wide" />
      <v-textarea v-model="choices.note" class="field wide" label="Note, kept with the person" rows="2" />
    </div>
  </div>
</template>

<style scoped>
.options {
  border-top: 1px solid var(--rule2);
  padding-top: 4px;
}
.known {
  margin: 2px 0;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
}
.wide {
  grid-column: 1 / 3;
}
</style>
