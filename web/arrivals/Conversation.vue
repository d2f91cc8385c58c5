<script setup lang="ts">
import type { CaptureDetail } from '@emporikon/contract/captures';
import { clock, day } from '../shell/format';

defineProps<{ said: NonNullable<CaptureDetail['page']>['conversation'] }>();
</script>

<template>
  <ol>
    <li v-for="(one, index) in said" :key="index">
      <span class="cap"
        ><b>{{ one.from }}</b
        ><template v-if="one.at"> · {{ day(one.at) }} {{ clock(one.at) }}</template
        ><template v-if="one.filed"> · in the ledger already</template></span
      >
      <p>{{ one.text }}</p>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 10px 0;
}
li {
  padding: 8px 0;
  border-top: 1px solid var(--rule2);
}
p {
  margin: 2px 0 0;
  white-space: pre-line;
}
</style>
