<script setup lang="ts">
import type { CalendarLink } from '@emporikon/contract/caldav';
import { reactive, ref } from 'vue';
import { vFocus } from '../kit/focus';
import { api } from '../shell/api';
import { ago, counted } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import ClashNote from './ClashNote.vue';

/** Calendars elsewhere that this one is kept in step with, and the address books that get your people. */
const undo = useUndo();
const { data, error, load } = useFetched(() => api('GET /api/calendar/links'), ['caldav_links']);
const isAdding = ref(false);
const isBusy = ref(false);
const draft = reactive({ url: '', username: '', password: '' });
const passwords = reactive<Record<string, string>>({});
const NO_BOOK = '';

const STATES: Record<CalendarLink['state'], string> = {
  new: 'Being read for the first time',
  choose: 'Choose a calendar',
  current: 'In step',
  down: 'Cannot be reached',
  refused: 'Needs its password',
  forgetful: 'Waits for you',
};
const isWrong = ({ state }: CalendarLink): boolean => ['down', 'refused', 'forgetful'].includes(state);

async function act(text: string, work: () => Promise<{ eventId?: string | null }>): Promise<boolean> {
  isBusy.value = true;
  try {
    const { eventId = null } = await work();
    undo.tell({ text, eventId });
    await load();
    return true;
  } catch (problem) {
    undo.fail(problem);
    return false;
  } finally {
    isBusy.value = false;
  }
}
async function add(): Promise<void> {
  const url = /^[a-z]+:/i.test(draft.url) ? draft.url : `https://${draft.url}`;
  const isAdded = await act('Calendar added. It is being read.', () =>
    api('POST /api/calendar/links', { body: { ...draft, url } }),
  );
  if (!isAdded) return;
  isAdding.value = false;
  Object.assign(draft, { url: '', username: '', password: '' });
}
type Patch = { calendarUrl?: string; addressBookUrl?: string | null; password?: string; mayRemove?: true };
const change = (link: CalendarLink, patch: Patch, text: string): Promise<boolean> =>
  act(text, () =>
    api('PATCH /api/calendar/links/:id', {
      params: { id: link.id },
      body: { version: link.version, ...patch },
    }),
  );
async function mend(link: CalendarLink): Promise<void> {
  if (await change(link, { password: passwords[link.id] ?? '' }, 'Password saved.')) passwords[link.id] = '';
}
const sync = (link: CalendarLink): Promise<boolean> =>
  act('Being brought in step.', async () => {
    await api('POST /api/calendar/links/:id/sync', { params: { id: link.id } });
    return {};
  });
const remove = (link: CalendarLink): Promise<boolean> =>
  act('No longer kept in step. What stands in both calendars stays in both.', () =>
    api('DELETE /api/calendar/links/:id', { params: { id: link.id } }),
  );
const choices = (collections: CalendarLink['calendars']): { value: string; title: string }[] =>
  collections.map(({ url, name }) => ({ value: url, title: name }));
const nameOf = ({ calendars, calendarUrl, url }: CalendarLink): string =>
  calendars.find((calendar) => calendar.url === calendarUrl)?.name ?? new URL(url).host;
</script>

<template>
  <h2>Another calendar of yours</h2>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <div v-for="link in data?.items ?? []" :key="link.id" class="link">
    <b>{{ nameOf(link) }}</b>
    <span :class="isWrong(link) ? 'wrong' : 'soft'">
      {{ STATES[link.state] }}{{ link.trouble ? `: ${link.trouble}` : ''
      }}{{ link.syncedAt ? `, read ${ago(link.syncedAt)} ago` : '' }}
    </span>
    <span v-if="link.state === 'current'" class="soft"
      >{{ counted(link.events, 'meeting') }} in both calendars<template v-if="link.addressBookUrl"
        >, {{ counted(link.cards, 'person', 'people') }} in the address book</template
      ></span
    >
    <form v-if="link.state === 'refused'" class="pair" @submit.prevent="mend(link)">
      <v-text-field
        v-model="passwords[link.id]"
        :label="`Password of ${link.username}`"
        type="password"
        required
        autocomplete="off"
      />
      <v-btn class="line" type="submit" :loading="isBusy">Save the password</v-btn>
    </form>
    <div class="pair">
      <v-select
        v-if="link.calendars.length && !link.calendarUrl"
        label="Calendar"
        placeholder="Choose one"
        :items="choices(link.calendars)"
        @update:model-value="change(link, { calendarUrl: String($event) }, 'Kept in step from now on.')"
      />
      <v-select
        v-if="link.calendarUrl && link.addressBooks.length"
        label="Send the people you own to"
        :model-value="link.addressBookUrl ?? NO_BOOK"
        :items="[{ value: NO_BOOK, title: 'No address book' }, ...choices(link.addressBooks)]"
        hint="So that your phone knows who calls. What is changed there does not come back."
        persistent-hint
        @update:model-value="
          change(link, { addressBookUrl: $event === NO_BOOK ? null : String($event) }, 'Address book saved.')
        "
      />
    </div>
    <ClashNote v-for="clash in link.clashes" :key="clash.taskId" :clash="clash" @decided="load" />
    <span class="ways">
      <v-btn
        v-if="link.state === 'forgetful'"
        class="line"
        @click="change(link, { mayRemove: true }, 'Being removed here too.')"
        >Remove them here too</v-btn
      >
      <v-btn v-if="link.calendarUrl" class="word" :disabled="isBusy" @click="sync(link)">{{
        isWrong(link) ? 'Try again' : 'Sync now'
      }}</v-btn>
      <v-btn class="word" :disabled="isBusy" @click="remove(link)">Remove</v-btn>
    </span>
  </div>
  <p v-if="data && !data.items.length && !isAdding" class="soft">
    Keep this calendar and the one on your phone or computer in step, both ways, over CalDAV.
  </p>
  <form v-if="isAdding" class="add" @submit.prevent="add">
    <v-text-field
      v-model="draft.url"
      v-focus
      label="Address of the server"
      required
      placeholder="https://calendar.example"
      autocomplete="off"
    />
    <v-text-field v-model="draft.username" label="User name" required autocomplete="off" />
    <v-text-field
      v-model="draft.password"
      label="Password"
      hint="An app password where your provider has them"
      persistent-hint
      type="password"
      required
      autocomplete="new-password"
    />
    <div class="ways">
      <v-btn class="fill" type="submit" :loading="isBusy">Add the calendar</v-btn>
      <v-btn class="quiet" @click="isAdding = false">Cancel</v-btn>
    </div>
  </form>
  <v-btn v-else-if="data" class="line" @click="isAdding = true">Add a calendar</v-btn>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
.link {
  display: grid;
  gap: 6px;
  justify-items: start;
  padding: 8px 0 14px;
  border-bottom: 1px solid var(--rule2);
  margin-bottom: 12px;
}
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 340px));
  gap: 14px;
  align-items: end;
  width: 100%;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
}
.add {
  display: grid;
  gap: 12px;
  max-width: 420px;
}
</style>
