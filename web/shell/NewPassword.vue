<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from './api';
import DoorForm from './DoorForm.vue';
import { useSession } from './session';

/** Chooses a password by a link from a message, and signs in with it. The link's secret stands after the #. */
const router = useRouter();
const session = useSession();
const token = location.hash.slice(1);
const password = ref('');

async function choose(): Promise<void> {
  const body = { token, password: password.value };
  const { email } = await api('PUT /api/session/password-link', { body });
  await session.signIn(email, password.value);
  await router.replace('/arrivals');
}
</script>

<template>
  <DoorForm button="Save and sign in" :send="choose">
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
    <template #after><RouterLink to="/forgot" class="quiet-link">Ask for a new link</RouterLink></template>
  </DoorForm>
</template>
