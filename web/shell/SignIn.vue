<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DoorForm from './DoorForm.vue';
import { useSession } from './session';

const session = useSession();
const route = useRoute();
const router = useRouter();
const email = ref('');
const password = ref('');

async function enter(): Promise<void> {
  await session.signIn(email.value, password.value);
  const { to } = route.query;
  await router.push(typeof to === 'string' && /^\/(?!\/)/.test(to) ? to : '/arrivals');
}
</script>

<template>
  <DoorForm button="Sign in" :send="enter">
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
    <template #after>
      <RouterLink to="/forgot" class="quiet-link">Forgot your password?</RouterLink>
    </template>
  </DoorForm>
</template>
