<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ApiProblem } from './api';
import DoorForm from './DoorForm.vue';
import { useSession } from './session';

const session = useSession();
const route = useRoute();
const router = useRouter();
const email = ref('');
const password = ref('');

const code = ref('');
const isCodeWanted = ref(false);

/** Whether this account has a second step, which is told only to who knows its password. */
const isForCode = (problem: unknown): boolean =>
  problem instanceof ApiProblem && problem.problem.type === 'urn:emporikon:problem:code-wanted';

async function enter(): Promise<void> {
  try {
    await session.signIn(email.value, password.value, code.value);
  } catch (problem) {
    if (!isForCode(problem) || isCodeWanted.value) throw problem;
    isCodeWanted.value = true;
    return;
  }
  const { to } = route.query;
  await router.push(typeof to === 'string' && /^\/(?!\/)/.test(to) ? to : '/arrivals');
}
function startOver(): void {
  isCodeWanted.value = false;
  password.value = code.value = '';
}
</script>

<template>
  <DoorForm button="Sign in" :send="enter">
    <p v-if="!isCodeWanted" class="soft">Prospects in; people, companies and deals out.</p>
    <template v-if="isCodeWanted">
      <p class="soft">Enter the six digits your authenticator app shows for {{ email }}.</p>
      <v-text-field
        v-model="code"
        v-focus
        class="field"
        label="Code"
        hint="Without the app, enter one of your recovery codes."
        persistent-hint
        autocomplete="one-time-code"
        maxlength="40"
        required
      />
    </template>
    <v-text-field
      v-else
      v-model="email"
      v-focus
      class="field"
      label="Email"
      type="email"
      autocomplete="username"
      required
    />
    <v-text-field
      v-if="!isCodeWanted"
      v-model="password"
      class="field"
      label="Password"
      type="password"
      autocomplete="current-password"
      required
    />
    <template #after>
      <v-btn v-if="isCodeWanted" class="word" @click="startOver">Use another account</v-btn>
      <RouterLink v-else to="/forgot" class="quiet-link">Forgot your password?</RouterLink>
    </template>
  </DoorForm>
</template>
