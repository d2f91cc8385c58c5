<script setup lang="ts">
import type { NoticeChoice } from '@emporikon/contract/notices';
import { computed, ref, watch } from 'vue';
import PageHead from '../kit/PageHead.vue';
import TimeField from '../kit/TimeField.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { browserNoticesAllowed, askForBrowserNotices } from '../notices/browser';

/** How each kind of notice reaches whoever is signed in, and when they are left in peace. */
const undo = useUndo();
const { data, error, load } = useFetched(() => api('GET /api/notices/settings'), []);
const digestAt = ref('08:00');
const quiet = ref({ isOn: false, from: '20:00', until: '07:00' });
watch(data, (settings) => {
  if (!settings) return;
  digestAt.value = settings.digestAt;
  quiet.value = settings.quiet ? { isOn: true, ...settings.quiet } : { ...quiet.value, isOn: false };
});

const NAMES: Record<NoticeChoice['kind'], string> = {
  mention: 'A colleague mentions you',
  given: 'You are given a task',
  done: 'A task you gave is done',
  moved: 'A task of yours or that you gave is moved',
  'passed on': 'A task you gave is passed on',
  owner: 'You are made the owner of a record',
  declined: 'A task you gave is declined',
  'taken back': 'A task is taken back from you',
  answered: 'A colleague writes about a task',
  'asked after': 'A colleague reminds you of a task',
  reminder: 'A task of yours is due',
  'handed over': 'Work is handed over or comes back',
  invited: 'A colleague asks you to come to a meeting',
  coming: 'Somebody answers your invitation',
  letter: 'A letter of yours does not arrive',
};
const MAILS = [
  { value: 'at once', title: 'At once' },
  { value: 'digest', title: 'Once a day' },
  { value: 'off', title: 'Never' },
];
const hasDigest = computed(() => data.value?.choices.some(({ mail }) => mail === 'digest') ?? false);

async function put(body: Record<string, unknown>): Promise<void> {
  try {
    data.value = await api('PATCH /api/notices/settings', { body });
    undo.tell({ text: 'Saved.', eventId: null });
  } catch (problem) {
    undo.fail(problem);
    await load();
  }
}
const choose = (choice: NoticeChoice, patch: Partial<NoticeChoice>): Promise<void> =>
  put({ choices: [{ ...choice, ...patch }] });
async function setBrowser(choice: NoticeChoice, isOn: boolean): Promise<void> {
  if (isOn && !(await askForBrowserNotices()))
    return undo.tell({
      text: 'This browser does not allow notifications from Emporikon. Allow them in its settings first.',
      eventId: null,
      wrong: true,
    });
  await choose(choice, { browser: isOn });
}
const setQuiet = (): Promise<void> =>
  put({ quiet: quiet.value.isOn ? { from: quiet.value.from, until: quiet.value.until } : null });
</script>

<template>
  <PageHead
    title="Notices"
    help="Everything stands under “For you”. Choose here what is also mailed to you, and what your browser shows while Emporikon is open in the background."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-if="data">
    <p v-if="!browserNoticesAllowed()" class="soft">
      This browser has not been asked yet whether it may show notifications. It asks when you tick a box.
    </p>
    <v-table class="book narrow">
      <thead>
        <tr>
          <th>When</th>
          <th>Mail</th>
          <th>Browser</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="choice in data.choices" :key="choice.kind">
          <td>{{ NAMES[choice.kind] }}</td>
          <td>
            <v-select
              :model-value="choice.mail"
              :items="MAILS"
              :aria-label="`Mail: ${NAMES[choice.kind]}`"
              @update:model-value="choose(choice, { mail: $event })"
            />
          </td>
          <td>
            <v-checkbox
              :model-value="choice.browser"
              :aria-label="`Browser: ${NAMES[choice.kind]}`"
              @update:model-value="setBrowser(choice, $event === true)"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
    <div class="times">
      <v-checkbox
        :model-value="data.roundMail"
        label="Mail me my round on working days"
        @update:model-value="put({ roundMail: $event === true })"
      />
      <TimeField
        v-if="hasDigest || data.roundMail"
        v-model="digestAt"
        label="Mail of the day at"
        @update:model-value="put({ digestAt: $event })"
      />
      <v-checkbox
        v-model="quiet.isOn"
        label="No mail and no browser notifications during quiet hours"
        @update:model-value="setQuiet"
      />
      <template v-if="quiet.isOn">
        <TimeField v-model="quiet.from" label="From" @update:model-value="setQuiet" />
        <TimeField v-model="quiet.until" label="Until" @update:model-value="setQuiet" />
      </template>
    </div>
  </template>
</template>

<style scoped>
.narrow {
  max-width: 720px;
}
.narrow td:nth-child(2) {
  width: 150px;
}
.narrow td:nth-child(3) {
  width: 90px;
}
.times {
  display: grid;
  gap: 12px;
  max-width: 320px;
  padding-top: 16px;
}
</style>
