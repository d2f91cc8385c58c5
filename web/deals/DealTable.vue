<script setup lang="ts">
import type { Board, DealRow } from '@emporikon/contract/deals';
import { calendarDay, due, money, percent } from '../shell/format';

const props = defineProps<{ stages: Board['stages']; deals: DealRow[]; hasMore: boolean }>();
defineEmits<{ more: [] }>();
const stageName = (id: string): string => props.stages.find((stage) => stage.id === id)?.name ?? '';
</script>

<template>
  <div class="page">
    <table class="book">
      <thead>
        <tr>
          <th>Deal</th>
          <th>Stage</th>
          <th class="num wide">Days</th>
          <th class="num">Amount</th>
          <th class="num wide">By stage</th>
          <th class="num wide">Win chance</th>
          <th class="wide">Expected</th>
          <th>Next move</th>
          <th class="wide">Owner</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="deal in deals" :key="deal.id">
          <td>
            <RouterLink :to="`/deals/${deal.id}`"
              ><b>{{ deal.title }}</b></RouterLink
            >
          </td>
          <td>{{ stageName(deal.stageId) }}</td>
          <td class="num wide">{{ deal.days }}</td>
          <td class="num">{{ money(deal.amountMinor, deal.currency) }}</td>
          <td class="num wide">{{ deal.probability }}%{{ deal.probabilityByHand ? ' *' : '' }}</td>
          <td class="num wide">{{ deal.winChance === null ? '' : percent(deal.winChance) }}</td>
          <td class="wide">{{ deal.expectedClose ? calendarDay(deal.expectedClose) : '' }}</td>
          <td>
            <template v-if="deal.nextMove">{{ deal.nextMove.title }}, {{ due(deal.nextMove) }}</template
            ><span v-else class="late">none set</span>
          </td>
          <td class="wide soft">{{ deal.owner.name }}</td>
        </tr>
      </tbody>
    </table>
    <v-btn v-if="hasMore" class="quiet" @click="$emit('more')">More deals</v-btn>
    <p v-if="!deals.length" class="empty">
      None here. Converting a lead makes a deal; or a filter leaves them out.
    </p>
    <p class="cap">* set by hand</p>
  </div>
</template>
