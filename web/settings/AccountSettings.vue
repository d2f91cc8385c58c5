<script setup lang="ts">
import { ref } from 'vue';
import { api } from '../shell/api';
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
  <section>
    <h2>Password and sign-in</h2>
    <form class="make" @submit.prevent="change">
      <label class="field"
        ><span class="cap">Current password</span
        ><input v-model="draft.current" type="password" autocomplete="current-password" required
      /></label>
      <label class="field"
        ><span class="cap">New password, at least 12 characters</span
        ><input v-model="draft.next" type="password" autocomplete="new-password" minlength="12" required
      /></label>
      <v-btn class="quiet" type="submit" :loading="isBusy">Change password</v-btn>
    </form>
    <p class="soft">A session ends after 14 days without use.</p>
    <button class="word" @click="session.signOut(true)">Sign out everywhere</button>
  </section>
</template>

<style scoped>
.make {
  display: grid;
  gap: 8px;
}
</style>
