<script setup lang="ts">
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSave } from './useSave';

/** Why deals are won and lost: the reasons offered, and how often each was given. */
defineProps<{ mayEdit: boolean }>();
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
  <section>
    <h2>Why deals end</h2>
    <div class="two">
      <div v-for="kind in KINDS" :key="kind">
        <h3>{{ kind === 'won' ? 'Won' : 'Lost' }} {{ figures?.[kind] ?? '' }}</h3>
        <div
          v-for="one in (data?.items ?? []).filter((each) => each.kind === kind)"
          :key="one.id"
          class="reason"
        >
          <span :class="{ soft: !one.active }">{{ one.words }}</span>
          <span class="num soft">{{ counts.get(`${kind} ${one.words}`) ?? 0 }}</span>
          <button
            v-if="mayEdit"
            class="word"
            :aria-label="`${one.active ? 'Retire' : 'Take up'} ${one.words}`"
            @click="
              save('Changed.', () =>
                api('PATCH /api/close-reasons/:id', {
                  params: { id: one.id },
                  body: { version: one.version, active: !one.active },
                }),
              )
            "
          >
            {{ one.active ? 'retire' : 'take up' }}
          </button>
        </div>
        <div v-if="counts.get(`${kind} `)" class="reason soft">
          <span>not said</span><span class="num">{{ counts.get(`${kind} `) }}</span>
        </div>
        <form v-if="mayEdit" class="add" @submit.prevent="add(kind)">
          <input
            v-model="words[kind]"
            class="inline-edit"
            required
            maxlength="120"
            placeholder="a reason"
            :aria-label="`New reason for ${kind} deals`"
          /><button class="word" type="submit">Add</button>
        </form>
      </div>
    </div>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 8px 32px;
}
.reason {
  display: grid;
  grid-template-columns: 1fr auto 56px;
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
