<script setup lang="ts">
import type { CaptureDetail } from '@emporikon/contract/captures';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { minorOf } from '@emporikon/core/ledger/sum';
import { useSession } from '../shell/session';
import TagField from '../shell/TagField.vue';
import { useUndo } from '../shell/undo';
import TurnWords from '../dossier/TurnWords.vue';
import type { FilingChoices } from './choices';

defineProps<{ known: CaptureDetail['known'] }>();
const choices = defineModel<FilingChoices>({ required: true });
const session = useSession();
const undo = useUndo();
const isOpen = ref(false);
const { data: team } = useFetched(() => api('GET /api/users'), []);
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
  { value: null, name: 'by itself' },
  { value: 'person', name: 'a person only' },
  { value: 'lead', name: 'a new lead' },
  { value: 'deal', name: 'a new deal' },
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
    <button class="word" :aria-expanded="isOpen" @click="isOpen = !isOpen">
      {{ isOpen ? 'Fewer choices' : 'Owner, tags, deal, note' }}
    </button>
    <div v-if="isOpen" class="grid">
      <label class="field"
        ><span class="cap">File as</span>
        <select v-model="choices.as">
          <option v-for="one in KINDS" :key="one.name" :value="one.value">{{ one.name }}</option>
        </select></label
      >
      <label class="field"
        ><span class="cap">Owner</span>
        <select v-model="choices.ownerId">
          <option :value="undefined">me, or who it is now</option>
          <option v-for="one in team?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select></label
      >
      <template v-if="choices.as === 'deal'">
        <label class="field"
          ><span class="cap">Deal</span><input v-model="choices.dealTitle" placeholder="what it is about"
        /></label>
        <label class="field"
          ><span class="cap">Value in {{ choices.currency ?? session.me?.currency }}</span
          ><input v-model="amount" inputmode="decimal" @change="setAmount"
        /></label>
        <label class="field"
          ><span class="cap">Stage</span>
          <select v-model="choices.stageId">
            <option :value="undefined">the first</option>
            <option v-for="one in open" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select></label
        >
      </template>
      <TagField v-model="choices.tags" class="wide" />
      <label class="field wide"
        ><span class="cap">Note, kept with the person</span
        ><textarea v-model="choices.note" rows="2"></textarea>
      </label>
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
