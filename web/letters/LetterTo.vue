<script setup lang="ts">
import type { Letter } from '@emporikon/contract/letters';
import { computed, ref } from 'vue';
import { isBad, outcomeWords } from './outcomes';
import RecipientField from './RecipientField.vue';
import { ofWay, type Recipient, type Way } from './recipients';

/** Whom a letter is to; once it went out, what became of it at each address. */
const props = defineProps<{ letter: Letter; isDraft: boolean }>();
const emit = defineEmits<{ put: [recipients: (Recipient & { way: Way })[]] }>();
const WAYS = { to: 'To', cc: 'Copies', bcc: 'Blind copies' } as const;
const isAdding = ref(false);
const isCopied = computed(() => isAdding.value || props.letter.recipients.some(({ way }) => way !== 'to'));
const ways = computed((): Way[] => (isCopied.value ? ['to', 'cc', 'bcc'] : ['to']));

function put(way: Way, chosen: Recipient[]): void {
  const all = (['to', 'cc', 'bcc'] as const).flatMap((one) =>
    (one === way ? chosen : ofWay(props.letter, one)).map((recipient) => ({ ...recipient, way: one })),
  );
  emit('put', all);
}
</script>

<template>
  <template v-if="isDraft">
    <RecipientField
      v-for="way in ways"
      :key="way"
      :label="WAYS[way]"
      :model-value="ofWay(letter, way)"
      @update:model-value="put(way, $event)"
    />
    <div v-if="!isCopied"><v-btn class="word" @click="isAdding = true">Add copies</v-btn></div>
  </template>
  <ul v-else>
    <li v-for="one in letter.recipients" :key="one.address">
      <RouterLink v-if="one.personId" :to="`/people/${one.personId}`" class="quiet-link">{{
        one.name || one.address
      }}</RouterLink><span v-else>{{ one.name || one.address }}</span>
      <span v-if="one.way !== 'to'" class="soft">, {{ one.way === 'cc' ? 'copy' : 'blind copy' }}</span
      >{{ ' ' }}<span :class="isBad(one) ? 'wrong' : 'soft'">{{ outcomeWords(one) }}</span>
      <span v-if="one.words" class="cap said">{{ one.words }}</span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--rule2);
  padding: 4px 0;
}
.said {
  display: block;
  overflow-wrap: anywhere;
}
</style>
