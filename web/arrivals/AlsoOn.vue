<script setup lang="ts">
import type { OnMessage } from '@emporikon/contract/captures';
import type { FilingInput } from '@emporikon/contract/filing';
import { watch } from 'vue';
import type { z } from 'zod';

type Also = NonNullable<z.output<typeof FilingInput>['also']>;

/** Who else is on a message: those we know get it as well, strangers can be added with it. */
const props = defineProps<{ people: OnMessage[]; isOpen: boolean }>();
/** Undefined until somebody chooses: then those we know for sure. */
const also = defineModel<Also | undefined>({ required: true });

watch(
  () => props.people.map(({ address }) => address).join(),
  () => (also.value = undefined),
);
const shownOf = ({ verdict, address, person }: OnMessage): Also =>
  verdict === 'same' && person ? [{ address, person: person.id }] : [];
const chosen = (): Also => also.value ?? props.people.flatMap(shownOf);
const isChosen = ({ address }: OnMessage): boolean => chosen().some((one) => one.address === address);
function turn(one: OnMessage): void {
  const rest = chosen().filter(({ address }) => address !== one.address);
  also.value = isChosen(one) ? rest : [...rest, { address: one.address, person: one.person?.id ?? 'new' }];
}
const wordsOf = ({ verdict, person }: OnMessage): string =>
  verdict === 'maybe' ? `maybe ${person?.name ?? ''}` : 'new';
</script>

<template>
  <section v-if="people.length" class="also" aria-label="Also on this message">
    <h3>Also on this message</h3>
    <ul>
      <li v-for="one in people" :key="one.address" :title="one.address">
        <v-checkbox-btn
          v-if="isOpen"
          :model-value="isChosen(one)"
          :label="one.name"
          @update:model-value="turn(one)"
        />
        <RouterLink v-else-if="one.verdict === 'same' && one.person" :to="`/people/${one.person.id}`">{{
          one.name
        }}</RouterLink>
        <span v-else>{{ one.name }}</span>
        <span v-if="one.verdict !== 'same'" class="cap">{{ wordsOf(one) }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.also {
  margin: 8px 0 2px;
}
ul {
  list-style: none;
  margin: 2px 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
li {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 28px;
}
</style>
