<script setup lang="ts">
import { vFocus } from '../kit/focus';
import PageHead from '../kit/PageHead.vue';
import NumberField from '../kit/NumberField.vue';
import type { Correspondent, Mailbox } from '@emporikon/contract/mailboxes';
import { ref } from 'vue';
import { api } from '../shell/api';
import { ago, shortDay } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/mailboxes'), ['mailboxes']);
const draft = ref({ address: '', host: '', port: 993, secure: true, username: '', password: '' });
const isAdding = ref(false);
const isBusy = ref(false);
const open = ref<string | null>(null);
const proposed = ref<Correspondent[]>([]);
const STATES = {
  new: 'Not read yet',
  reading: 'Being read',
  current: 'Up to date',
  down: 'Cannot be read',
  refused: 'Needs its password',
} as const;

async function act(work: () => Promise<{ eventId?: string | null }>, text: string): Promise<void> {
  isBusy.value = true;
  try {
    const { eventId = null } = await work();
    undo.tell({ text, eventId });
    await load();
  } catch (error) {
    undo.fail(error);
  } finally {
    isBusy.value = false;
  }
}
const add = (): void =>
  void act(async () => {
    const done = await api('POST /api/mailboxes', {
      body: { ...draft.value, username: draft.value.username || draft.value.address },
    });
    isAdding.value = false;
    return done;
  }, 'Mailbox added. It is being read.');
const change = (box: Mailbox, patch: { choice?: Mailbox['choice']; never?: string[] }): void =>
  void act(
    () =>
      api('PATCH /api/mailboxes/:id', { params: { id: box.id }, body: { version: box.version, ...patch } }),
    'Mailbox settings saved.',
  );
const passwords = ref<Record<string, string>>({});
const mend = (box: Mailbox): void =>
  void act(async () => {
    const password = passwords.value[box.id] ?? '';
    const done = await api('PATCH /api/mailboxes/:id', {
      params: { id: box.id },
      body: { version: box.version, password },
    });
    passwords.value[box.id] = '';
    return done;
  }, 'Password saved; the mailbox is being read.');
const readNow = (box: Mailbox): void =>
  void act(async () => {
    await api('POST /api/mailboxes/:id/reading', { params: { id: box.id } });
    return {};
  }, 'The mailbox is being read.');
const remove = (box: Mailbox): void =>
  void act(
    () => api('DELETE /api/mailboxes/:id', { params: { id: box.id } }),
    `${box.address} removed. What was filed stays.`,
  );

async function propose(box: Mailbox): Promise<void> {
  open.value = open.value === box.id ? null : box.id;
  if (open.value)
    proposed.value = (await api('GET /api/mailboxes/:id/correspondents', { params: { id: box.id } })).items;
}
const file = (box: Mailbox, one: Correspondent, never: boolean): void =>
  void act(
    async () => {
      const done = await api('POST /api/mailboxes/:id/correspondents', {
        params: { id: box.id },
        body: { address: one.address, name: one.name, never },
      });
      proposed.value = proposed.value.filter((other) => other.address !== one.address);
      return done;
    },
    never
      ? `${one.address} will not be suggested again.`
      : `Filed ${one.name || one.address}. Past messages follow.`,
  );
</script>

