<script setup lang="ts">
import { ref } from 'vue';
import { vFocus } from '../kit/focus';
import { api, wordsOf } from '../shell/api';
import { day } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import QrCode from './QrCode.vue';

/** Signing in with a code of an authenticator app: turned on, its recovery codes, turned off. */
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
const { data, error, load } = useFetched(() => api('GET /api/session/second-step'), []);

type Step = 'rest' | 'begin' | 'confirm' | 'codes' | 'renew' | 'off';
const step = ref<Step>('rest');
const password = ref('');
const code = ref('');
const made = ref<{ secret: string; uri: string } | null>(null);
const codes = ref<string[]>([]);
const wrong = ref('');
const isBusy = ref(false);

function go(next: Step): void {
  step.value = next;
  password.value = code.value = wrong.value = '';
}

async function act(work: () => Promise<void>): Promise<void> {
  isBusy.value = true;
  wrong.value = '';
  try {
    await work();
  } catch (problem) {
    wrong.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}

const begin = (): Promise<void> =>
  act(async () => {
    made.value = await api('PUT /api/session/second-step/secret', { body: { password: password.value } });
    go('confirm');
  });

const confirm = (): Promise<void> =>
  act(async () => {
    showCodes(await api('PUT /api/session/second-step', { body: { code: code.value } }));
    emit('changed');
  });

const renew = (): Promise<void> =>
  act(async () => {
    const body = { password: password.value, code: code.value };
    showCodes(await api('PUT /api/session/second-step/recovery-codes', { body }));
  });

const turnOff = (): Promise<void> =>
  act(async () => {
    await api('DELETE /api/session/second-step', { body: { password: password.value, code: code.value } });
    go('rest');
    undo.tell({ text: 'Signing in takes your password only, from now on.', eventId: null });
    await load();
    emit('changed');
  });

function showCodes(fresh: { codes: string[] }): void {
  codes.value = fresh.codes;
  made.value = null;
  go('codes');
}

async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(codes.value.join('\n'));
    undo.tell({ text: 'Recovery codes copied.', eventId: null });
  } catch {
    undo.tell({ text: 'Copying is not allowed here. Select the codes and copy them.', eventId: null });
  }
}

async function finish(): Promise<void> {
  codes.value = [];
  go('rest');
  await load();
}

/** Groups of four, because that is how it is typed into an app. */
const spaced = (secret: string): string => secret.match(/.{1,4}/g)?.join(' ') ?? secret;
</script>

<template>
  <section aria-labelledby="second-step">
    <h2 id="second-step">Code at sign-in</h2>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else-if="data">
      <template v-if="step === 'rest'">
        <p v-if="!data.isPossible" class="soft">
          Not available: the server has no EMPORIKON_SECRET to keep the app’s secret safe with. Ask your
          admin.
        </p>
        <template v-else-if="data.since">
          <p>
            On since {{ day(data.since) }}. {{ data.codesLeft }} of your recovery codes
            {{ data.codesLeft === 1 ? 'is' : 'are' }} left.
          </p>
          <v-btn class="word" @click="go('renew')">New recovery codes</v-btn>
          <span v-if="data.isWanted" class="soft">Your organisation asks you for it.</span>
          <v-btn v-else class="word" @click="go('off')">Turn off</v-btn>
        </template>
        <template v-else>
          <p class="soft">
            Besides your password, signing in then takes six digits from an authenticator app on your phone.
          </p>
          <v-btn :class="data.isWanted ? 'fill' : 'word'" @click="go('begin')">Turn on</v-btn>
        </template>
      </template>

      <form v-else-if="step === 'begin'" class="fields" @submit.prevent="begin">
        <v-text-field
          v-model="password"
          v-focus
          label="Your password"
          type="password"
          autocomplete="current-password"
          required
        />
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <div class="do">
          <v-btn class="fill" type="submit" :loading="isBusy">Continue</v-btn>
          <v-btn class="quiet" @click="go('rest')">Cancel</v-btn>
        </div>
      </form>

      <form v-else-if="step === 'confirm' && made" class="fields wide" @submit.prevent="confirm">
        <QrCode :text="made.uri" label="QR code for your authenticator app" />
        <div class="fields">
          <p>Scan this with your authenticator app, or type in the key:</p>
          <p class="secret">{{ spaced(made.secret) }}</p>
          <v-text-field
            v-model="code"
            v-focus
            label="Code the app shows"
            inputmode="numeric"
            autocomplete="one-time-code"
            maxlength="10"
            hint="You are signed out everywhere else."
            persistent-hint
            required
          />
          <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
          <div class="do">
            <v-btn class="fill" type="submit" :loading="isBusy">Turn on</v-btn>
            <v-btn class="quiet" @click="go('rest')">Cancel</v-btn>
          </div>
        </div>
      </form>

      <div v-else-if="step === 'codes'" class="fields">
        <p>
          Keep these recovery codes where you find them without your phone. Each signs you in once. They are
          not shown again.
        </p>
        <ol class="codes">
          <li v-for="one in codes" :key="one">{{ one }}</li>
        </ol>
        <div class="do">
          <v-btn class="fill" @click="finish">I have saved them</v-btn>
          <v-btn class="quiet" @click="copy">Copy</v-btn>
        </div>
      </div>

      <form v-else class="fields" @submit.prevent="step === 'renew' ? renew() : turnOff()">
        <p v-if="step === 'renew'" class="soft">The recovery codes you have now will stop working.</p>
        <p v-else class="soft">Signing in will take your password only.</p>
        <v-text-field
          v-model="password"
          v-focus
          label="Your password"
          type="password"
          autocomplete="current-password"
          required
        />
        <v-text-field
          v-model="code"
          label="Code"
          hint="From the app, or a recovery code."
          persistent-hint
          autocomplete="one-time-code"
          maxlength="40"
          required
        />
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <div class="do">
          <v-btn class="fill" type="submit" :loading="isBusy">
            {{ step === 'renew' ? 'Make new codes' : 'Turn off' }}
          </v-btn>
          <v-btn class="quiet" @click="go('rest')">Cancel</v-btn>
        </div>
      </form>
    </template>
  </section>
</template>

<style scoped>
section {
  padding-bottom: 18px;
}
h2 {
  margin: 10px 0 4px;
  font-size: 16px;
}
p {
  max-width: 620px;
  margin: 0 0 8px;
}
.fields {
  display: grid;
  gap: 12px;
  max-width: 420px;
}
.wide {
  display: flex;
  flex-wrap: wrap;
  gap: 22px;
  max-width: 700px;
}
.secret,
.codes {
  font-variant-numeric: tabular-nums;
  letter-spacing: 0.04em;
}
.codes {
  display: grid;
  grid-template-columns: repeat(2, max-content);
  gap: 4px 28px;
  margin: 0;
  padding-left: 24px;
}
.do {
  display: flex;
  gap: 12px;
}
</style>
