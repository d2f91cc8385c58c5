<script setup lang="ts">
import type { MailDomain } from '@emporikon/contract/mailOut';
import { ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** Whether others believe mail of our domains, and what to write into the name servers where they do not. */
const undo = useUndo();
const session = useSession();
const isBusy = ref(false);
const { data, error, load } = useFetched(() => api('GET /api/mail-domains'), ['mail_domains']);
const STATES = { right: 'Right', missing: 'Missing', wrong: 'Wrong', unknown: 'Not known' } as const;

async function run(text: string, work: () => Promise<{ eventId: string | null }>): Promise<void> {
  isBusy.value = true;
  try {
    const { eventId } = await work();
    undo.tell({ text, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
  isBusy.value = false;
}
const makeKey = ({ domain }: MailDomain): Promise<void> =>
  run(`Mail of ${domain} is signed from now on. Publish the key shown below.`, () =>
    api('POST /api/mail-domains/:domain/key', { params: { domain } }),
  );
const removeKey = ({ domain }: MailDomain): Promise<void> =>
  run(`Mail of ${domain} is no longer signed.`, () =>
    api('DELETE /api/mail-domains/:domain/key', { params: { domain } }),
  );
async function check(): Promise<void> {
  isBusy.value = true;
  await load();
  isBusy.value = false;
}
</script>

<template>
  <PageHead
    title="Mail domains"
    help="Mail servers deliver what they can check: which servers may send for a domain (SPF), a signature (DKIM), and what to do with forgeries (DMARC)."
  >
    <v-btn class="word" :loading="isBusy" @click="check">Check again</v-btn>
  </PageHead>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <section v-for="domain in data?.items ?? []" :key="domain.domain" :aria-label="domain.domain">
    <h2>{{ domain.domain }}</h2>
    <dl>
      <div v-for="record in domain.records" :key="record.kind" class="record">
        <dt>
          {{ record.kind }}
          <span :class="record.state === 'right' ? 'good' : record.state === 'unknown' ? 'soft' : 'wrong'">{{
            STATES[record.state]
          }}</span>
        </dt>
        <dd>
          {{ record.why }}
          <template v-if="record.wanted">
            <span class="cap">TXT record at {{ record.host }}</span>
            <code tabindex="0">{{ record.wanted }}</code>
          </template>
          <template v-if="record.found.length && record.state !== 'right'">
            <span class="cap">Found there now</span>
            <code v-for="text in record.found" :key="text" tabindex="0">{{ text }}</code>
          </template>
        </dd>
      </div>
    </dl>
    <div v-if="session.me?.role === 'admin'" class="words">
      <v-btn class="word" :disabled="isBusy" @click="makeKey(domain)">{{
        domain.selector ? 'Replace the key' : 'Sign mail with a key'
      }}</v-btn>
      <v-btn v-if="domain.selector" class="word" :disabled="isBusy" @click="removeKey(domain)"
        >Stop signing</v-btn
      >
    </div>
  </section>
  <p v-if="data && !data.items.length" class="empty">
    No domain of your organisation is set (EMPORIKON_OURS).
  </p>
</template>

<style scoped>
dl {
  margin: 0 0 8px;
}
.record {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 4px 16px;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
dt {
  font-weight: 600;
}
dt span {
  display: block;
  font-weight: 400;
}
dd {
  margin: 0;
}
dd .cap {
  display: block;
  margin-top: 6px;
}
code {
  display: block;
  overflow-wrap: anywhere;
  user-select: all;
}
.good {
  color: var(--theirs);
}
.words {
  display: flex;
  gap: 14px;
}
@media (max-width: 700px) {
  .record {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
