<script setup lang="ts">
import { makeableFor, type Makeable } from '../find/commands';
import { vFocus } from '../kit/focus';
import FileDrop from '../kit/FileDrop.vue';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api, wordsOf } from './api';
import { useSession } from './session';
import { useUndo } from './undo';

const emit = defineEmits<{ close: []; make: [what: Makeable] }>();
const router = useRouter();
const undo = useUndo();
const session = useSession();
const makeable = makeableFor({ isAdmin: false, may: session.may });
const text = ref('');
const error = ref('');
const isBusy = ref(false);
const MOST_BYTES = 20 * 1024 * 1024;

async function send(data: Blob | string, type: string, by: 'upload' | 'paste'): Promise<string> {
  return (await api('POST /api/captures', { raw: { data, type }, query: { by } })).id;
}

async function capture(work: () => Promise<string>): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const id = await work();
    emit('close');
    await router.push(`/arrivals/${id}`);
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}

const TABLE = /\.(?:csv|tsv|xlsx)$/i;
const typeOf = (file: File): string =>
  /\.html?$/i.test(file.name)
    ? 'text/html'
    : /\.vcf$/i.test(file.name)
      ? 'text/vcard'
      : /\.txt$/i.test(file.name)
        ? 'text/plain'
        : 'message/rfc822';
/** A table goes to the bench, where its columns are looked at first. */
async function bench(file: File): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const { id } = await api('POST /api/imports', {
      raw: { data: file, type: file.name.endsWith('.xlsx') ? 'application/octet-stream' : 'text/csv' },
      query: { name: file.name },
    });
    emit('close');
    await router.push(`/imports/${id}`);
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}

function take(files: FileList | null | undefined): void {
  const chosen = [...(files ?? [])];
  const tooLarge = chosen.find((file) => file.size > MOST_BYTES);
  if (tooLarge) error.value = `${tooLarge.name} is larger than 20 MB; it was not captured.`;
  else if (chosen[0] && TABLE.test(chosen[0].name)) void bench(chosen[0]);
  else if (chosen.length)
    void capture(async () => {
      let last = '';
      for (const file of chosen) last = await send(file, typeOf(file), 'upload');
      if (chosen.length > 1) undo.tell({ text: `Captured ${chosen.length} things`, eventId: null });
      return last;
    });
}

function paste(): void {
  const address = text.value.trim();
  if (!address) error.value = 'There is nothing in it yet. Paste a message, an address or any text.';
  else if (/^(?:https?:\/\/|www\.)\S+$/i.test(address))
    void capture(async () => (await api('POST /api/captures/fetch', { body: { url: address } })).id);
  else void capture(() => send(text.value, 'text/plain', 'paste'));
}
</script>

<template>
  <v-dialog :model-value="true" aria-labelledby="capture-title" @update:model-value="emit('close')">
    <v-card class="sheet">
      <h2 id="capture-title">Capture</h2>
      <p class="make">
        <span class="soft">Enter by hand:</span>
        <v-btn v-for="what in makeable" :key="what" class="word" @click="emit('make', what)"
          >New {{ what }}</v-btn
        >
      </p>
      <FileDrop
        accept=".eml,.html,.htm,.vcf,.txt,.csv,.tsv,.xlsx"
        multiple
        hint="Messages, saved pages, contact cards, text or a table"
        @take="take"
      >
        Drop files here, or <u>choose them</u>
      </FileDrop>
      <v-textarea
        v-model="text"
        v-focus
        class="field"
        label="Or paste a message, the address of a page, or any text"
        rows="9"
        @keydown.ctrl.enter.prevent="paste"
        @keydown.meta.enter.prevent="paste"
      />
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="foot">
        <v-btn class="fill" :loading="isBusy" @click="paste"
          >Read it <span class="hint">Ctrl Enter</span></v-btn
        >
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 18px 22px;
  display: grid;
  gap: 12px;
}
.foot {
  display: flex;
  gap: 10px;
}
.hint {
  font-weight: 500;
  margin-left: 8px;
}
p {
  margin: 0;
}
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: baseline;
}
</style>
