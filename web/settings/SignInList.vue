<script setup lang="ts">
import type { SignIn } from '@emporikon/contract/session';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { usePaged } from '../shell/usePaged';
import { deviceOf } from './devices';

/** Who signed in, and who tried to, newest first. */
const props = defineProps<{ address: 'GET /api/sign-ins' | 'GET /api/admin/sign-ins'; title: string }>();
const { items, hasMore, more, error } = usePaged<SignIn>(
  (cursor) => api(props.address, { query: { cursor, limit: 20 } }),
  [],
);
const WHAT: Record<SignIn['what'], string> = {
  'signed in': 'Signed in',
  refused: 'Wrong password',
  'signed out': 'Signed out',
  'link asked for': 'Asked for a new password',
  'password set': 'New password by a link',
  'password changed': 'Changed the password',
  'code refused': 'Wrong code',
  'recovery code used': 'Used a recovery code',
  'second step on': 'Turned on codes at sign-in',
  'second step off': 'Turned off codes at sign-in',
};
/** Worth a second look, because somebody else may have tried. */
const WRONG: ReadonlySet<SignIn['what']> = new Set(['refused', 'code refused']);
</script>

<template>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <section v-if="items">
    <h2>{{ title }}</h2>
    <div v-if="items.length" class="scroll" tabindex="0" role="region" :aria-label="title">
      <v-table class="book">
        <thead>
          <tr>
            <th>When</th>
            <th>What</th>
            <th v-if="address === 'GET /api/admin/sign-ins'">Who</th>
            <th>Where</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in items" :key="one.id">
            <td>{{ when(one.at) }}</td>
            <td :class="{ late: WRONG.has(one.what) }">{{ WHAT[one.what] }}</td>
            <td v-if="address === 'GET /api/admin/sign-ins'">{{ one.name ?? one.email }}</td>
            <td class="soft">{{ deviceOf(one.device) }} · {{ one.address }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-else class="empty">Nothing yet.</p>
    <v-btn v-if="hasMore" class="word" @click="more">Show more</v-btn>
  </section>
</template>

<style scoped>
h2 {
  margin: 18px 0 4px;
  font-size: 16px;
}
</style>
