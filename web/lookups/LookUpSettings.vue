<script setup lang="ts">
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { clock, percent, plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { price } from './money';
import RulesForm from './RulesForm.vue';

/** What look-ups may cost, and which sources are asked. */
const session = useSession();
const undo = useUndo();
const TABLES = ['look_up_rules', 'look_up_sources', 'look_up_runs', 'claims'];
const { data: rules, load: loadRules } = useFetched(() => api('GET /api/look-ups/rules'), TABLES);
const { data: sources, load: loadSources } = useFetched(() => api('GET /api/look-ups/sources'), TABLES);

async function turn(key: string, active: boolean, label: string): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/look-ups/sources/:key', { params: { key }, body: { active } });
    undo.tell({ text: active ? `${label} is asked again.` : `${label} is no longer asked.`, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await loadSources();
}
</script>

<template>
  <PageHead
    title="Look-ups"
    help="Missing facts are asked of outside sources, the cheapest useful one first. A look-up never overwrites what somebody entered by hand."
  />
  <template v-if="!rules || !sources"><span v-for="n in 10" :key="n" class="ghost"></span></template>
  <div v-else>
    <RulesForm :rules="rules" @changed="loadRules" />
    <h2>Sources</h2>
    <div class="scroll" tabindex="0" role="region" aria-label="Sources">
      <v-table v-if="sources.items.length" class="book">
        <thead>
          <tr>
            <th>Source</th>
            <th class="num">Price</th>
            <th class="num">Asked</th>
            <th class="num">Answers kept</th>
            <th class="wide">How often it knows</th>
            <th><span class="visually-hidden">On or off</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in sources.items" :key="one.key">
            <td>
              <b>{{ one.label }}</b>
              <div v-if="one.restsUntil" class="late">
                {{ one.trouble }}; resumes at {{ clock(one.restsUntil) }}
              </div>
            </td>
            <td class="num">
              {{ price(one.price, rules.currency) }}
              <span class="soft">per {{ one.charges === 'finds' ? 'answer' : 'question' }}</span>
            </td>
            <td class="num">{{ plainNumber(one.asked) }}</td>
            <td class="num">
              {{ percent(one.keptShare) }}
              <span class="soft">{{ plainNumber(one.kept) }} of {{ plainNumber(one.decided) }}</span>
            </td>
            <td class="wide soft">
              {{
                one.fields
                  .slice(0, 4)
                  .map((field) => `${field.field.toLowerCase()} ${percent(field.coverage)}`)
                  .join(', ')
              }}
            </td>
            <td>
              <v-btn
                v-if="session.may('settings.channels')"
                class="word"
                :aria-label="`${one.active ? 'Turn off' : 'Turn on'} ${one.label}`"
                @click="turn(one.key, !one.active, one.label)"
              >
                {{ one.active ? 'Turn off' : 'Turn on' }}</v-btn><span v-else-if="!one.active" class="soft"
                >Off</span
              >
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-else class="empty">
        No source is set up. Likely addresses, country and time zone are still worked out.
      </p>
    </div>
  </div>
</template>

<style scoped>
h2 {
  margin-top: 20px !important;
}
</style>
