<script setup lang="ts">
import type { MergeNote, ToldApart } from '@emporikon/contract/lookAlikes';
import { defineAsyncComponent, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useSession } from '../shell/session';
import { api } from '../shell/api';
import { shortDay } from '../shell/format';
import { useUndo } from '../shell/undo';

const props = defineProps<{
  id: string;
  kind: 'person' | 'company';
  merged: MergeNote[];
  toldApart: ToldApart[];
}>();
const UnmergeDialog = defineAsyncComponent(() => import('./UnmergeDialog.vue'));
const MergeWith = defineAsyncComponent(() => import('./MergeWith.vue'));
const router = useRouter();
const session = useSession();
const undo = useUndo();
const apart = ref<MergeNote | null>(null);
const emit = defineEmits<{ changed: [] }>();
const isPicking = defineModel<boolean>('isPicking', { default: false });
const compare = (other: string): Promise<unknown> =>
  router.push({
    path: props.kind === 'person' ? '/people/look-alikes' : '/companies/look-alikes',
    query: { ids: `${props.id},${other}` },
  });
async function forget({ id, other }: ToldApart): Promise<void> {
  try {
    const { eventId } = await api('DELETE /api/told-apart/:id', { params: { id } });
    undo.tell({ text: `${other.name} may be found alike again.`, eventId });
    emit('changed');
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <span class="merged soft">
    <template v-for="one in merged" :key="one.id">
      <span
        >{{ one.label }} was merged into this on {{ shortDay(one.at)
        }}<template v-if="one.actor"> by {{ one.actor.name }}</template
        >: <v-btn class="word" @click="apart = one">Separate again</v-btn></span
      >
    </template>
    <span v-for="one in toldApart" :key="one.id"
      >Not the same as
      <RouterLink :to="`/${kind === 'person' ? 'people' : 'companies'}/${one.other.id}`">{{
        one.other.name
      }}</RouterLink><template v-if="one.other.hint"> ({{ one.other.hint }})</template>:
      {{ one.how === 'namesakes' ? 'namesakes' : 'father and son' }}, said
      {{ one.actor ? `by ${one.actor.name} ` : '' }}on {{ shortDay(one.at) }}.
      <v-btn v-if="session.may('people.change')" class="word" @click="forget(one)">Take back</v-btn></span
    >
    <MergeWith v-if="isPicking" :id="id" :kind="kind" @pick="compare" />
    <UnmergeDialog v-if="apart" :merge="apart" @close="apart = null" />
  </span>
</template>

<style scoped>
.merged {
  display: contents;
}
</style>
