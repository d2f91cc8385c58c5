<script setup lang="ts">
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { day } from '../shell/format';
import { gatherFetches, useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import AccountSettings from './AccountSettings.vue';
import ChannelSettings from './ChannelSettings.vue';
import FieldSettings from './FieldSettings.vue';
import HostSettings from './HostSettings.vue';
import MailboxSettings from './MailboxSettings.vue';
import QuestionSettings from './QuestionSettings.vue';
import UserSettings from './UserSettings.vue';
import VisibilitySettings from '../visibility/VisibilitySettings.vue';
import KindSettings from '../relations/KindSettings.vue';

const waiting = gatherFetches();
const session = useSession();
const undo = useUndo();
const { data: tokens, load } = useFetched(() => api('GET /api/tokens'), []);
const zones = Intl.supportedValuesOf('timeZone');
const name = ref('');
const made = ref('');
const mayEdit = computed(() => session.me?.role !== 'rep');

async function setZone(timeZone: string): Promise<void> {
  try {
    session.me = await api('PATCH /api/session', { body: { timeZone } });
    undo.tell({ text: `Your times are shown in ${timeZone}.`, eventId: null });
  } catch (error) {
    undo.fail(error);
  }
}

async function make(): Promise<void> {
  try {
    made.value = (await api('POST /api/tokens', { body: { name: name.value } })).token;
    name.value = '';
    await load();
  } catch (error) {
    undo.fail(error);
  }
}

async function revoke(id: string): Promise<void> {
  try {
    await api('DELETE /api/tokens/:id', { params: { id } });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Settings</h1></div>
    <template v-if="waiting"><span v-for="n in 6" :key="n" class="ghost"></span></template>
    <div v-show="!waiting" class="columns">
      <section>
        <h2>You</h2>
        <label class="field">
          <span class="cap">Time zone</span>
          <select :value="session.me?.timeZone" @change="setZone(($event.target as HTMLSelectElement).value)">
            <option v-for="zone in zones" :key="zone">{{ zone }}</option>
          </select>
        </label>
        <h2 class="next">Access tokens</h2>
        <p class="soft">
          For scripts and the clipper: send <code>Authorization: Bearer …</code>. A token may do what you may.
        </p>
        <ul>
          <li v-for="token in tokens?.items ?? []" :key="token.id">
            <span
              ><b>{{ token.name }}</b>
              <span class="soft"
                >made {{ day(token.createdAt)
                }}{{ token.lastUsedAt ? `, last used ${day(token.lastUsedAt)}` : ', never used' }}</span
              ></span
            >
            <button class="word" :aria-label="`Revoke ${token.name}`" @click="revoke(token.id)">
              revoke
            </button>
          </li>
        </ul>
        <p v-if="made" role="status">
          Copy it now, it is not shown again:<br /><code class="token">{{ made }}</code>
        </p>
        <form class="make" @submit.prevent="make">
          <label class="field"
            ><span class="cap">What for</span
            ><input v-model="name" required maxlength="80" placeholder="night import"
          /></label>
          <v-btn class="quiet" type="submit">Make a token</v-btn>
        </form>
      </section>
      <AccountSettings />
      <UserSettings v-if="session.me?.role === 'admin'" />
      <VisibilitySettings :may-edit="mayEdit" />
      <ChannelSettings />
      <HostSettings v-if="session.me?.role === 'admin'" />
      <MailboxSettings />
      <FieldSettings :may-edit="mayEdit" />
      <QuestionSettings :may-edit="mayEdit" />
      <KindSettings :may-edit="mayEdit" />
      <section>
        <h2>Deals</h2>
        <p class="soft">
          Pipelines and their stages, products, prices, rates and quotes have
          <RouterLink class="quiet-link" to="/pipelines">a page of their own</RouterLink>; by what leads are
          judged stands <RouterLink class="quiet-link" to="/qualifying">there</RouterLink>.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 24px 40px;
}
.next {
  margin-top: 24px;
}
p {
  margin: 4px 0 8px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule2);
}
.make {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: end;
  padding-top: 8px;
}
.token {
  overflow-wrap: anywhere;
  background: var(--lit);
}
</style>
