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
const { data: warmest } = useFetched(
  () => api('GET /api/leads', { query: { sort: 'warmth', direction: 'desc', limit: 10 } }),
  ['leads', 'lead_scores'],
);
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
  <div v-if="warmth && warmest" class="halves">
    <v-table class="book points">
      <thead>
        <tr>
          <th>What they did</th>
          <th class="num">Points</th>
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
              :disabled="!session.may('settings.scoring')"
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
              :disabled="!session.may('settings.scoring')"
              @change="put({ halfLifeDays: $event })"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
    <section>
      <h2>Warmest leads today</h2>
      <v-table v-if="warmest.items.length" class="book">
        <thead>
          <tr>
            <th>Lead</th>
            <th class="num">Warmth</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="lead in warmest.items" :key="lead.id">
            <td>
              <RouterLink :to="`/leads/${lead.id}`">{{ lead.title }}</RouterLink>
              <span class="soft"> {{ lead.person.name }}, {{ lead.status }}</span>
            </td>
            <td class="num">
              <b>{{ lead.scores?.warmth }}</b>
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-else class="empty">No open leads.</p>
    </section>
  </div>
  <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px 40px;
  align-items: start;
}
.points td:last-child {
  width: 110px;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
