<script setup lang="ts">
import { computed, ref } from 'vue';
import NumberField from '../kit/NumberField.vue';
import PageHead from '../kit/PageHead.vue';
import { api, wordsOf } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** Which server sends my letters: the organisation's, or one of my own. */
const undo = useUndo();
const session = useSession();
const { data, error, load } = useFetched(() => api('GET /api/submission'), ['submissions']);
const isAdding = ref(false);
const isBusy = ref(false);
const wrong = ref('');
const draft = ref({ host: '', port: 465, secure: true, username: '', password: '' });
const own = computed(() => data.value?.submission ?? null);

function begin(): void {
  const now = own.value;
  draft.value = {
    host: now?.host ?? '',
    port: now?.port ?? 465,
    secure: now?.secure ?? true,
    username: now?.username ?? session.me?.email ?? '',
    password: '',
  };
  wrong.value = '';
  isAdding.value = true;
}
async function save(): Promise<void> {
  isBusy.value = true;
  wrong.value = '';
  try {
    const version = own.value ? { version: own.value.version } : {};
    const { eventId } = await api('PUT /api/submission', { body: { ...draft.value, ...version } });
    undo.tell({ text: `Your letters go out by ${draft.value.host}.`, eventId });
    isAdding.value = false;
    await load();
  } catch (problem) {
    wrong.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
async function remove(): Promise<void> {
  try {
    const { eventId } = await api('DELETE /api/submission');
    undo.tell({ text: 'Your letters go out by your organisation’s server.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}
</script>

<template>
  <PageHead
    title="Sending mail"
    help="Letters go out from your own address. Your password is sealed, and never crosses a network unencrypted."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-if="data">
    <div class="now">
      <span class="cap">Sent by</span>
      <template v-if="own">
        <b>{{ own.host }}</b>, port {{ own.port }}, as {{ own.username }}
        <span v-if="own.trouble" class="wrong">{{ own.trouble }}</span>
      </template>
      <b v-else-if="data.hasOrganisation">Your organisation’s mail server</b>
      <span v-else class="wrong">Nothing yet. Add a server below to send letters.</span>
    </div>
    <div v-if="!isAdding" class="words">
      <v-btn class="word" @click="begin">{{ own ? 'Change it' : 'Use a server of my own' }}</v-btn>
      <v-btn v-if="own && data.hasOrganisation" class="word" @click="remove"
        >Use the organisation’s server</v-btn
      >
      <v-btn v-else-if="own" class="word" @click="remove">Remove it</v-btn>
    </div>
    <form v-else class="add" @submit.prevent="save">
      <v-text-field v-model="draft.host" label="SMTP server" required placeholder="smtp.example" />
      <NumberField v-model="draft.port" label="Port" :min="1" :max="65535" />
      <v-text-field v-model="draft.username" label="User name" required autocomplete="off" />
      <v-text-field
        v-model="draft.password"
        label="Password"
        type="password"
        required
        autocomplete="new-password"
      />
      <v-checkbox v-model="draft.secure" label="Encrypted from the start (TLS)" />
      <p class="soft">
        Without it, the connection changes to TLS before you sign in (STARTTLS, usually port 587).
      </p>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div class="words">
        <v-btn class="fill" type="submit" :loading="isBusy">Check and save</v-btn>
        <v-btn class="quiet" @click="isAdding = false">Cancel</v-btn>
      </div>
    </form>
  </template>
</template>

<style scoped>
.now {
  margin-bottom: 10px;
}
.now .cap {
  display: block;
}
.add {
  display: grid;
  gap: 10px;
  max-width: 480px;
}
.add p {
  margin: 0;
}
.words {
  display: flex;
  gap: 14px;
}
</style>
