<script setup lang="ts">
import type { Topic } from '@emporikon/contract/consent';
import { ref } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { shortDay } from '../shell/format';
import { useFetched } from '../shell/live';

/** Who subscribed to a topic, of all places or of one. */
const props = defineProps<{ topic: Topic }>();
const emit = defineEmits<{ close: [] }>();
const country = ref('');
const postCode = ref('');
const cursor = ref<string | undefined>();
const isOfPlace = (): boolean => /^[A-Za-z]{2}$/.test(country.value) && postCode.value.trim() !== '';
const { data, error } = useFetched(
  () =>
    api('GET /api/topics/:id/subscribers', {
      params: { id: props.topic.id },
      query: {
        limit: 100,
        ...(cursor.value ? { cursor: cursor.value } : {}),
        ...(isOfPlace()
          ? { country: country.value.toUpperCase() as never, postCode: postCode.value.trim() as never }
          : {}),
      },
    }),
  ['consents', 'people'],
  () => [props.topic.id, isOfPlace() ? `${country.value} ${postCode.value}` : '', cursor.value],
);
</script>

<template>
  <SidePanel :label="topic.name" @close="emit('close')">
    <div class="subscribers">
      <h2>Subscribers</h2>
      <div v-if="topic.byArea" class="place">
        <v-text-field v-model="country" label="Country" placeholder="PT" maxlength="2" />
        <v-text-field v-model="postCode" label="Post code" placeholder="1100-042" maxlength="12" />
      </div>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="!data"><span v-for="n in 5" :key="n" class="ghost"></span></template>
      <p v-else-if="!data.items.length" class="empty">
        {{ isOfPlace() ? 'Nobody subscribed for this place.' : 'Nobody subscribed yet.' }}
      </p>
      <p v-for="one in data?.items ?? []" :key="one.id" class="one">
        <RouterLink :to="`/people/${one.id}`" class="quiet-link">{{ one.name }}</RouterLink>
        <span :class="one.address ? 'soft' : 'wrong'">{{ one.address ?? 'no address that works' }}</span>
        <span class="soft num">since {{ shortDay(one.since) }}</span>
      </p>
      <v-btn v-if="data?.next" class="word" @click="cursor = data.next ?? undefined">Next</v-btn>
      <v-btn v-if="cursor" class="word" @click="cursor = undefined">From the beginning</v-btn>
    </div>
  </SidePanel>
</template>

<style scoped>
.subscribers {
  padding: 14px 24px 24px;
}
.place {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 10px;
  padding: 8px 0;
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  margin: 0;
  padding: 6px 0;
  border-top: 1px solid var(--rule2);
}
</style>
