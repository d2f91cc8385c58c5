<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api, wordsOf } from './api';
import DoorForm from './DoorForm.vue';
import { useSession } from './session';

/** Chooses a password by a link from a message, and signs in with it. The link's secret stands after the #. */
const router = useRouter();
const session = useSession();
const token = location.hash.slice(1);
const password = ref('');
const error = ref('');
const isBusy = ref(false);

async function choose(): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const { email } = await api('PUT /api/session/password-link', {
      body: { token, password: password.value },
    });
    await session.signIn(email, password.value);
    await router.replace('/arrivals');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <DoorForm :error="error" @submit="choose">
    <v-text-field
      v-model="password"
      v-focus
      label="New password"
      hint="At least 12 characters"
      persistent-hint
      type="password"
      autocomplete="new-password"
      minlength="12"
      required
    />
    <v-btn class="fill" type="submit" :loading="isBusy">Save and sign in</v-btn>
    <RouterLink to="/forgot" class="quiet-link">Ask for a new link</RouterLink>
  </DoorForm>
</template>
