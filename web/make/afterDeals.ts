import { caseRoutes } from '@emporikon/contract/cases';
import { projectRoutes } from '@emporikon/contract/projects';
import type { z } from 'zod';
import { URGENCIES } from '../cases/words';
import { api } from '../shell/api';
import { owner, record, text, type Around, type MakeForm } from './around';

const CASE = caseRoutes['POST /api/cases'].body;
export const caseForm = (around: Around): MakeForm => ({
  title: 'New case',
  submit: 'Open the case',
  fields: [
    {
      name: 'title',
      label: 'What is wrong',
      kind: 'text',
      isRequired: true,
      placeholder: 'Cold box stays warm',
    },
    { name: 'person', label: 'Person', kind: 'person' },
    { name: 'company', label: 'Company', kind: 'company' },
    { name: 'urgency', label: 'Urgency', kind: 'choice', options: URGENCIES },
    owner(around),
    { name: 'words', label: 'What happened', kind: 'long' },
  ],
  given: {
    ownerId: around.me,
    urgency: 'normal',
    person: around.begun.person ?? null,
    company: around.begun.company ?? null,
    title: around.begun.name ?? '',
  },
  schema: CASE,
  aliases: { personId: 'person', companyId: 'company' },
  toBody: (values) => ({
    title: text(values.title) ?? '',
    words: text(values.words),
    personId: record(values.person)?.id ?? null,
    companyId: record(values.company)?.id ?? null,
    urgency: text(values.urgency),
    entryId: around.begun.entry?.id,
    ownerId: text(values.ownerId),
  }),
  save: async (body: z.input<typeof CASE>) => {
    const { id, eventId } = await api('POST /api/cases', { body });
    return { text: `Opened the case ${body.title}.`, to: `/cases/${id}`, eventId };
  },
});

const PROJECT = projectRoutes['POST /api/projects'].body;
export const projectForm = (around: Around): MakeForm => ({
  title: 'New project',
  submit: 'Add the project',
  fields: [
    { name: 'title', label: 'Title', kind: 'text', isRequired: true, placeholder: 'Fleet for Padaria Sol' },
    { name: 'company', label: 'Company', kind: 'company' },
    { name: 'dueOn', label: 'Due', kind: 'date' },
    owner(around),
    { name: 'notes', label: 'Notes', kind: 'long' },
  ],
  given: {
    ownerId: around.me,
    company: around.begun.company ?? null,
    title: around.begun.name ?? '',
  },
  schema: PROJECT,
  aliases: { companyId: 'company' },
  toBody: (values) => ({
    title: text(values.title) ?? '',
    companyId: record(values.company)?.id ?? null,
    dueOn: text(values.dueOn) ?? null,
    ownerId: text(values.ownerId),
    notes: text(values.notes),
  }),
  save: async (body: z.input<typeof PROJECT>) => {
    const { id, eventId } = await api('POST /api/projects', { body });
    return { text: `Added the project ${body.title}.`, to: `/projects/${id}`, eventId };
  },
});
