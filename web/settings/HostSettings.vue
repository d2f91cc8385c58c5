<script setup lang="ts">
import { ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** Servers inside the organisation's own network, for admins. */
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/admin/hosts'), ['allowed_hosts']);
const host = ref('');
const isBusy = ref(false);

async function act(work: () => Promise<{ eventId: string | null }>, text: string): Promise<void> {
  isBusy.value = true;
  try {
    const { eventId } = await work();
    undo.tell({ text, eventId });
    host.value = '';
  } catch (error) {
    undo.fail(error);
  } finally {
    isBusy.value = false;
    await load();
  }
}
const allow = (): Promise<void> =>
  act(
    () => api('POST /api/admin/hosts', { body: { host: host.value } }),
    `${host.value} can be reached now.`,
  );
const remove = (id: string, name: string): Promise<void> =>
  act(() => api('DELETE /api/admin/hosts/:id', { params: { id } }), `${name} can no longer be reached.`);
</script>

<template>
  <section>
    <h2>Servers on your own network</h2>
    <p class="soft">
      Pages and mailboxes are only reached on the open internet. Add a server here if it stands on a private
      address, such as your own mail server.
    </p>
    <ul>
      <li v-for="one in data?.items ?? []" :key="one.id">
        <code>{{ one.host }}</code>
        <button class="word" :aria-label="`Remove ${one.host}`" @click="remove(one.id, one.host)">
          remove
        </button>
      </li>
      <li v-for="one in data?.always ?? []" :key="one">
        <code>{{ one }}</code> <span class="soft">set at start</span>
      </li>
    </ul>
    <form class="make" @submit.prevent="allow">
      <label class="field"
        ><span class="cap">Server and port, or * for every port</span
        ><input v-model="host" required maxlength="260" placeholder="mail.wharfside.example:993"
      /></label>
      <v-btn class="quiet" type="submit" :loading="isBusy">Add the server</v-btn>
    </form>
  </section>
</template>

<style scoped>
ul {
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
code {
  overflow-wrap: anywhere;
}
.make {
  display: grid;
  gap: 8px;
}
</style>
