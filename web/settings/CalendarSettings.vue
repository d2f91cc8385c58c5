<script setup lang="ts">
import { ref, watch } from 'vue';
import OutsideCalendars from '../caldav/OutsideCalendars.vue';
import PageHead from '../kit/PageHead.vue';
import TimeField from '../kit/TimeField.vue';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** When somebody works, and the secret address at which their calendar program reads their calendar here. */
const session = useSession();
const undo = useUndo();
const { data, error, load } = useFetched(() => api('GET /api/calendar/feed'), []);
const url = ref('');
const from = ref(session.me?.worksFrom ?? '09:00');
const until = ref(session.me?.worksUntil ?? '17:30');

async function saveHours(): Promise<void> {
  try {
    session.me = await api('PATCH /api/session', {
      body: { worksFrom: from.value, worksUntil: until.value },
    });
    undo.tell({ text: `Working hours: ${from.value} to ${until.value}.`, eventId: null });
  } catch (problem) {
    undo.fail(problem);
    from.value = session.me?.worksFrom ?? from.value;
    until.value = session.me?.worksUntil ?? until.value;
  }
}
watch([from, until], () => void saveHours());

async function make(): Promise<void> {
  try {
    ({ url: url.value } = await api('POST /api/calendar/feed', { body: {} }));
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}
async function end(): Promise<void> {
  try {
    await api('DELETE /api/calendar/feed');
    url.value = '';
    undo.tell({ text: 'The address no longer works.', eventId: null });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(url.value).then(
    () => undo.tell({ text: 'Copied.', eventId: null }),
    (problem: unknown) => undo.fail(problem),
  );
}
</script>

<template>
  <PageHead
    title="Calendar"
    help="Free times are proposed within your working hours. Keep another calendar in step both ways, or let a program subscribe that only reads."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <h2>Working hours</h2>
  <div class="hours">
    <TimeField v-model="from" label="From" />
    <TimeField v-model="until" label="Until" />
  </div>
  <OutsideCalendars />
  <h2>Address for calendar programs</h2>
  <template v-if="data">
    <p v-if="url" class="made">
      <code>{{ url }}</code>
      <v-btn class="word" @click="copy">Copy</v-btn>
      <span class="soft">It is shown only now. Whoever has it can read your calendar.</span>
    </p>
    <p v-else-if="data.madeAt">
      Made {{ when(data.madeAt) }}<template v-if="data.readAt">, last read {{ when(data.readAt) }}</template
      ><template v-else>, not read yet</template>.
    </p>
    <p v-else class="soft">No address yet.</p>
    <div class="ways">
      <v-btn class="line" @click="make">{{ data.madeAt ? 'Make a new address' : 'Make an address' }}</v-btn>
      <v-btn v-if="data.madeAt" class="word" @click="end">Stop sharing</v-btn>
    </div>
  </template>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
.hours {
  display: grid;
  grid-template-columns: repeat(2, 120px);
  gap: 14px;
}
.made {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
}
code {
  overflow-wrap: anywhere;
}
.ways {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>
