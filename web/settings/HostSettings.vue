<script setup lang="ts">
import { ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
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
    `${host.value} can now be reached.`,
  );
const remove = (id: string, name: string): Promise<void> =>
  act(() => api('DELETE /api/admin/hosts/:id', { params: { id } }), `${name} can no longer be reached.`);
</script>

<template>
  <PageHead
    title="Your own servers"
    help="Pages and mailboxes are only reached on the open internet. Add a server here if it has a private address, such as your own mail server."
  />
  <v-table class="book narrow">
    <thead>
      <tr>
        <th>Server</th>
        <th><span class="visually-hidden">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in data?.items ?? []" :key="one.id">
        <td>
          <code>{{ one.host }}</code>
        </td>
        <td>
          <v-btn class="word" :aria-label="`Remove ${one.host}`" @click="remove(one.id, one.host)"
            >Remove</v-btn
          >
        </td>
      </tr>
      <tr v-for="one in data?.always ?? []" :key="one">
        <td>
          <code>{{ one }}</code>
        </td>
        <td class="soft">Set when the server was started</td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="data" class="make" @submit.prevent="allow">
    <v-text-field
      v-model="host"
      label="Server and port"
      hint="Use * for every port."
      persistent-hint
      required
      maxlength="260"
      placeholder="mail.wharfside.example:993"
    />
    <v-btn class="fill" type="submit" :loading="isBusy">Add the server</v-btn>
  </form>
</template>

<style scoped>
.narrow {
  max-width: 640px;
}
code {
  overflow-wrap: anywhere;
}
.make {
  display: flex;
  gap: 10px;
  align-items: center;
  max-width: 560px;
  padding-top: 14px;
}
</style>
