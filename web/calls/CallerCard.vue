<script setup lang="ts">
import type { Caller } from '@emporikon/contract/calls';
import TurnWords from '../dossier/TurnWords.vue';
import { day, due, money } from '../shell/format';

defineProps<{ caller: Caller; isChosen: boolean }>();
</script>

<template>
  <div class="caller" :class="{ chosen: isChosen }">
    <RouterLink :to="`/people/${caller.person.id}`" class="name" target="_blank">{{
      caller.person.name
    }}</RouterLink>
    <span class="soft">{{ [caller.jobTitle, caller.company?.name].filter(Boolean).join(', ') }}</span>
    <div>
      <TurnWords :turn="caller.turn" /><span v-if="caller.owner" class="soft"> · {{ caller.owner }}</span>
    </div>
    <div v-if="caller.lastWords" class="soft">
      {{ day(caller.lastWords.at) }}: {{ caller.lastWords.headline }}
    </div>
    <div v-for="deal in caller.deals" :key="deal.id">
      {{ deal.name }} <span class="num">{{ money(deal.amountMinor, deal.currency) }}</span>
      <span class="soft">{{ deal.stage }}</span>
    </div>
    <div v-if="caller.nextMove" class="soft">
      Next: {{ caller.nextMove.title }}, {{ due(caller.nextMove) }}
    </div>
  </div>
</template>

<style scoped>
.caller {
  padding: 6px 0 6px 10px;
  border-left: 3px solid var(--rule);
}
.chosen {
  border-color: var(--theirs);
}
.name {
  font: 600 16px var(--head);
  margin-right: 8px;
}
</style>
