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
const isPicking = ref(false);
const compare = (other: string): Promise<unknown> =>
  router.push({ path: '/look-alikes', query: { kind: props.kind, ids: `${props.id},${other}` } });
</script>

<template>
  <span class="merged soft">
    <template v-for="one in merged" :key="one.id">
      <span
        >{{ one.label }} was made one with this on {{ shortDay(one.at)
        }}<template v-if="one.actor"> by {{ one.actor.name }}</template
        >: <button class="word" @click="apart = one">take apart</button></span
      >
    </template>
    <button class="word" :aria-expanded="isPicking" @click="isPicking = !isPicking">
      {{ kind === 'person' ? 'Same as somebody else…' : 'Same as another…' }}
    </button>
    <MergeWith v-if="isPicking" :id="id" :kind="kind" @pick="compare" />
    <UnmergeDialog v-if="apart" :merge="apart" @close="apart = null" />
  </span>
</template>

<style scoped>
.merged {
  display: contents;
}
</style>
