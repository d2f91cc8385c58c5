<script setup lang="ts">
import type { HouseUser } from '@emporikon/contract/session';
import { ref } from 'vue';
import { api } from '../shell/api';
import { ago } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** Everybody who has an account, for admins. */
const session = useSession();
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/admin/users'), ['users']);
const ROLES = ['rep', 'manager', 'admin'] as const;
const blank = { name: '', email: '', role: 'rep' as HouseUser['role'], password: '' };
const draft = ref({ ...blank });
const isAdding = ref(false);
const isBusy = ref(false);

async function act(work: () => Promise<unknown>, text: string): Promise<boolean> {
  isBusy.value = true;
  try {
    await work();
    undo.tell({ text, eventId: null });
    return true;
  } catch (error) {
    undo.fail(error);
    return false;
  } finally {
    isBusy.value = false;
    await load();
  }
}
async function add(): Promise<void> {
  const { name } = draft.value;
  const timeZone = session.me?.timeZone ?? 'UTC';
  if (
    await act(() => api('POST /api/admin/users', { body: { ...draft.value, timeZone } }), `Added ${name}.`)
  ) {
    draft.value = { ...blank };
    isAdding.value = false;
  }
}
const patch = (
  user: HouseUser,
  change: { role?: HouseUser['role']; active?: boolean },
  text: string,
): Promise<boolean> =>
  act(
    () =>
      api('PATCH /api/admin/users/:id', {
        params: { id: user.id },
        body: { version: user.version, ...change },
      }),
    text,
  );
const setRole = (user: HouseUser, event: Event): Promise<boolean> => {
  const role = (event.target as HTMLSelectElement).value as HouseUser['role'];
  return patch(user, { role }, `${user.name} is now ${role === 'admin' ? 'an' : 'a'} ${role}.`);
};
</script>

<template>
  <section>
    <h2>Accounts</h2>
    <div v-for="user in data?.items ?? []" :key="user.id" class="user" :class="{ soft: !user.active }">
      <span class="who"
        ><b>{{ user.name }}</b> <span class="soft">{{ user.email }}</span><br /><span class="soft">{{
          !user.active
            ? 'switched off'
            : user.lastSeenAt
              ? `active ${ago(user.lastSeenAt)} ago`
              : 'not signed in'
        }}</span></span
      >
      <select
        :value="user.role"
        :aria-label="`Role of ${user.name}`"
        :disabled="isBusy || !user.active"
        @change="setRole(user, $event)"
      >
        <option v-for="role in ROLES" :key="role">{{ role }}</option>
      </select>
      <button
        v-if="user.id !== session.me?.id"
        class="word"
        :aria-label="`${user.active ? 'Switch off' : 'Switch on'} ${user.name}`"
        @click="
          patch(
            user,
            { active: !user.active },
            user.active
              ? `${user.name} is signed out and cannot sign in.`
              : `${user.name} can sign in again.`,
          )
        "
      >
        {{ user.active ? 'switch off' : 'switch on' }}
      </button>
    </div>
    <form v-if="isAdding" class="add" @submit.prevent="add">
      <label class="field"
        ><span class="cap">Name</span><input v-model="draft.name" required maxlength="120"
      /></label>
      <label class="field"
        ><span class="cap">Email</span><input v-model="draft.email" type="email" required autocomplete="off"
      /></label>
      <label class="field"
        ><span class="cap">Role</span
        ><select v-model="draft.role">
          <option v-for="role in ROLES" :key="role">{{ role }}</option>
        </select></label
      >
      <label class="field"
        ><span class="cap">First password, at least 12 characters</span
        ><input v-model="draft.password" type="password" minlength="12" required autocomplete="new-password"
      /></label>
      <v-btn class="quiet" type="submit" :loading="isBusy">Add the account</v-btn>
    </form>
    <button v-else class="word" @click="isAdding = true">Add an account</button>
  </section>
</template>

<style scoped>
.user {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
.who {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.add {
  display: grid;
  gap: 8px;
}
</style>
