<script setup lang="ts">
import Progress from '../kit/Progress.vue';
import type { ListedPerson } from '@emporikon/contract/captures';
import { computed, ref } from 'vue';
import { api, wordsOf } from '../shell/api';
import TagField from '../kit/TagField.vue';
import { useUndo } from '../shell/undo';

const props = defineProps<{ id: string; people: ListedPerson[]; isOpen: boolean }>();
const emit = defineEmits<{ filed: [] }>();
const undo = useUndo();
const chosen = ref<number[]>([]);
const tags = ref<string[]>([]);
const results = ref<Record<number, string>>({});
const progress = ref(0);
const isBusy = ref(false);
const WORDS = { same: 'Known', maybe: 'Maybe', new: 'New' } as const;
const strangers = computed(() =>
  props.people.flatMap((person, index) => (person.verdict === 'new' ? [index] : [])),
);

/** One after the other, so that each has its own result and a slow one holds nobody up. */
async function file(): Promise<void> {
  isBusy.value = true;
  progress.value = 0;
  let count = 0;
  for (const row of [...chosen.value]) {
    try {
      const {
        results: [one],
      } = await api('POST /api/captures/:id/listed', {
        params: { id: props.id },
        body: { rows: [row], tags: tags.value },
      });
      results.value[row] = one ? (one.outcome === 'filed' ? 'filed' : one.reason || one.outcome) : '';
      if (one?.outcome === 'filed' || one?.outcome === 'known') count++;
    } catch (error) {
      results.value[row] = wordsOf(error);
    }
    progress.value++;
  }
  isBusy.value = false;
  chosen.value = [];
  undo.tell({ text: `Filed ${count} of a list.`, eventId: null });
  emit('filed');
}
</script>

<template>
  <v-table class="book">
    <thead>
      <tr>
        <th><span class="visually-hidden">Choose</span></th>
        <th>Name</th>
        <th>Title and company</th>
        <th>Known?</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(one, index) in people" :key="index">
        <td>
          <v-checkbox-btn
            v-model="chosen"
            :value="index"
            :disabled="!isOpen || isBusy"
            :aria-label="`Choose ${one.name}`"
          />
        </td>
        <td>
          <b>{{ one.name }}</b>
        </td>
        <td>{{ [one.jobTitle, one.companyName].filter(Boolean).join(', ') }}</td>
        <td>
          <template v-if="results[index]">{{ results[index] }}</template>
          <template v-else>
            <RouterLink
              v-if="one.person && one.verdict === 'same'"
              :to="`/people/${one.person.id}`"
              class="quiet-link"
              >{{ one.owner ? `yes, ${one.owner}’s` : 'yes' }}</RouterLink
            >
            <span v-else :class="{ late: one.verdict === 'maybe' }">{{
              one.verdict === 'maybe' && one.person ? `maybe ${one.person.name}` : WORDS[one.verdict]
            }}</span>
          </template>
        </td>
      </tr>
    </tbody>
  </v-table>
  <div v-if="isOpen" class="do">
    <v-btn class="word" @click="chosen = strangers">Choose all who are new</v-btn>
    <TagField v-model="tags" />
    <v-btn class="fill" :disabled="!chosen.length || isBusy" @click="file">{{
      chosen.length ? `File ${chosen.length}` : 'File'
    }}</v-btn>
    <Progress v-if="isBusy" :value="progress" :max="chosen.length" label="Filed" />
  </div>
</template>

<style scoped>
.do {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 12px;
  align-items: end;
  padding: 12px 0;
}
</style>
