<script setup lang="ts">
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import type { Makeable } from '../find/commands';
import FormDialog from '../kit/FormDialog.vue';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';
import type { Begun } from './around';
import { formFor } from './forms';

/** Makes a person, company, lead, deal or task by hand; what is made is opened, with its undo. */
const props = defineProps<{ what: Exclude<Makeable, 'call'>; begun?: Begun }>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const session = useSession();
const undo = useUndo();
const team = useTeam();
const form = computed(() =>
  formFor(props.what, {
    me: session.me?.id ?? '',
    currency: session.me?.currency ?? 'EUR',
    team: team.value,
    begun: props.begun ?? {},
  }),
);

/** A form that was begun from one record is not the draft of another, nor of another user of this browser. */
const draft = [
  `new ${props.what}`,
  session.me?.id ?? '',
  ...Object.values(props.begun ?? {}).map((value) => (typeof value === 'string' ? value : value.id)),
].join(' ');

async function save(body: never): Promise<void> {
  const { text, to, eventId } = await form.value.save(body);
  undo.tell({ text, eventId });
  if (to) await router.push(to);
}
</script>

<template>
  <FormDialog
    :title="form.title"
    :fields="form.fields"
    :submit="form.submit"
    :draft="draft"
    :schema="form.schema"
    :aliases="form.aliases"
    :to-body="form.toBody"
    :given="form.given"
    :save="save"
    @close="emit('close')"
  />
</template>
