<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { vFocus } from '../kit/focus';
import DateField from '../kit/DateField.vue';
import { api, wordsOf } from '../shell/api';
import { counted, nameList } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** Makes a project of a won deal, and shows beforehand what goes along. */
const props = defineProps<{ dealId: string }>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const undo = useUndo();
const { data, error: unread } = useFetched(
  () => api('GET /api/deals/:id/project', { params: { id: props.dealId } }),
  ['deals', 'tasks'],
  () => [props.dealId],
);
const title = ref<string | null>(null);
const dueOn = ref('');
const take = ref({ people: true, tasks: true, files: true, notes: true });
const error = ref('');
const isBusy = ref(false);
const parts = computed(() => {
  const found = data.value;
  if (!found) return [];
  return [
    { key: 'people', words: found.people.length ? nameList(found.people.map(({ name }) => name)) : '' },
    {
      key: 'tasks',
      words: found.tasks.length ? `Open tasks: ${found.tasks.map(({ name }) => name).join(', ')}` : '',
    },
    { key: 'files', words: found.files ? counted(found.files, 'file or quote', 'files and quotes') : '' },
    { key: 'notes', words: found.notes ? `What was sold: ${found.notes.split('\n').join(', ')}` : '' },
  ].filter(({ words }) => words) as { key: keyof typeof take.value; words: string }[];
});

async function make(): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const { id, eventId } = await api('POST /api/deals/:id/project', {
      params: { id: props.dealId },
      body: {
        title: (title.value ?? data.value?.title ?? '').trim(),
        dueOn: dueOn.value || null,
        take: take.value,
      },
    });
    undo.tell({ text: 'Made a project of it.', eventId });
    emit('close');
    await router.push(`/projects/${id}`);
  } catch (problem) {
    error.value = wordsOf(problem);
  }
  isBusy.value = false;
}
</script>

<template>
  <v-dialog :model-value="true" aria-label="Make a project" @update:model-value="emit('close')">
    <form class="make" @submit.prevent="make">
      <h2>Make a project</h2>
      <p v-if="unread || error" class="wrong" role="alert">{{ error || unread }}</p>
      <template v-if="data">
        <p v-if="data.projects.length" class="late">
          {{ counted(data.projects.length, 'project') }} came of this deal already:
          <RouterLink
            v-for="one in data.projects"
            :key="one.id"
            :to="`/projects/${one.id}`"
            class="quiet-link"
            >{{ one.name }}</RouterLink
          >
        </p>
        <v-text-field
          v-focus
          :model-value="title ?? data.title"
          label="Title"
          required
          maxlength="200"
          @update:model-value="title = $event"
        />
        <DateField v-model="dueOn" label="Due" placeholder="end of March, in 6 weeks" />
        <fieldset v-if="parts.length">
          <legend class="cap">What goes along</legend>
          <v-checkbox v-for="part in parts" :key="part.key" v-model="take[part.key]" :label="part.words" />
        </fieldset>
      </template>
      <template v-else-if="!unread"><span v-for="n in 4" :key="n" class="ghost"></span></template>
      <div class="ways">
        <v-btn class="fill" type="submit" :disabled="!data || isBusy || !(title ?? data.title).trim()"
          >Make the project</v-btn
        >
        <v-btn class="word" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.make {
  display: grid;
  gap: 10px;
  padding: 20px 24px;
  background: var(--sheet);
}
h2,
p {
  margin: 0;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
.ways {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
