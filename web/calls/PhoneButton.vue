<script setup lang="ts">
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** A phone number that calls: the exchange rings our line and then theirs, and the sheet of the call opens. */
const props = defineProps<{ number: string; shown?: string; personId?: string | null }>();
const router = useRouter();
const session = useSession();
const undo = useUndo();

async function call(): Promise<void> {
  try {
    const { call: placed } = await api('POST /api/calls', {
      body: { to: props.number, personId: props.personId ?? null },
    });
    await router.push(`/calls/${placed.id}`);
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <v-btn
    v-if="session.may('ledger.add')"
    class="plain num call"
    :aria-label="`Call ${shown ?? number}`"
    @click="call"
  >
    {{ shown ?? number }}
  </v-btn>
  <span v-else class="num">{{ shown ?? number }}</span>
</template>

<style scoped>
.call {
  text-decoration: underline;
  text-decoration-color: var(--theirs);
  text-underline-offset: 3px;
  min-height: 24px;
}
</style>
