<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { api, wordsOf } from './api';
import DoorForm from './DoorForm.vue';

/** Asks for a link by mail, to choose a new password. */
const email = ref('');
const error = ref('');
const isBusy = ref(false);
const isAsked = ref(false);

async function ask(): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    await api('POST /api/session/password-link', { body: { email: email.value } });
    isAsked.value = true;
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <DoorForm :error="error" @submit="ask">
    <template v-if="isAsked">
      <p role="status">
        If there is an account for {{ email }}, a message with a link is on its way. The link is good for an
        hour.
      </p>
    </template>
    <template v-else>
      <p class="soft">We mail you a link to choose a new password.</p>
      <v-text-field v-model="email" v-focus label="Email" type="email" autocomplete="username" required />
      <v-btn class="fill" type="submit" :loading="isBusy">Send the link</v-btn>
    </template>
    <RouterLink to="/sign-in" class="quiet-link">Back to sign-in</RouterLink>
  </DoorForm>
</template>
