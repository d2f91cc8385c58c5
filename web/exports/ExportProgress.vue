<script setup lang="ts">
import UnderWay from '../kit/UnderWay.vue';
import { plainNumber } from '../shell/format';
import { useExports } from './useExports';

/** How far the file is that somebody waits for, whatever page is open. */
const exports = useExports();
</script>

<template>
  <UnderWay
    v-if="exports.current"
    label="Export"
    :title="`Exporting ${plainNumber(exports.current.total)}: ${exports.current.label}`"
    :done="exports.current.done"
    :total="exports.current.total"
  >
    <v-btn class="word" @click="exports.remove(exports.current)">Stop</v-btn>
  </UnderWay>
</template>
