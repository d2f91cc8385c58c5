<script setup lang="ts">
import type { About } from '@emporikon/contract/ledger';
import { api } from '../shell/api';
import { calendarDay, percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { promiseWords } from '../cases/words';

/** The open cases and projects of a person, a company or a deal; nothing where there are none. */
const props = defineProps<{ about: Pick<About, 'personId' | 'companyId' | 'dealId'> }>();
const { data: cases } = useFetched(
  async () =>
    props.about.dealId
      ? { items: [] }
      : api('GET /api/cases', {
          query: { personId: props.about.personId, companyId: props.about.companyId, limit: 5 },
        }),
  ['cases', 'ledger_links'],
  () => Object.values(props.about),
);
const { data: projects } = useFetched(
  () => api('GET /api/projects', { query: { ...props.about, limit: 5 } }),
  ['projects', 'project_people', 'tasks'],
  () => Object.values(props.about),
);
</script>

<template>
  <div v-if="cases?.items.length" class="after">
    <span class="cap">Cases</span>
    <div v-for="one in cases.items" :key="one.id" class="d">
      <RouterLink :to="`/cases/${one.id}`" class="quiet-link name" :title="one.title">{{
        one.title
      }}</RouterLink>
      <span :class="one.late ? 'late' : 'soft'">{{ promiseWords(one) }}</span>
    </div>
  </div>
  <div v-if="projects?.items.length" class="after">
    <span class="cap">Projects</span>
    <div v-for="one in projects.items" :key="one.id" class="d">
      <RouterLink :to="`/projects/${one.id}`" class="quiet-link name" :title="one.title">{{
        one.title
      }}</RouterLink>
      <span :class="one.isLate ? 'late' : 'soft'"
        >{{ one.stage.name
        }}<template v-if="one.progress !== null">, {{ percent(one.progress / 100) }}</template
        ><template v-if="one.dueOn">, due {{ calendarDay(one.dueOn) }}</template></span
      >
    </div>
  </div>
</template>

<style scoped>
.cap {
  display: block;
}
.d {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  min-height: 24px;
}
</style>
