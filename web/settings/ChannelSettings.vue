<script setup lang="ts">
import { ref, watch } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

const undo = useUndo();
const { data: line, load } = useFetched(() => api('GET /api/line'), ['phone_lines']);
const number = ref('');
watch(line, (now) => (number.value = now?.number ?? ''));
const WORDS = {
  connected: 'The exchange is connected.',
  none: 'No exchange is connected.',
  down: 'The exchange does not answer.',
} as const;

async function keep(): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/line', {
      body: { number: number.value.replace(/[\s()-]/g, '') },
    });
    undo.tell({ text: 'Your line is set.', eventId });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <section>
    <h2>Your phone line</h2>
    <p class="soft">
      {{ line ? WORDS[line.exchange] : '…' }} When this number rings, the call sheet opens here.
    </p>
    <form class="row" @submit.prevent="keep">
      <label class="field"
        ><span class="cap">Number</span
        ><input v-model="number" type="tel" placeholder="+44 20 7946 0100" required
      /></label>
      <v-btn class="quiet" type="submit">Keep it</v-btn>
    </form>
    <h2 class="next">The clipper</h2>
    <p class="soft">
      The browser companion reads the page you are on. Load the folder <code>clipper/</code> as an unpacked
      extension, and give it an access token made here.
    </p>
    <h2 class="next">Look-ups</h2>
    <p class="soft">
      Missing facts are asked of outside sources, within an allowance.
      <RouterLink class="quiet-link" to="/look-ups">Sources, allowance and what was asked</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: end;
}
.next {
  margin-top: 20px;
}
p {
  margin: 4px 0 8px;
}
</style>
