<script setup lang="ts">
import type { Pipeline } from '@emporikon/contract/deals';
import { calendarDay, due, money } from '../shell/format';

const props = defineProps<{ pipeline: Pipeline }>();
const stageName = (id: string): string => props.pipeline.stages.find((stage) => stage.id === id)?.name ?? '';
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
          <th class="num wide">Chance</th>
          <th class="wide">Expected</th>
          <th>Next move</th>
          <th class="wide">Owner</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="deal in pipeline.deals" :key="deal.id">
          <td>
            <RouterLink :to="`/deals/${deal.id}`"
              ><b>{{ deal.title }}</b></RouterLink
            >
          </td>
          <td>{{ stageName(deal.stageId) }}</td>
          <td class="num wide">{{ deal.days }}</td>
          <td class="num">{{ money(deal.amountMinor, deal.currency) }}</td>
          <td class="num wide">{{ deal.probability }}%{{ deal.probabilityByHand ? ' *' : '' }}</td>
          <td class="wide">{{ deal.expectedClose ? calendarDay(deal.expectedClose) : '' }}</td>
          <td>
            <template v-if="deal.nextMove">{{ deal.nextMove.title }}, {{ due(deal.nextMove) }}</template
            ><span v-else class="late">none set</span>
          </td>
          <td class="wide soft">{{ deal.owner.name }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="!pipeline.deals.length" class="empty">No deals yet. Converting a lead makes one.</p>
    <p class="cap">* set by hand</p>
  </div>
</template>
