<script setup lang="ts">
import type { Belongings } from '@emporikon/contract/leaving';
import type { HouseUser } from '@emporikon/contract/session';
import { computed, ref } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { api, wordsOf } from '../shell/api';
import { plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** Before an account is switched off: what is theirs, and who has it next. */
const props = defineProps<{ user: HouseUser; colleagues: readonly HouseUser[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const undo = useUndo();
const { data, error } = useFetched(
  () => api('GET /api/admin/users/:id/belongings', { params: { id: props.user.id } }),
  [],
);
const toId = ref<string | null>(null);
const isBusy = ref(false);
const wrong = ref('');

const NAMES: Readonly<Record<keyof Belongings, readonly [string, string]>> = {
  people: ['person', 'people'],
  companies: ['company', 'companies'],
  leads: ['open or parked lead', 'open or parked leads'],
  deals: ['open deal', 'open deals'],
  tasks: ['open task or meeting', 'open tasks and meetings'],
  projects: ['open project', 'open projects'],
  cases: ['open case', 'open cases'],
  forms: ['form', 'forms'],
  ownerRules: ['rule for new leads', 'rules for new leads'],
  views: ['shared view', 'shared views'],
};
const lines = computed(() =>
  (Object.keys(NAMES) as (keyof Belongings)[])
    .map((key) => ({ key, n: data.value?.[key] ?? 0 }))
    .filter(({ n }) => n > 0)
    .map(({ key, n }) => ({ key, n: plainNumber(n), name: NAMES[key][n === 1 ? 0 : 1] })),
);
const heirs = computed(() =>
  props.colleagues
    .filter(({ id, active }) => active && id !== props.user.id)
    .map(({ id, name }) => ({ value: id, title: name })),
);
const heirName = computed(() => heirs.value.find(({ value }) => value === toId.value)?.title ?? '');

async function leave(): Promise<void> {
  isBusy.value = true;
  wrong.value = '';
  try {
    const { changes } = await api('POST /api/admin/users/:id/leaving', {
      params: { id: props.user.id },
      body: { version: props.user.version, toId: toId.value },
    });
    const handed = lines.value.length ? ` ${heirName.value} has what was theirs.` : '';
    undo.tell({
      text: `${props.user.name} is signed out and cannot sign in.${handed}`,
      eventId: null,
      ...(changes.length ? { links: [{ text: 'Show progress', to: '/settings/bulk' }] } : {}),
    });
    emit('done');
  } catch (problem) {
    wrong.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <SidePanel :label="`${user.name} leaves`" @close="emit('close')">
    <form class="leaving" @submit.prevent="leave">
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <p v-else-if="!data" class="soft">Counting what {{ user.name }} looks after …</p>
      <template v-else-if="lines.length">
        <p>{{ user.name }} looks after:</p>
        <dl>
          <template v-for="line in lines" :key="line.key">
            <dt>{{ line.n }}</dt>
            <dd>{{ line.name }}</dd>
          </template>
        </dl>
        <v-select v-model="toId" label="Who takes over" :items="heirs" required />
        <p class="soft">
          Closed leads and deals stay with {{ user.name }}, so that past figures stay true. Records that are
          kept to their owner go over too, and are then kept to the new one. Each kind can be undone under
          Bulk changes.
        </p>
      </template>
      <p v-else>{{ user.name }} looks after nothing.</p>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div v-if="data" class="do">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="lines.length > 0 && !toId">
          {{ lines.length ? 'Hand over and switch off' : 'Switch off' }}
        </v-btn>
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </SidePanel>
</template>

<style scoped>
.leaving {
  display: grid;
  gap: 14px;
  padding: 16px 24px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 14px;
  margin: 0;
  font-variant-numeric: tabular-nums;
}
dt {
  text-align: right;
}
dd,
p {
  margin: 0;
}
.do {
  display: flex;
  gap: 12px;
}
</style>
