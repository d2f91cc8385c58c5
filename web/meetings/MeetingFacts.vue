<script setup lang="ts">
import type { Attendee, TaskDetail } from '@emporikon/contract/tasks';
import { computed, ref } from 'vue';
import EditCell from '../kit/EditCell.vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';
import AttendeePicker from './AttendeePicker.vue';
import FreeTimes from './FreeTimes.vue';
import { pickedOf, wantedOf, type Picked } from './picked';

/** Of a task that is a meeting: where it is, who comes and what they answered, and another time for it. */
const props = defineProps<{ task: TaskDetail }>();
const session = useSession();
const run = useTaskAction();
const isMoving = ref(false);
const params = computed(() => ({ id: props.task.id }));
const patch = (body: Record<string, unknown>, text: string): Promise<boolean> =>
  run(text, () =>
    api('PATCH /api/tasks/:id', {
      params: params.value,
      body: { version: props.task.version, ...body },
    }),
  );
const savePlace = async (place: string, version: number): Promise<void> => {
  await api('PATCH /api/tasks/:id', { params: params.value, body: { version, place } });
};
const putPeople = (people: readonly Picked[], text: string): Promise<boolean> =>
  patch({ people: people.map(wantedOf) }, text);
const chosen = computed(() => props.task.people.map(pickedOf));
const add = (who: Picked): Promise<boolean> => putPeople([...chosen.value, who], `${who.name} comes too.`);
const remove = (who: Attendee): Promise<boolean> =>
  putPeople(
    props.task.people.filter(({ id }) => id !== who.id).map(pickedOf),
    `${who.name || who.email} does not come.`,
  );
const mine = computed(() => props.task.people.find(({ userId }) => userId === session.me?.id));
const answer = (word: 'accepted' | 'tentative' | 'declined', text: string): Promise<boolean> =>
  run(text, () => api('POST /api/tasks/:id/answer', { params: params.value, body: { answer: word } }));

const ANSWERS = {
  waiting: 'no answer yet',
  accepted: 'accepted',
  tentative: 'may come',
  declined: 'declined',
};
function stateOf({ answer: word, invited, email, userId }: Attendee): string {
  if (word !== 'waiting') return ANSWERS[word];
  if (!email) return 'no email address';
  if (invited === 'yes') return 'invited, no answer yet';
  if (invited === 'on its way') return 'invitation on its way';
  return userId ? ANSWERS.waiting : 'not invited by mail';
}
const toneOf = ({ answer: word }: Attendee): string =>
  word === 'accepted' ? 'yes' : word === 'declined' ? 'late' : 'soft';
const colleagueIds = computed(() => props.task.people.flatMap(({ userId }) => userId ?? []));
async function take({ start, end }: { start: string; end: string }): Promise<void> {
  if (await patch({ dueAt: start, endAt: end, allDay: false }, `Moved to ${day(start)}, ${clock(start)}.`))
    isMoving.value = false;
}
</script>

<template>
  <section>
    <h3>Where and with whom</h3>
    <p v-if="mine && !task.doneAt" class="ways">
      <span>Do you come?</span>
      <v-btn class="word" :aria-pressed="mine.answer === 'accepted'" @click="answer('accepted', 'You come.')"
        >Yes</v-btn
      >
      <v-btn
        class="word"
        :aria-pressed="mine.answer === 'tentative'"
        @click="answer('tentative', 'You may come.')"
        >Maybe</v-btn
      >
      <v-btn
        class="word"
        :aria-pressed="mine.answer === 'declined'"
        @click="answer('declined', 'You do not come.')"
        >No</v-btn
      >
    </p>
    <span class="cap">Where</span>
    <EditCell
      :value="task.place"
      label="Where"
      placeholder="Add an address, room or link"
      :save="savePlace"
      :version="task.version"
      field="place"
    />
    <ul v-if="task.people.length" aria-label="Who comes">
      <li v-for="one in task.people" :key="one.id">
        <span>
          <RouterLink v-if="one.personId" :to="`/people/${one.personId}`" class="quiet-link">{{
            one.name
          }}</RouterLink><template v-else>{{ one.name || one.email }}</template>
          <span :class="toneOf(one)"> {{ stateOf(one) }}</span>
          <span v-if="one.comment" class="said">“{{ one.comment }}”</span>
          <span v-if="one.proposes" class="said"
            >proposes {{ day(one.proposes.start) }}, {{ clock(one.proposes.start) }}–{{
              clock(one.proposes.end)
            }}
            <v-btn v-if="!task.doneAt" class="word" @click="take(one.proposes)">Move it there</v-btn></span
          >
        </span>
        <v-btn
          v-if="!task.doneAt"
          class="word"
          :aria-label="`Remove ${one.name || one.email}`"
          @click="remove(one)"
          >Remove</v-btn
        >
      </li>
    </ul>
    <template v-if="!task.doneAt">
      <AttendeePicker class="picker" label="Add somebody" :chosen="chosen" @pick="add" />
      <v-checkbox
        v-if="task.people.length"
        :model-value="task.isInviting"
        :disabled="task.allDay"
        :label="
          task.allDay ? 'Invite by mail, once it has a time' : 'Invite by mail, and tell them of changes'
        "
        @update:model-value="
          patch(
            { isInviting: $event === true },
            $event ? 'Invitations go out.' : 'Nobody is invited by mail.',
          )
        "
      />
      <v-btn class="word" :aria-expanded="isMoving" @click="isMoving = !isMoving">Find another time</v-btn>
      <FreeTimes v-if="isMoving" :colleague-ids="colleagueIds" :except="task.id" @take="take" />
    </template>
  </section>
</template>

<style scoped>
.cap {
  display: block;
}
h3 {
  margin: 18px 0 2px;
}
.ways {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin: 4px 0;
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 0;
  border-top: 1px solid var(--rule);
}
.yes {
  color: var(--theirs);
}
.said {
  display: block;
  color: var(--soft);
}
.picker {
  margin-top: 6px;
}
</style>
