<script setup lang="ts">
import { vFocus } from '../kit/focus';
import type { HouseUser } from '@emporikon/contract/session';
import { computed, ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { ago } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { BUILT_IN } from '../roles/words';
import LeavingPanel from './LeavingPanel.vue';
import SignInList from './SignInList.vue';

/** Everybody who has an account, for admins. */
const session = useSession();
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/admin/users'), ['users']);
const { data: own } = useFetched(() => api('GET /api/roles'), ['roles']);
/** Those that are always there, and those of the organisation's own by their ids. */
const { data: rules, load: loadRules } = useFetched(
  () => api('GET /api/admin/sign-in-rules'),
  ['sign_in_rules'],
);
const CODE_RULES = [
  { value: 'by choice', title: 'Everybody chooses for themselves' },
  { value: 'managers', title: 'Managers and admins have to' },
  { value: 'everybody', title: 'Everybody has to' },
] as const;
async function setCodes(codes: (typeof CODE_RULES)[number]['value']): Promise<void> {
  if (!rules.value) return;
  const { version } = rules.value;
  try {
    const { eventId } = await api('PATCH /api/admin/sign-in-rules', { body: { version, codes } });
    undo.tell({ text: 'Saved. Whoever has to and has no code yet is asked at their next page.', eventId });
  } catch (error) {
    undo.fail(error);
  } finally {
    await loadRules();
  }
}
const roles = computed(() => [
  ...BUILT_IN.map(({ role, name }) => ({ value: role as string, title: name })),
  ...(own.value?.items ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
/** A choice among them as it is sent. */
const asRole = (value: string): { role?: HouseUser['role']; roleId?: string } => {
  const fixed = BUILT_IN.find(({ role }) => role === value);
  return fixed ? { role: fixed.role } : { roleId: value };
};
const blank = { name: '', email: '', role: 'rep', password: '' };
const draft = ref({ ...blank });
const isAdding = ref(false);
const leaving = ref<HouseUser | null>(null);
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
  const { name, email, role, password } = draft.value;
  const timeZone = session.me?.timeZone ?? 'UTC';
  const body = { ...asRole(role), name, email, timeZone, ...(password ? { password } : {}) };
  const text = password ? `Added ${name}.` : `Added ${name}. An invitation is on its way.`;
  if (await act(() => api('POST /api/admin/users', { body }), text)) {
    draft.value = { ...blank };
    isAdding.value = false;
  }
}
const patch = (
  user: HouseUser,
  change: { role?: HouseUser['role']; roleId?: string; active?: boolean },
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
const invite = (user: HouseUser): Promise<boolean> =>
  act(
    () => api('POST /api/admin/users/:id/invitation', { params: { id: user.id } }),
    `An invitation is on its way to ${user.email}.`,
  );
const removeCode = (user: HouseUser): Promise<boolean> =>
  act(
    () => api('DELETE /api/admin/users/:id/second-step', { params: { id: user.id } }),
    `${user.name} signs in with the password only, until they turn codes on again.`,
  );
const signOut = (user: HouseUser): Promise<boolean> =>
  act(
    () => api('DELETE /api/admin/users/:id/sessions', { params: { id: user.id } }),
    `${user.name} is signed out everywhere.`,
  );
const signAllOut = (): Promise<boolean> =>
  act(() => api('DELETE /api/admin/sessions'), 'Everybody else is signed out. You stay signed in here.');
const setRole = (user: HouseUser, value: string): Promise<boolean> =>
  patch(
    user,
    asRole(value),
    `${user.name} now has the role ${roles.value.find((one) => one.value === value)?.title ?? ''}.`,
  );
</script>

<template>
  <PageHead title="Accounts" help="Who can sign in, and with which role." />
  <v-table v-if="data" class="book">
    <thead>
      <tr>
        <th>Name</th>
        <th>Email</th>
        <th>Role</th>
        <th>Last active</th>
        <th><span class="visually-hidden">Access</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="user in data.items" :key="user.id" :class="{ soft: !user.active }">
        <td>
          <b>{{ user.name }}</b>
        </td>
        <td>{{ user.email }}</td>
        <td>
          <v-select
            :model-value="user.roleId ?? user.role"
            :aria-label="`Role of ${user.name}`"
            :disabled="isBusy || !user.active"
            :items="roles"
            @update:model-value="setRole(user, $event)"
          />
        </td>
        <td class="soft">
          {{
            !user.active ? 'Switched off' : user.lastSeenAt ? `${ago(user.lastSeenAt)} ago` : 'Not signed in'
          }}
        </td>
        <td class="act">
          <v-btn
            v-if="user.active && !user.lastSeenAt"
            class="word"
            :aria-label="`Invite ${user.name} again`"
            @click="invite(user)"
            >Invite again</v-btn
          >
          <v-btn
            v-if="user.hasSecondStep && user.id !== session.me?.id"
            class="word"
            :aria-label="`Turn off the code of ${user.name}`"
            @click="removeCode(user)"
            >Turn off the code</v-btn
          >
          <v-btn
            v-if="user.active && user.lastSeenAt && user.id !== session.me?.id"
            class="word"
            :aria-label="`Sign out ${user.name} everywhere`"
            @click="signOut(user)"
            >Sign out</v-btn
          >
          <v-btn
            v-if="user.id !== session.me?.id"
            class="word"
            :aria-label="`${user.active ? 'Switch off' : 'Switch on'} ${user.name}`"
            @click="
              user.active
                ? (leaving = user)
                : patch(user, { active: true }, `${user.name} can sign in again.`)
            "
          >
            {{ user.active ? 'Switch off' : 'Switch on' }}
          </v-btn>
        </td>
      </tr>
    </tbody>
  </v-table>
  <template v-else><span v-for="n in 4" :key="n" class="ghost"></span></template>
  <LeavingPanel
    v-if="leaving"
    :key="leaving.id"
    :user="leaving"
    :colleagues="data?.items ?? []"
    @close="leaving = null"
    @done="
      leaving = null;
      load();
    "
  />
  <form v-if="isAdding" class="add" @submit.prevent="add">
    <v-text-field v-model="draft.name" v-focus label="Name" required maxlength="120" />
    <v-text-field v-model="draft.email" label="Email" type="email" required autocomplete="off" />
    <v-select v-model="draft.role" label="Role" :items="roles" />
    <v-text-field
      v-model="draft.password"
      label="First password"
      hint="Leave it empty to invite them by mail"
      persistent-hint
      type="password"
      minlength="12"
      autocomplete="new-password"
    />
    <div class="do">
      <v-btn class="fill" type="submit" :loading="isBusy">Add the account</v-btn>
      <v-btn class="quiet" @click="isAdding = false">Cancel</v-btn>
    </div>
  </form>
  <div v-else-if="data" class="do add-first">
    <v-btn class="fill" @click="isAdding = true">Add an account</v-btn>
    <v-btn class="word" @click="signAllOut">Sign everybody else out</v-btn>
  </div>
  <v-select
    v-if="rules"
    class="codes"
    label="Codes of an authenticator app at sign-in"
    :model-value="rules.codes"
    :items="CODE_RULES"
    @update:model-value="setCodes($event)"
  />
  <SignInList address="GET /api/admin/sign-ins" title="Sign-ins" />
</template>

<style scoped>
.add {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 12px;
  align-items: start;
  max-width: 900px;
  padding-top: 16px;
}
.do {
  grid-column: 1 / -1;
  display: flex;
  gap: 10px;
}
.add-first {
  margin-top: 14px;
}
.codes {
  max-width: 320px;
  margin-top: 18px;
}
.act {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
