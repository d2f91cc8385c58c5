<script setup lang="ts">
import type { View } from '@emporikon/contract/queries';
import type { Layout } from '@emporikon/core/query/layout';
import type { Query } from '@emporikon/core/query/types';
import { Line } from '@emporikon/contract/common';
import { z } from 'zod';
import FormDialog from '../kit/FormDialog.vue';
import type { FormField, FormValues } from '../kit/forms';
import { api } from '../shell/api';

/** Saves what is asked for as a view of one's own, or renames and shares one that is there. */
const props = defineProps<{ view: View | null; query: Query; layout: Layout }>();
const emit = defineEmits<{ saved: [done: { view: View; eventId: string | null }]; close: [] }>();
const FIELDS: FormField[] = [
  { name: 'name', label: 'Name', kind: 'text', isRequired: true },
  {
    name: 'shared',
    label: 'Who sees it',
    kind: 'choice',
    options: [
      { value: 'me', title: 'Only me' },
      { value: 'team', title: 'My team' },
      { value: 'everybody', title: 'Everybody' },
    ],
  },
];
const Body = z.object({ name: Line(80), shared: z.enum(['me', 'team', 'everybody']) });
const toBody = ({ name, shared }: FormValues): unknown => ({ name: String(name).trim(), shared });

async function save(body: z.infer<typeof Body>): Promise<void> {
  const done = props.view
    ? await api('PATCH /api/views/:id', {
        params: { id: props.view.id },
        body: { ...body, version: props.view.version },
      })
    : await api('POST /api/views', { body: { ...body, layout: props.layout, query: props.query as never } });
  emit('saved', done);
}
</script>

<template>
  <FormDialog
    :title="view ? 'Rename or share the view' : 'Save as a view'"
    :fields="FIELDS"
    :given="{ name: view?.name ?? '', shared: view?.shared ?? 'me' }"
    submit="Save"
    :draft="view ? `view.${view.id}` : 'view'"
    :to-body="toBody"
    :schema="Body"
    :save="save as (body: never) => Promise<void>"
    @close="emit('close')"
  />
</template>
