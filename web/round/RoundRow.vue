<script setup lang="ts">
import type { RoundLine } from '@emporikon/contract/round';
import { computed, ref, useTemplateRef, watch } from 'vue';
import DateField from '../kit/DateField.vue';
import { money } from '../shell/format';
import { useSession } from '../shell/session';
import TaskLink from '../tasks/TaskLink.vue';
import { besidesWords, reasonWords } from './words';

/** One line of the round: who or what, why, and what can be done with it. */
const props = defineProps<{
  line: RoundLine;
  position: number;
  isChosen: boolean;
  isMoving: boolean;
  showsOwner: boolean;
  to: string | null;
}>();
const emit = defineEmits<{
  done: [];
  move: [];
  later: [day: string];
  call: [];
  write: [];
  choose: [];
}>();
const row = useTemplateRef('row');
watch(
  () => props.isChosen,
  (isChosen) => isChosen && row.value?.scrollIntoView({ block: 'nearest' }),
);
const reason = computed(() => reasonWords(props.line, props.line.usualWaitHours));
const name = computed(
  () =>
    props.line.person?.name ??
    props.line.deal?.name ??
    props.line.lead?.name ??
    props.line.company?.name ??
    '',
);
const more = computed(() => {
  const { company, deal, lead, person } = props.line;
  const sum = deal?.amountMinor ? money(deal.amountMinor, deal.currency) : '';
  return [
    company && company.name !== name.value && !(deal ?? lead)?.name.startsWith(company.name)
      ? company.name
      : '',
    deal && deal.name !== name.value ? deal.name : '',
    sum,
    !deal && lead && person ? lead.name : '',
  ].filter(Boolean);
});
const title = computed(() => props.line.task?.title ?? props.line.case?.name ?? name.value);
/** What its first button does. */
const finishWord = computed(() =>
  props.line.task && !props.line.isAsked ? 'Done' : props.line.kind === 'turn' ? 'Answered' : 'Not today',
);
const session = useSession();
const isWhy = ref(false);
</script>

<template>
  <li
    ref="row"
    data-round-line
    :class="{ chosen: isChosen }"
    :aria-current="isChosen ? 'true' : undefined"
    @pointerdown="emit('choose')"
  >
    <span class="position" :class="reason.tone">{{ position }}</span>
    <div class="what">
      <div>
        <b v-if="line.task"><TaskLink :task="line.task" /></b>
        <b v-if="line.case"
          ><RouterLink :to="`/cases/${line.case.id}`" class="quiet-link">{{ line.case.name }}</RouterLink></b
        >
        <template v-if="(line.task || line.case) && name"> · </template>
        <RouterLink
          v-if="name && to"
          :to="to"
          class="quiet-link"
          :class="{ strong: !line.task && !line.case }"
          >{{ name }}</RouterLink><span v-for="one in more" :key="one"> · {{ one }}</span
        ><span v-if="line.isImportant" class="soft"> · important</span>
        <span v-if="showsOwner" class="soft"> · {{ line.owner.name }}</span>
      </div>
      <div class="why">
        <b :class="reason.tone">{{ reason.strong }}</b>{{ reason.rest }}
        <span v-if="line.besides.length">Also: {{ besidesWords(line) }}.</span>
        <v-btn
          class="word"
          :aria-expanded="isWhy"
          :aria-label="`${line.points} points: why ${title} stands here`"
          @click="isWhy = !isWhy"
          >{{ line.points }} points</v-btn
        >
      </div>
      <ul v-if="isWhy" class="parts">
        <li v-for="part in line.parts" :key="part.words">
          <span>{{ part.words }}</span><span class="figure">{{ part.points }}</span>
        </li>
      </ul>
      <DateField
        v-if="isMoving"
        class="day"
        :model-value="''"
        :label="`Later: ${title}, on`"
        placeholder="Fri, in 3 working days, end of month"
        autofocus
        @change="emit('later', $event)"
        @keydown.esc.stop="emit('move')"
      />
    </div>
    <span class="do">
      <v-btn
        v-if="isChosen && line.person && session.may('ledger.add')"
        class="word"
        :aria-label="`Call ${name}`"
        @click="emit('call')"
        >Call</v-btn
      >
      <v-btn
        v-if="isChosen && line.email"
        class="word"
        :aria-label="`Write to ${name}`"
        @click="emit('write')"
        >Write</v-btn
      >
      <v-btn
        v-if="!line.task || session.may('tasks.change')"
        class="word"
        :aria-label="`${finishWord}: ${title}`"
        @click="emit('done')"
        >{{ finishWord }}</v-btn
      >
      <v-btn class="word" :aria-label="`Later: ${title}`" :aria-expanded="isMoving" @click="emit('move')"
        >Later…</v-btn
      >
    </span>
  </li>
</template>

<style scoped>
[data-round-line] {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) auto;
  gap: 2px 14px;
  padding: 8px 10px;
  border-bottom: 1px solid var(--rule);
  border-left: 3px solid transparent;
}
.chosen {
  background: var(--sheet);
  border-left-color: var(--ours);
}
.position {
  font-family: 'Literata Variable', serif;
  font-size: 17px;
  text-align: right;
  color: var(--soft);
}
.position.wait,
.wait {
  color: var(--wait);
}
.ours {
  color: var(--ours);
}
.plain {
  color: inherit;
}
.strong {
  font-weight: 600;
}
.why {
  color: var(--soft);
  font-size: 13px;
}
.why .word {
  margin-left: 6px;
  font-size: 12px;
}
.parts {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  max-width: 460px;
  font-size: 12.5px;
}
.parts li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--rule2);
  padding: 2px 0;
}
.figure {
  font-variant-numeric: tabular-nums;
}
.day {
  max-width: 340px;
  margin-top: 6px;
}
.do {
  display: flex;
  align-items: baseline;
  gap: 12px;
}
@media (max-width: 700px) {
  [data-round-line] {
    grid-template-columns: 22px minmax(0, 1fr);
  }
  .do {
    grid-column: 2;
  }
}
</style>