<template>
  <PageHead
    title="Mailboxes"
    help="Your mail is read over IMAP. Nothing that is there is changed; letters you send from here are added to its Sent folder. What you write with people you know goes to their ledger."
  />
  <div v-for="box in data?.items ?? []" :key="box.id" class="box">
    <h2>{{ box.address }}</h2>
    <span :class="box.state === 'down' || box.state === 'refused' ? 'wrong' : 'soft'">
      {{ STATES[box.state] }}{{ box.trouble ? `: ${box.trouble}` : ''
      }}{{ box.readAt ? `, read ${ago(box.readAt)} ago` : '' }}</span
    >
    <form v-if="box.state === 'refused'" class="pair" @submit.prevent="mend(box)">
      <v-text-field
        v-model="passwords[box.id]"
        :label="`Password of ${box.address}`"
        type="password"
        required
        autocomplete="off"
      />
      <v-btn class="quiet" type="submit" :loading="isBusy">Save the password</v-btn>
    </form>
    <div class="pair">
      <v-select
        label="Mail of people you know"
        :model-value="box.choice"
        :items="[
          { value: 'all', title: 'File automatically' },
          { value: 'ask', title: 'Wait in Arrivals' },
          { value: 'none', title: 'Leave alone' },
        ]"
        @update:model-value="change(box, { choice: $event as Mailbox['choice'] })"
      />
      <v-text-field
        label="Never file"
        hint="Addresses or @domains, separated by spaces"
        persistent-hint
        :model-value="box.never.join(' ')"
        @change="
          change(box, { never: ($event.target as HTMLInputElement).value.split(/[\s,]+/).filter(Boolean) })
        "
      />
    </div>
    <v-expansion-panels v-if="box.setAside.length">
      <v-expansion-panel :title="`${box.setAside.length} not filed automatically`">
        <template #text>
          <ul>
            <li v-for="(one, at) in box.setAside" :key="at">
              <span>{{ one.sender || 'No sender' }}, {{ shortDay(one.at) }}</span>
              <span class="soft">{{ one.reason }}</span>
            </li>
          </ul>
        </template>
      </v-expansion-panel>
    </v-expansion-panels>
    <span class="words">
      <v-btn class="word" :disabled="isBusy" @click="readNow(box)">
        {{ box.state === 'down' ? 'Try again' : 'Read now' }}
      </v-btn>
      <v-btn class="word" :aria-expanded="open === box.id" @click="propose(box)">
        People missing from your records
      </v-btn>
      <v-btn class="word" @click="remove(box)">Remove the mailbox</v-btn>
    </span>
    <ul v-if="open === box.id">
      <li v-for="one in proposed" :key="one.address">
        <span
          ><b>{{ one.name || one.address }}</b> <span class="soft">{{ one.address }}</span><br /><span
            class="soft"
            >{{ one.received }} from them, {{ one.sent }} from you, {{ shortDay(one.first) }} to
            {{ shortDay(one.last) }}</span
          ></span
        >
        <span class="words"
          ><v-btn class="word" @click="file(box, one, false)">File</v-btn
          ><v-btn class="word" @click="file(box, one, true)">Never</v-btn></span
        >
      </li>
      <li v-if="!proposed.length" class="soft">Everybody you write with often is in your records.</li>
    </ul>
  </div>
  <p v-if="data && !data.items.length && !isAdding" class="empty">No mailbox yet.</p>
  <form v-if="isAdding" class="add" @submit.prevent="add">
    <v-text-field v-model="draft.address" v-focus label="Address" type="email" required />
    <v-text-field v-model="draft.host" label="IMAP server" required placeholder="imap.example" />
    <NumberField v-model="draft.port" label="Port" :min="1" :max="65535" />
    <v-text-field
      v-model="draft.username"
      label="User name"
      hint="Leave empty if it is the address"
      persistent-hint
      autocomplete="off"
    />
    <v-text-field
      v-model="draft.password"
      label="Password"
      type="password"
      required
      autocomplete="new-password"
    />
    <v-checkbox v-model="draft.secure" label="Encrypted from the start (TLS)" />
    <div class="words">
      <v-btn class="fill" type="submit" :loading="isBusy">Add the mailbox</v-btn>
      <v-btn class="quiet" @click="isAdding = false">Cancel</v-btn>
    </div>
  </form>
  <v-btn v-else class="fill first" @click="isAdding = true">Add a mailbox</v-btn>
</template>

<style scoped>
.box {
  display: grid;
  gap: 8px;
  max-width: 760px;
  padding: 10px 0 14px;
  border-bottom: 1px solid var(--rule2);
}
.pair,
.add {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 12px;
  align-items: start;
}
.add {
  max-width: 760px;
  padding-top: 12px;
}
.words {
  display: flex;
  gap: 14px;
}
.first {
  margin-top: 14px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
</style>
