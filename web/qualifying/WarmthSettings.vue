<script setup lang="ts">
import NumberField from '../kit/NumberField.vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** What each thing a person does adds to their warmth, and how soon it fades. */
const session = useSession();
const undo = useUndo();
const { data: warmth, load } = useFetched(() => api('GET /api/warmth-rules'), ['warmth_rules']);
const sentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

async function put(patch: { halfLifeDays?: number; points?: Record<string, number> }): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/warmth-rules', {
      body: { version: warmth.value?.version ?? 1, ...patch },
    });
    undo.tell({ text: 'Warmth changed.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}
</script>

<template>
  <PageHead
    title="Warmth"
    help="How engaged somebody is now. What they do adds points, and the points fade by half after each half-life."
  />
  <v-table v-if="warmth" class="book narrow">
    <thead>
      <tr>
        <th>What they did</th>
        <th>Points</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in warmth.kinds" :key="one.kind">
        <td>{{ sentence(one.label) }}</td>
        <td>
          <NumberField
            :min="0"
            :max="100"
            :aria-label="`Points: ${one.label}`"
            :model-value="one.points"
            :disabled="!session.mayManage"
            @change="put({ points: { [one.kind]: $event } })"
          />
        </td>
      </tr>
      <tr>
        <td><b>Half-life, in days</b></td>
        <td>
          <NumberField
            :min="1"
            :max="365"
            aria-label="Half-life, days"
            :model-value="warmth.halfLifeDays"
            :disabled="!session.mayManage"
            @change="put({ halfLifeDays: $event })"
          />
        </td>
      </tr>
    </tbody>
  </v-table>
  <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.narrow {
  max-width: 460px;
}
.narrow td:last-child {
  width: 110px;
}
</style>
