<script setup lang="ts">
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
  new: 'not read yet',
  reading: 'is being read',
  current: 'is current',
  down: 'cannot be read',
  refused: 'needs its password',
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
  }, 'It is being read from now on.');
const change = (box: Mailbox, patch: { choice?: Mailbox['choice']; never?: string[] }): void =>
  void act(
    () =>
      api('PATCH /api/mailboxes/:id', { params: { id: box.id }, body: { version: box.version, ...patch } }),
    'Kept.',
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
  }, 'It is being read.');
const remove = (box: Mailbox): void =>
  void act(
    () => api('DELETE /api/mailboxes/:id', { params: { id: box.id } }),
    `${box.address} is read no more; what was filed stays.`,
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
      ? `Never asks about ${one.address} again.`
      : `Filed ${one.name || one.address}; past messages follow.`,
  );
</script>

<template>
  <section>
    <h2>Your mailboxes</h2>
    <p class="soft">
      Read over IMAP; nothing in them is changed. What is written with people we know goes to their ledger.
    </p>
    <div v-for="box in data?.items ?? []" :key="box.id" class="box">
      <b>{{ box.address }}</b>
      <span :class="box.state === 'down' || box.state === 'refused' ? 'wrong' : 'soft'">
        {{ STATES[box.state] }}{{ box.trouble ? `: ${box.trouble}` : ''
        }}{{ box.readAt ? `, ${ago(box.readAt)} ago` : '' }}</span
      >
      <form v-if="box.state === 'refused'" class="mend" @submit.prevent="mend(box)">
        <label class="field"
          ><span class="cap">Password of {{ box.address }}</span
          ><input v-model="passwords[box.id]" type="password" required autocomplete="off"
        /></label>
        <v-btn class="quiet" type="submit" :loading="isBusy">Save the password</v-btn>
      </form>
      <details v-if="box.setAside.length">
        <summary>{{ box.setAside.length }} not filed automatically</summary>
        <ul>
          <li v-for="(one, at) in box.setAside" :key="at">
            <span>{{ one.sender || 'without a sender' }}, {{ shortDay(one.at) }}</span>
            <span class="soft">{{ one.reason }}</span>
          </li>
        </ul>
      </details>
      <label class="field"
        ><span class="cap">Mail of people we know</span>
        <select
          :value="box.choice"
          @change="change(box, { choice: ($event.target as HTMLSelectElement).value as Mailbox['choice'] })"
        >
          <option value="all">goes to the ledger by itself</option>
          <option value="ask">waits in Arrivals</option>
          <option value="none">is left alone</option>
        </select></label
      >
      <label class="field"
        ><span class="cap">Never file (addresses, or @domain), parted by spaces</span
        ><input
          :value="box.never.join(' ')"
          @change="
            change(box, { never: ($event.target as HTMLInputElement).value.split(/[\s,]+/).filter(Boolean) })
          "
      /></label>
      <span class="words">
        <button class="word" :disabled="isBusy" @click="readNow(box)">
          {{ box.state === 'down' ? 'try again' : 'read it now' }}
        </button>
        <button class="word" :aria-expanded="open === box.id" @click="propose(box)">
          people we do not have
        </button>
        <button class="word" @click="remove(box)">read it no more</button>
      </span>
      <ul v-if="open === box.id">
        <li v-for="one in proposed" :key="one.address">
          <span
            ><b>{{ one.name || one.address }}</b> <span class="soft">{{ one.address }}</span><br /><span
              class="soft"
              >{{ one.received }} from them, {{ one.sent }} from us, {{ shortDay(one.first) }} to
              {{ shortDay(one.last) }}</span
            ></span
          >
          <span class="words"
            ><button class="word" @click="file(box, one, false)">file them</button
            ><button class="word" @click="file(box, one, true)">never</button></span
          >
        </li>
        <li v-if="!proposed.length" class="soft">Nobody you write with often is missing.</li>
      </ul>
    </div>
    <form v-if="isAdding" class="add" @submit.prevent="add">
      <label class="field"
        ><span class="cap">Address</span><input v-model="draft.address" type="email" required
      /></label>
      <label class="field"
        ><span class="cap">IMAP server</span><input v-model="draft.host" required placeholder="imap.example"
      /></label>
      <label class="field"
        ><span class="cap">Port</span><input v-model.number="draft.port" type="number" min="1" max="65535"
      /></label>
      <label class="check"
        ><input v-model="draft.secure" type="checkbox" /> encrypted from the start (TLS)</label
      >
      <label class="field"
        ><span class="cap">Name, if it is not the address</span
        ><input v-model="draft.username" autocomplete="off"
      /></label>
      <label class="field"
        ><span class="cap">Password</span
        ><input v-model="draft.password" type="password" required autocomplete="new-password"
      /></label>
      <v-btn class="quiet" type="submit" :loading="isBusy">Read it</v-btn>
    </form>
    <button v-else class="word" @click="isAdding = true">Add a mailbox</button>
  </section>
</template>

<style scoped>
.box,
.add {
  display: grid;
  gap: 6px;
  padding: 8px 0;
  border-bottom: 1px solid var(--rule2);
}
.words {
  display: flex;
  gap: 14px;
}
.check {
  display: flex;
  gap: 8px;
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
p {
  margin: 4px 0 8px;
}
</style>
