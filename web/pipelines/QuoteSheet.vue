<script setup lang="ts">
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSave } from './useSave';

/** What every quote prints, and which team everybody is in. */
defineProps<{ mayEdit: boolean }>();
const { data, load } = useFetched(() => api('GET /api/quote-settings'), ['quote_settings']);
const { data: team, load: loadTeam } = useFetched(() => api('GET /api/users'), ['users']);
const save = useSave(load);
const saveTeam = useSave(loadTeam);
const valueOf = (event: Event): string => (event.target as HTMLInputElement).value;
const put = (patch: { issuer?: string; terms?: string; prefix?: string; validDays?: number }) =>
  save('Changed what quotes print.', () =>
    api('PATCH /api/quote-settings', { body: { version: data.value?.version ?? 1, ...patch } }),
  );
</script>

<template>
  <section>
    <h2>Quotes</h2>
    <fieldset v-if="data" :disabled="!mayEdit">
      <label class="field"
        ><span class="cap">Who we are, a line each: firm, address, how to reach us</span
        ><textarea
          rows="3"
          :value="data.issuer"
          maxlength="600"
          @change="put({ issuer: valueOf($event) })"
        ></textarea>
      </label>
      <label class="field"
        ><span class="cap">Terms</span
        ><textarea
          rows="3"
          :value="data.terms"
          maxlength="4000"
          @change="put({ terms: valueOf($event) })"
        ></textarea>
      </label>
      <div class="pair">
        <label class="field"
          ><span class="cap">Numbers begin with</span
          ><input :value="data.prefix" maxlength="12" @change="put({ prefix: valueOf($event) })"
        /></label>
        <label class="field"
          ><span class="cap">Valid for, days</span
          ><input
            type="number"
            min="1"
            max="365"
            :value="data.validDays"
            @change="put({ validDays: Number(valueOf($event)) })"
        /></label>
      </div>
    </fieldset>
  </section>
  <section>
    <h2>Teams</h2>
    <label v-for="one in team?.items ?? []" :key="one.id" class="row"
      ><span>{{ one.name }}</span
      ><input
        class="inline-edit"
        :value="one.team"
        :disabled="!mayEdit"
        maxlength="60"
        placeholder="none"
        @change="
          saveTeam('Changed.', () =>
            api('PATCH /api/users/:id', { params: { id: one.id }, body: { team: valueOf($event) } }),
          )
        "
    /></label>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.row {
  display: grid;
  grid-template-columns: 1fr 160px;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
}
</style>
