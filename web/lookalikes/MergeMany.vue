<script setup lang="ts">
import { nounFor } from '@emporikon/core/people/counts';
import { vFocus } from '../kit/focus';
import type { LookAlike } from '@emporikon/contract/lookAlikes';
import type { Reply } from '@emporikon/contract';
import { computed, ref, shallowRef } from 'vue';
import { api, wordsOf } from '../shell/api';
import { percent } from '../shell/format';
import { useUndo } from '../shell/undo';
import { count, movesInWords, movesOne } from './words';

const props = defineProps<{ groups: LookAlike[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const undo = useUndo();
const items = shallowRef<Reply<'POST /api/look-alikes/preview'>['items'] | null>(null);
const chosen = ref<string[]>(props.groups.map((group) => group.id));
const error = ref('');
const isBusy = ref(false);
const total = computed(() => chosen.value.length);

async function preview(): Promise<void> {
  try {
    ({ items: items.value } = await api('POST /api/look-alikes/preview', {
      body: { ids: props.groups.map((group) => group.id) },
    }));
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void preview();

async function merge(): Promise<void> {
  isBusy.value = true;
  try {
    const { merged, left } = await api('POST /api/look-alikes/merge', { body: { ids: chosen.value } });
    undo.tell({
      text: `${count(merged.length)} ${nounFor(merged.length, 'group')} merged${left.length ? `; ${count(left.length)} not merged: ${left[0]?.reason ?? ''}` : ''}. Each can be unmerged on its page.`,
      eventId: merged.length === 1 ? (merged[0]?.eventId ?? null) : null,
    });
    emit('done');
    emit('close');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="860"
    scrollable
    aria-labelledby="many-title"
    @update:model-value="emit('close')"
  >
    <v-card class="many">
      <h2 id="many-title">Merge the sure ones</h2>
      <p class="soft">Each as proposed. Groups you clear stay in the list.</p>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <ul v-if="items" class="lines">
        <li v-for="one in items" :key="one.id">
          <v-checkbox v-model="chosen" :value="one.id"
            ><template #label>
              <span>
                <b>{{ one.merged.map((each) => each.name).join(', ') }}</b> into
                <b>{{ one.survivor.name }}</b>
                <span class="soft">
                  · {{ percent(one.probability) }} · {{ movesInWords(one.moves) }}
                  {{ movesOne(one.moves) ? 'moves' : 'move'
                  }}<template v-for="change in one.changed" :key="change.label"
                    >; {{ change.label.toLowerCase() }}
                    {{ change.from ? `“${change.from}” becomes` : 'becomes' }} “{{ change.to }}”</template
                  ></span
                >
              </span>
            </template></v-checkbox
          >
        </li>
      </ul>
      <template v-else><span v-for="n in 5" :key="n" class="ghost"></span></template>
      <div class="foot">
        <v-btn class="fill" :disabled="isBusy || !items || !total" @click="merge">{{
          isBusy ? 'Merging…' : `Merge ${count(total)} ${nounFor(total, 'group')}`
        }}</v-btn>
        <v-btn v-focus class="quiet" @click="emit('close')">Not now</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.many {
  padding: 18px 22px;
}
.lines {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  overflow-y: auto;
  max-height: 56vh;
}
.lines li {
  border-top: 1px solid var(--rule);
}
label {
  display: flex;
  gap: 10px;
  padding: 8px 0;
  align-items: baseline;
  line-height: 1.45;
}
.foot {
  display: flex;
  gap: 12px;
  padding-top: 14px;
}
</style>
