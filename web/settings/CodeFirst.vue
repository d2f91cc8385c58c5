<script setup lang="ts">
import { ref } from 'vue';
import { useSession } from '../shell/session';
import SecondStep from './SecondStep.vue';

/** Before anything else: signing in with a code is set up, where the organisation asks for it. */
const session = useSession();
const isDone = ref(false);
/** Everything is loaded anew: it was refused until now. */
const goOn = (): void => location.assign('/');
</script>

<template>
  <div class="door">
    <p class="wordmark">Emporikon</p>
    <h1>Set up codes at sign-in</h1>
    <p>
      Your organisation asks you to sign in with a code of an authenticator app as well as your password. Set
      it up once; it takes a minute.
    </p>
    <SecondStep @changed="isDone = true" />
    <div class="do">
      <v-btn v-if="isDone" class="fill" @click="goOn">Continue to Emporikon</v-btn>
      <v-btn v-else class="word" @click="session.signOut()">Sign out</v-btn>
    </div>
  </div>
</template>

<style scoped>
.door {
  max-width: 560px;
  margin: 8vh auto;
  padding: 0 24px;
}
.wordmark {
  margin: 0 0 18px;
  font: 600 21px var(--head);
  color: var(--ours);
}
.do {
  padding-top: 18px;
}
</style>
