<script setup lang="ts">
import type { MergeNote } from '@emporikon/contract/lookAlikes';
import { defineAsyncComponent, ref } from 'vue';
import { useRouter } from 'vue-router';
import { shortDay } from '../shell/format';

const props = defineProps<{ id: string; kind: 'person' | 'company'; merged: MergeNote[] }>();
const UnmergeDialog = defineAsyncComponent(() => import('./UnmergeDialog.vue'));
const MergeWith = defineAsyncComponent(() => import('./MergeWith.vue'));
const router = useRouter();
const apart = ref<MergeNote | null>(null);
const isPicking = defineModel<boolean>('isPicking', { default: false });
const compare = (other: string): Promise<unknown> =>
  router.push({
    path: props.kind === 'person' ? '/people/look-alikes' : '/companies/look-alikes',
    query: { ids: `${props.id},${other}` },
  });
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
    <MergeWith v-if="isPicking" :id="id" :kind="kind" @pick="compare" />
    <UnmergeDialog v-if="apart" :merge="apart" @close="apart = null" />
  </span>
</template>

<style scoped>
.merged {
  display: contents;
}
</style>
