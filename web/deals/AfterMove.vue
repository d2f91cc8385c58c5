<script setup lang="ts">
import { DEAL_ASKS, type DealAsk } from '@emporikon/core/lifecycle/stages';
import { ref, watch } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** What is asked after a deal has moved: why it was won or lost, and what its stage wants known. Nothing is forced. */
const props = defineProps<{
  deal: { id: string; title: string };
  kind: 'open' | 'won' | 'lost';
  notKnown: readonly DealAsk[];
}>();
const emit = defineEmits<{ done: [] }>();
const undo = useUndo();
const other = ref('');
const { data: now } = useFetched(
  () => api('GET /api/deals/:id', { params: { id: props.deal.id } }),
  ['deals'],
  () => [props.deal.id],
);
/** Once the deal has been moved back, by whomever, there is nothing to ask. */
watch(now, (deal) => {
  if (deal && deal.stage.kind !== props.kind) emit('done');
});
const { data } = useFetched(() => api('GET /api/close-reasons'), ['close_reasons']);

async function because(reason: string): Promise<void> {
  if (!reason.trim() || !now.value) return;
  try {
    const { version } = now.value;
    const { eventId } = await api('PATCH /api/deals/:id', {
      params: { id: props.deal.id },
      body: { version, closeReason: reason.trim() },
    });
    undo.tell({ text: `${props.deal.title} ${props.kind}: ${reason.trim()}.`, eventId });
    emit('done');
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <div class="after" role="group" :aria-label="`About ${deal.title}`">
    <template v-if="kind !== 'open'">
      <span
        >Why was <b>{{ deal.title }}</b> {{ kind }}?</span
      >
      <v-btn
        v-for="one in (data?.items ?? []).filter((each) => each.kind === kind && each.active)"
        :key="one.id"
        class="word"
        @click="because(one.words)"
      >
        {{ one.words }}
      </v-btn>
      <form @submit.prevent="because(other)">
        <v-text-field
          v-model="other"
          class="inline-edit"
          maxlength="120"
          placeholder="something else"
          aria-label="Another reason"
        />
      </form>
    </template>
    <template v-else>
      <span
        >Still missing for <b>{{ deal.title }}</b>:
        {{ notKnown.map((ask) => DEAL_ASKS[ask]).join(', ') }}.</span
      >
      <RouterLink :to="`/deals/${deal.id}`" class="quiet-link">Add it</RouterLink>
    </template>
    <v-btn class="word" @click="emit('done')">Not now</v-btn>
  </div>
</template>

<style scoped>
.after {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  border-left: 3px solid var(--wait-line);
  background: var(--sheet);
  padding: 4px 12px;
  margin: 0 24px 6px;
}
.inline-edit {
  width: 150px;
}
@media (max-width: 700px) {
  .after {
    margin: 0 14px 6px;
  }
}
</style>
