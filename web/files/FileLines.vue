<script setup lang="ts">
import type { File } from '@emporikon/contract/files';
import { day, fileSize } from '../shell/format';
import FileLink from './FileLink.vue';
import { stateWords } from './words';

/** Files one below the other: what they are called, how large they are, who added them when. */
defineProps<{
  files: readonly File[];
  /** Says of each whom it belongs to. */
  saysWhose?: boolean;
}>();
const whose = ({ people, companies, task }: File): string =>
  [people[0] ?? companies[0], task].flatMap((one) => (one ? [one.name] : [])).join(', ');
</script>

<template>
  <ul class="files">
    <li v-for="file in files" :key="file.id">
      <FileLink :file="file" />
      <span class="soft"
        >{{ fileSize(file.size) }} · {{ day(file.at) }}, {{ file.by ?? 'by email'
        }}<template v-if="file.number > 1"> · version {{ file.number }}</template
        ><template v-if="saysWhose && whose(file)"> · {{ whose(file) }}</template></span
      >
      <span v-if="stateWords(file)" class="late">{{ stateWords(file) }}</span>
    </li>
  </ul>
</template>

<style scoped>
.files {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: baseline;
  min-height: 30px;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
  overflow-wrap: anywhere;
}
li :deep(a) {
  min-height: 24px;
}
</style>
