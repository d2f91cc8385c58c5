<script setup lang="ts">
import CellExamples from './CellExamples.vue';
import FieldExamples from './FieldExamples.vue';
import OtherExamples from './OtherExamples.vue';
import TableExample from './TableExample.vue';
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>The kit</h1></div>
    <CellExamples />
    <FieldExamples />
    <OtherExamples />
    <TableExample />
  </div>
</template>
