<script setup lang="ts">
import RetireButton from '../kit/RetireButton.vue';
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSave } from './useSave';

/** Why deals are won and lost: the reasons offered, and how often each was given. */

const session = useSession();
const { data, load } = useFetched(() => api('GET /api/close-reasons'), ['close_reasons']);
const { data: figures } = useFetched(() => api('GET /api/figures/closings'), ['deals']);
const save = useSave(load);
const words = ref({ won: '', lost: '' });
const KINDS = ['won', 'lost'] as const;
const counts = computed(
  () =>
    new Map(
      (figures.value?.reasons ?? []).map((reason) => [`${reason.kind} ${reason.reason}`, reason.count]),
    ),
);

async function add(kind: 'won' | 'lost'): Promise<void> {
  const made = await save('Added.', () =>
    api('POST /api/close-reasons', { body: { kind, words: words.value[kind] } }),
  );
  if (made) words.value[kind] = '';
}
</script>

<template>
  <PageHead
    title="Why deals end"
    help="Asked when a deal is won or lost. The numbers say how often each reason was given."
  />
  <div class="two">
    <div v-for="kind in KINDS" :key="kind">
      <h2>{{ kind === 'won' ? 'Won' : 'Lost' }} {{ figures?.[kind] ?? '' }}</h2>
      <div
        v-for="one in (data?.items ?? []).filter((each) => each.kind === kind)"
        :key="one.id"
        class="reason"
      >
        <span :class="{ soft: !one.active }">{{ one.words }}</span>
        <span class="num soft">{{ counts.get(`${kind} ${one.words}`) ?? 0 }}</span>
        <RetireButton
          v-if="session.may('settings.deals')"
          :name="one.words"
          :active="one.active"
          @turn="
            save('Reason changed.', () =>
              api('PATCH /api/close-reasons/:id', {
                params: { id: one.id },
                body: { version: one.version, active: $event },
              }),
            )
          "
        />
      </div>
      <div v-if="counts.get(`${kind} `)" class="reason soft">
        <span>No reason given</span><span class="num">{{ counts.get(`${kind} `) }}</span>
      </div>
      <form v-if="session.may('settings.deals')" class="add" @submit.prevent="add(kind)">
        <v-text-field
          v-model="words[kind]"
          required
          maxlength="120"
          placeholder="New reason"
          :aria-label="`New reason for ${kind} deals`"
        /><v-btn class="quiet" type="submit">Add</v-btn>
      </form>
    </div>
  </div>
</template>

<style scoped>
.two {
  max-width: 820px;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 8px 32px;
}
.reason {
  display: grid;
  grid-template-columns: 1fr auto 72px;
  gap: 10px;
  align-items: center;
  min-height: 28px;
  border-top: 1px solid var(--rule2);
}
.add {
  display: flex;
  gap: 10px;
  padding-top: 6px;
}
</style>
