<script setup lang="ts">
import type { Stage } from '@emporikon/contract/deals';
import Fact from '../dossier/Fact.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

defineProps<{ mayEdit: boolean }>();
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/stages'), ['stages']);

type Patch = { name?: string; probability?: number; typicalDays?: number };
async function put(stage: Stage, patch: Patch, version = stage.version): Promise<void> {
  const { eventId } = await api('PATCH /api/stages/:id', {
    params: { id: stage.id },
    body: { version, ...patch },
  });
  undo.tell({ text: 'Changed.', eventId });
  await load();
}
</script>

<template>
  <section>
    <h2>Stages</h2>
    <p class="soft">A deal that moves takes the usual chance of its stage along.</p>
    <div v-for="one in data?.items ?? []" :key="one.id" class="stage">
      <Fact
        label="Stage"
        field="name"
        :value="one.name"
        :save="mayEdit ? (value, version) => put(one, { name: value }, version) : undefined"
      />
      <Fact
        label="Usual chance, %"
        field="probability"
        :value="String(one.probability)"
        :save="mayEdit ? (value, version) => put(one, { probability: Number(value) }, version) : undefined"
      />
      <Fact
        label="Typical days"
        field="typicalDays"
        :value="String(one.typicalDays)"
        :save="mayEdit ? (value, version) => put(one, { typicalDays: Number(value) }, version) : undefined"
      />
    </div>
  </section>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
.stage {
  display: grid;
  grid-template-columns: 1.4fr 1fr 1fr;
  gap: 12px;
}
</style>
