<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { api } from './api';
import DoorForm from './DoorForm.vue';

/** Asks for a link by mail, to choose a new password. */
const email = ref('');
const isAsked = ref(false);

async function ask(): Promise<void> {
  await api('POST /api/session/password-link', { body: { email: email.value } });
  isAsked.value = true;
}
</script>

<template>
  <DoorForm :button="isAsked ? '' : 'Send the link'" :send="ask">
    <p v-if="isAsked" role="status">
      If there is an account for {{ email }}, a message with a link is on its way. The link is good for an
      hour.
    </p>
    <template v-else>
      <p class="soft">We mail you a link to choose a new password.</p>
      <v-text-field v-model="email" v-focus label="Email" type="email" autocomplete="username" required />
    </template>
    <template #after><RouterLink to="/sign-in" class="quiet-link">Back to sign-in</RouterLink></template>
  </DoorForm>
</template>
