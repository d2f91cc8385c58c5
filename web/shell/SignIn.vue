<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { wordsOf } from './api';
import DoorForm from './DoorForm.vue';
import { useSession } from './session';

const session = useSession();
const route = useRoute();
const router = useRouter();
const email = ref('');
const password = ref('');
const error = ref('');
const isBusy = ref(false);

async function enter(): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    await session.signIn(email.value, password.value);
    const to =
      typeof route.query.to === 'string' && /^\/(?!\/)/.test(route.query.to) ? route.query.to : '/arrivals';
    await router.push(to);
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <DoorForm :error="error" @submit="enter">
    <p class="soft">Prospects in; people, companies and deals out.</p>
    <v-text-field
      v-model="email"
      v-focus
      class="field"
      label="Email"
      type="email"
      autocomplete="username"
      required
    />
    <v-text-field
      v-model="password"
      class="field"
      label="Password"
      type="password"
      autocomplete="current-password"
      required
    />
    <v-btn class="fill" type="submit" :loading="isBusy">Sign in</v-btn>
    <RouterLink to="/forgot" class="quiet-link">Forgot your password?</RouterLink>
  </DoorForm>
</template>
