<script setup lang="ts">
import { vFocus } from '../kit/focus';
import type { Reply } from '@emporikon/contract';
import type { MergeNote } from '@emporikon/contract/lookAlikes';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { shortDay } from '../shell/format';
import { useUndo } from '../shell/undo';

type Plan = Reply<'GET /api/merges/:id/unmerge'>;
const props = defineProps<{ merge: MergeNote }>();
const emit = defineEmits<{ close: [] }>();
const undo = useUndo();
const router = useRouter();
const plan = shallowRef<Plan | null>(null);
const error = ref('');
const choices = ref<Record<string, 'survivor' | 'merged'>>({});
const keyOf = (one: Plan['since'][number]): string => `${one.table}:${one.key}`;
const isSettled = computed(() => (plan.value?.since ?? []).every((one) => choices.value[keyOf(one)]));

async function read(): Promise<void> {
  try {
    plan.value = await api('GET /api/merges/:id/unmerge', { params: { id: props.merge.id } });
    choices.value = Object.fromEntries(
      plan.value.since.flatMap((one) => (one.belongs === 'ask' ? [] : [[keyOf(one), one.belongs]])),
    );
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void read();

async function takeApart(): Promise<void> {
  try {
    const { id } = await api('POST /api/merges/:id/unmerge', {
      params: { id: props.merge.id },
      body: { choices: choices.value },
    });
    const to = `/${props.merge.kind === 'person' ? 'people' : 'companies'}/${id}`;
    undo.tell({
      text: `${props.merge.label} is a record of its own again.`,
      eventId: null,
      links: [{ text: 'Open', to }],
    });
    emit('close');
    await router.push(to);
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="720"
    scrollable
    aria-labelledby="apart-title"
    @update:model-value="emit('close')"
  >
    <v-card class="apart">
      <h2 id="apart-title">Separate {{ merge.label }}</h2>
      <p class="soft">
        {{ merge.label }} gets back what it brought on {{ shortDay(merge.at) }}. What was changed since then
        stays as it is.
      </p>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="plan">
        <v-table v-if="plan.since.length" class="book">
          <thead>
            <tr>
              <th>Since then</th>
              <th>Which record keeps it</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in plan.since" :key="keyOf(one)">
              <td>
                {{ one.what }}
                <span class="soft">{{ one.at ? shortDay(one.at) : '' }} · {{ one.why }}</span>
              </td>
              <td>
                <v-radio-group
                  v-model="choices[keyOf(one)]"
                  :aria-label="`Which record keeps ${one.what}?`"
                  inline
                >
                  <v-radio value="survivor" label="This record" />
                  <v-radio value="merged" :label="merge.label" />
                </v-radio-group>
              </td>
            </tr>
          </tbody>
        </v-table>
        <p v-else>Nothing happened since.</p>
      </template>
      <template v-else-if="!error"><span v-for="n in 3" :key="n" class="ghost"></span></template>
      <div class="foot">
        <v-btn class="fill" :disabled="!plan || !isSettled" @click="takeApart">Separate</v-btn>
        <v-btn v-focus class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.apart {
  padding: 18px 22px;
}
.foot {
  display: flex;
  gap: 12px;
  padding-top: 14px;
}
td .soft {
  font-size: 12px;
}
</style>
