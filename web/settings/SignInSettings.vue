<script setup lang="ts">
import { ref } from 'vue';
import { api } from '../shell/api';
import PageHead from '../kit/PageHead.vue';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** My password, and every place where I am signed in. */
const session = useSession();
const undo = useUndo();
const draft = ref({ current: '', next: '' });
const isBusy = ref(false);

async function change(): Promise<void> {
  isBusy.value = true;
  try {
    await api('PUT /api/session/password', { body: draft.value });
    draft.value = { current: '', next: '' };
    undo.tell({ text: 'Password changed. You are signed out everywhere else.', eventId: null });
  } catch (error) {
    undo.fail(error);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <PageHead title="Sign-in" help="You are signed out after 14 days without using Emporikon." />
  <form class="fields" @submit.prevent="change">
    <v-text-field
      v-model="draft.current"
      label="Current password"
      type="password"
      autocomplete="current-password"
      required
    />
    <v-text-field
      v-model="draft.next"
      label="New password"
      hint="At least 12 characters. You are signed out everywhere else."
      persistent-hint
      type="password"
      autocomplete="new-password"
      minlength="12"
      required
    />
    <v-btn class="fill" type="submit" :loading="isBusy">Change password</v-btn>
  </form>
  <v-btn class="word" @click="session.signOut(true)">Sign out on every device</v-btn>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 14px;
  max-width: 420px;
  padding-bottom: 18px;
}
.fields .fill {
  justify-self: start;
}
</style>
