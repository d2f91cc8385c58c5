<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { counted, money, percent } from '../shell/format';
import OpenMoves from './OpenMoves.vue';
import { useTerms } from '../terms/useTerms';

/** Beside the facts of a card: what comes next and what it is about, then the people around it. */
defineProps<{
  dossier: Pick<PersonDossier, 'moves' | 'deals' | 'leads'>;
  people: { id: string; name: string; jobTitle?: string | null }[];
  peopleTitle: string;
}>();
const { nameOf } = useTerms();
</script>

<template>
  <div class="side" :class="{ two: people.length || $slots.default }">
    <div class="column">
      <OpenMoves :moves="dossier.moves" />
      <div v-if="dossier.deals.length">
        <span class="cap">Deals</span>
        <div v-for="deal in dossier.deals" :key="deal.id">
          <div class="d">
            <RouterLink :to="`/deals/${deal.id}`" class="quiet-link name" :title="deal.name">{{
              deal.name
            }}</RouterLink><b class="num">{{ money(deal.amountMinor, deal.currency) }}</b>
          </div>
          <div class="d soft">
            <span>{{ deal.stage }}, {{ counted(deal.days, 'day') }}</span
            ><span class="num">{{ percent(deal.probability / 100) }}</span>
          </div>
        </div>
      </div>
      <div v-if="dossier.leads.length">
        <span class="cap">Leads</span>
        <div v-for="lead in dossier.leads" :key="lead.id" class="d">
          <RouterLink :to="`/leads/${lead.id}`" class="quiet-link name" :title="lead.name">{{
            lead.name
          }}</RouterLink><span class="soft">{{ nameOf(lead.status) }}</span>
        </div>
      </div>
    </div>
    <div v-if="people.length || $slots.default" class="column">
      <div v-if="people.length">
        <span class="cap">{{ peopleTitle }}</span>
        <div v-for="one in people" :key="one.id" class="person">
          <RouterLink :to="`/people/${one.id}`" class="quiet-link">{{ one.name }}</RouterLink><span
            v-if="one.jobTitle"
            class="soft"
            >, {{ one.jobTitle }}</span
          >
        </div>
      </div>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.side {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0 22px;
  min-width: 0;
}
.two {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}
.column {
  border-left: 1px solid var(--rule);
  padding-left: 18px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
}
.cap {
  display: block;
}
.d {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.name,
.person {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.d b,
.d .num {
  white-space: nowrap;
}
/* Links one under the other keep the distance of a fingertip (WCAG 2.2, 2.5.8). */
.column > div > div {
  min-height: 24px;
}
@media (max-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px 0;
  }
}
@media (max-width: 700px) {
  .side {
    padding: 8px 0 0;
  }
  .column {
    border: 0;
    padding-left: 0;
  }
}
</style>
