<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import FileButton from '../kit/FileButton.vue';
import PageHead from '../kit/PageHead.vue';
import RichText from '../kit/RichText.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** What stands below my letters. */
const undo = useUndo();
const { data, error, load } = useFetched(() => api('GET /api/signature'), ['signatures']);
const html = ref('');
const begun = ref('');
const isBusy = ref(false);
watch(data, (now) => {
  if (!now || html.value !== begun.value) return;
  html.value = begun.value = now.html;
});
const isChanged = computed(() => html.value !== begun.value);

async function run(text: string, work: () => Promise<{ eventId: string | null }>): Promise<void> {
  isBusy.value = true;
  try {
    const { eventId } = await work();
    undo.tell({ text, eventId });
    begun.value = html.value;
  } catch (problem) {
    undo.fail(problem);
  } finally {
    isBusy.value = false;
    await load();
  }
}
const save = (): Promise<void> =>
  run('Signature saved.', () =>
    api('PUT /api/signature', { body: { version: data.value?.version ?? 0, html: html.value } }),
  );
const put = (file: File): Promise<void> =>
  run('Picture saved.', () =>
    api('POST /api/signature/picture', { raw: { data: file, type: file.type || 'image/png' } }),
  );
const remove = (): Promise<void> => run('Picture removed.', () => api('DELETE /api/signature/picture'));
</script>

<template>
  <PageHead title="Signature" help="It stands below every letter you send, above what you quote." />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <form v-if="data" class="signature" @submit.prevent="save">
    <RichText v-model="html" label="Signature" placeholder="Your name, what you do, how to reach you" />
    <div class="picture">
      <span class="cap">Picture</span>
      <img v-if="data.picture" :src="data.picture" alt="The picture of your signature" />
      <span class="words">
        <FileButton label="Choose a picture" :busy="isBusy" @take="put">{{
          data.picture ? 'Choose another picture' : 'Choose a picture'
        }}</FileButton>
        <v-btn v-if="data.picture" class="word" @click="remove">Remove the picture</v-btn>
      </span>
      <span class="soft">PNG, JPEG or GIF, at most 200 kB. It is shown up to 280 pixels wide.</span>
    </div>
    <div class="words">
      <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!isChanged">Save</v-btn>
    </div>
  </form>
</template>

<style scoped>
.signature {
  display: grid;
  gap: 14px;
  max-width: 680px;
}
.picture {
  display: grid;
  gap: 4px;
  justify-items: start;
}
img {
  max-width: 280px;
  height: auto;
}
.words {
  display: flex;
  gap: 14px;
}
</style>
