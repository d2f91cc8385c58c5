<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { money } from '../shell/format';
import NextMoveLine from './NextMoveLine.vue';

defineProps<{
  dossier: Pick<PersonDossier, 'nextMove' | 'deals' | 'leads'>;
  people: { id: string; name: string; jobTitle?: string | null }[];
  peopleTitle: string;
}>();
</script>

<template>
  <div class="side">
    <div>
      <span class="cap">Next move</span>
      <NextMoveLine :move="dossier.nextMove" />
    </div>
    <div v-if="dossier.deals.length">
      <span class="cap">Deals</span>
      <div v-for="deal in dossier.deals.slice(0, 3)" :key="deal.id">
        <div class="d">
          <RouterLink :to="`/deals/${deal.id}`" class="quiet-link">{{ deal.name }}</RouterLink><b
            class="num"
            >{{ money(deal.amountMinor, deal.currency) }}</b
          >
        </div>
        <div class="d soft">
          <span>{{ deal.stage }} · {{ deal.days }} days</span><span class="num">{{ deal.probability }}%</span>
        </div>
      </div>
    </div>
    <div v-if="dossier.leads.length">
      <span class="cap">Leads</span>
      <div v-for="lead in dossier.leads.slice(0, 3)" :key="lead.id" class="d">
        <RouterLink :to="`/leads/${lead.id}`" class="quiet-link">{{ lead.name }}</RouterLink><span
          class="soft"
          >{{ lead.status }}</span
        >
      </div>
    </div>
    <div v-if="people.length">
      <span class="cap">{{ peopleTitle }}</span>
      <div v-for="one in people.slice(0, 6)" :key="one.id">
        <RouterLink :to="`/people/${one.id}`" class="quiet-link">{{ one.name }}</RouterLink><span
          v-if="one.jobTitle"
          class="soft"
          >, {{ one.jobTitle }}</span
        >
      </div>
    </div>
  </div>
</template>

<style scoped>
.side {
  border-left: 1px solid var(--rule);
  padding-left: 22px;
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
/* Links one under the other keep the distance of a fingertip (WCAG 2.2, 2.5.8). */
.side > div > div {
  min-height: 24px;
}
@media (max-width: 700px) {
  .side {
    border: 0;
    padding: 8px 0 0;
  }
}
</style>
