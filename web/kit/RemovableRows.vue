<script setup lang="ts">
/** A short table of settings, a line each, that can be removed by whoever may. */
defineProps<{
  heads: readonly string[];
  rows: readonly { id: string; cells: readonly string[] }[];
  /** What the action says. */
  remove?: string;
  canRemove: boolean;
  /** What stands there while there are no rows. */
  empty: string;
}>();
const emit = defineEmits<{ remove: [id: string, name: string] }>();
</script>

<template>
  <p v-if="!rows.length" class="empty">{{ empty }}</p>
  <v-table v-else class="book rows">
    <thead>
      <tr>
        <th v-for="head in heads" :key="head">{{ head }}</th>
        <th>
          <span class="visually-hidden">{{ remove ?? 'Remove' }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.id">
        <td v-for="cell in row.cells" :key="cell">{{ cell }}</td>
        <td>
          <v-btn
            v-if="canRemove"
            class="word"
            :aria-label="`${remove ?? 'Remove'} ${row.cells[0] ?? ''}`"
            @click="emit('remove', row.id, row.cells[0] ?? '')"
            >{{ remove ?? 'Remove' }}</v-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.rows {
  max-width: 640px;
}
</style>
