<script setup lang="ts">
import { minorOf } from '@emporikon/core/ledger/sum';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import PickRecord from '../shell/PickRecord.vue';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** A deal that comes of no lead, added by hand. */
const props = defineProps<{ stageId: string | undefined }>();
const emit = defineEmits<{ done: [] }>();
const undo = useUndo();
const session = useSession();
const router = useRouter();
const title = ref('');
const amount = ref('');
const expectedClose = ref('');
const person = ref<{ id: string; label: string } | null>(null);
const company = ref<{ id: string; label: string } | null>(null);
/** What was typed where nothing was picked: a company we do not have yet. */
const companyName = ref('');

async function add(): Promise<void> {
  try {
    const currency = session.me?.currency ?? '';
    const { deal, eventId } = await api('POST /api/deals', {
      body: {
        title: title.value,
        stageId: props.stageId,
        amountMinor: minorOf(amount.value, currency),
        expectedClose: expectedClose.value || null,
        personId: person.value?.id,
        companyId: company.value?.id,
        ...(company.value || !companyName.value.trim() ? {} : { companyName: companyName.value.trim() }),
      },
    });
    undo.tell({ text: `Added ${deal.title}.`, eventId });
    emit('done');
    await router.push(`/deals/${deal.id}`);
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <form class="add" aria-label="A new deal" @submit.prevent="add" @keydown.esc.stop="emit('done')">
    <input
      v-model="title"
      class="inline-edit title"
      required
      maxlength="300"
      placeholder="what it is about"
      aria-label="Title"
      autofocus
    />
    <input
      v-model="amount"
      class="inline-edit few"
      inputmode="decimal"
      :placeholder="`amount, ${session.me?.currency ?? ''}`"
      aria-label="Amount"
    />
    <input v-model="expectedClose" class="inline-edit few" type="date" aria-label="Expected by" />
    <b v-if="company">{{ company.label }}</b>
    <PickRecord
      v-else
      kind="company"
      label="Company"
      placeholder="company, also a new one"
      @pick="company = $event"
      @typed="companyName = $event"
    />
    <b v-if="person">{{ person.label }}</b>
    <PickRecord v-else kind="person" label="Person" placeholder="person" @pick="person = $event" />
    <v-btn class="fill" type="submit">Add the deal</v-btn>
    <button type="button" class="word" @click="emit('done')">not now</button>
  </form>
</template>

<style scoped>
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 4px 24px 8px;
}
.title {
  flex: 1 1 180px;
}
.few {
  width: 140px;
}
@media (max-width: 700px) {
  .add {
    padding: 4px 14px 8px;
  }
}
</style>
