<script setup lang="ts">
import { vFocus } from '../kit/focus';
import type { Reply } from '@emporikon/contract';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, ApiProblem } from './api';
import DoorForm from './DoorForm.vue';
import { useSession } from './session';

const session = useSession();
const route = useRoute();
const router = useRouter();
const email = ref('');
const password = ref('');

const ways = shallowRef<Reply<'GET /api/session/ways'>['openId']>(null);
onMounted(async () => {
  ways.value = (await api('GET /api/session/ways').catch(() => null))?.openId ?? null;
});
/** Why signing in by the provider came to nothing. */
const PROBLEMS: Readonly<Record<string, string>> = {
  unreachable: 'The sign-in provider cannot be reached. Try again in a moment, or use your password.',
  refused: 'The sign-in provider did not let you in. Try again, or use your password.',
  'too-late': 'That took too long, or was begun in another browser. Try again.',
  'no-account':
    'There is no active account for the address your sign-in provider has verified. Ask your admin.',
};
const problem = computed(() => PROBLEMS[String(route.query.problem ?? '')] ?? '');
const begin = computed(
  () =>
    `/openid/begin?to=${encodeURIComponent(typeof route.query.to === 'string' ? route.query.to : '/arrivals')}`,
);
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
    <p v-if="problem && !isCodeWanted" class="wrong">{{ problem }}</p>
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
      <v-btn v-if="ways && !isCodeWanted" class="quiet" :href="begin">Sign in with {{ ways.name }}</v-btn>
      <v-btn v-if="isCodeWanted" class="word" @click="startOver">Use another account</v-btn>
      <RouterLink v-else to="/forgot" class="quiet-link">Forgot your password?</RouterLink>
    </template>
  </DoorForm>
</template>
