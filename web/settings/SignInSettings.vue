<script setup lang="ts">
import { ref } from 'vue';
import { api } from '../shell/api';
import PageHead from '../kit/PageHead.vue';
import { when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { deviceOf } from './devices';
import SecondStep from './SecondStep.vue';
import SignInList from './SignInList.vue';

/** My password, and every place where I am signed in. */
const session = useSession();
const undo = useUndo();
const draft = ref({ current: '', next: '' });
const isBusy = ref(false);

const { data, error, load } = useFetched(() => api('GET /api/sessions'), []);
async function signOut(id: string): Promise<void> {
  try {
    await api('DELETE /api/sessions/:id', { params: { id } });
    undo.tell({ text: 'Signed out there.', eventId: null });
  } catch (problem) {
    undo.fail(problem);
  } finally {
    await load();
  }
}

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
  <SecondStep @changed="load" />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <section v-if="data" aria-label="Where you are signed in">
    <h2>Where you are signed in</h2>
    <div v-for="place in data.items" :key="place.id" class="place">
      <span
        ><b>{{ deviceOf(place.device) }}</b> · {{ place.address || 'unknown address' }}
        <span class="soft"
          >· {{ place.isHere ? 'here, now' : `last used ${when(place.lastSeenAt)}` }}</span
        ></span
      >
      <v-btn
        v-if="!place.isHere"
        class="word"
        :aria-label="`Sign out ${deviceOf(place.device)}, ${place.address}`"
        @click="signOut(place.id)"
        >Sign out</v-btn
      >
    </div>
    <v-btn class="word" @click="session.signOut(true)">Sign out on every device</v-btn>
  </section>
  <SignInList v-if="data || error" address="GET /api/sign-ins" title="Recent sign-ins" />
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
.place {
  display: flex;
  gap: 14px;
  justify-content: space-between;
  max-width: 700px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule2);
}
h2 {
  margin: 10px 0 4px;
  font-size: 16px;
}
</style>
