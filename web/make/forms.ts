import { companyRoutes } from '@emporikon/contract/companies';
import { dealRoutes } from '@emporikon/contract/deals';
import { leadRoutes } from '@emporikon/contract/leads';
import { peopleRoutes } from '@emporikon/contract/people';
import { taskRoutes } from '@emporikon/contract/tasks';
import { findRepeat } from '@emporikon/core/calendar/repeatWords';
import { minorOf } from '@emporikon/core/ledger/sum';
import { fromField } from '../shell/moment';
import { api } from '../shell/api';
import { due, todayOf } from '../shell/format';
import { caseForm, projectForm } from './afterDeals';
import { optionsOf, owner, record, text, type Around, type MakeForm } from './around';
import { PRIORITIES, TASK_KINDS } from '../tasks/kinds';

const PERSON = peopleRoutes['POST /api/people'].body;
const personForm = (around: Around): MakeForm => ({
  title: 'New person',
  submit: 'Add the person',
  fields: [
    { name: 'fullName', label: 'Name', kind: 'text', isRequired: true },
    { name: 'jobTitle', label: 'Job title', kind: 'text' },
    { name: 'company', label: 'Company', kind: 'company', mayBeNew: true },
    { name: 'email', label: 'Email', kind: 'email' },
    { name: 'phone', label: 'Phone', kind: 'phone', placeholder: '+44 …' },
    {
      name: 'consent',
      label: 'May you write to them?',
      kind: 'choice',
      help: 'Mailings only go to people who agreed.',
      options: [
        { value: '', title: 'Not known' },
        { value: 'unconfirmed', title: 'Asked, not confirmed' },
        { value: 'agreed', title: 'They agreed' },
      ],
    },
    owner(around),
    { name: 'tags', label: 'Tags', kind: 'tags' },
  ],
  given: { ownerId: around.me, company: around.begun.company ?? null, fullName: around.begun.name ?? '' },
  schema: PERSON,
  aliases: { companyId: 'company', companyName: 'company' },
  toBody: (values) => ({
    fullName: text(values.fullName) ?? '',
    jobTitle: text(values.jobTitle) ?? null,
    email: text(values.email) ?? null,
    phone: text(values.phone) ?? null,
    companyId: record(values.company)?.id ?? null,
    companyName: record(values.company)?.id ? null : (record(values.company)?.label ?? null),
    consent: text(values.consent) ?? null,
    ownerId: text(values.ownerId),
    tags: values.tags,
  }),
  save: async (body) => {
    const { person, eventId } = await api('POST /api/people', { body });
    return { text: `Added ${person.fullName}.`, to: `/people/${person.id}`, eventId };
  },
});

const COMPANY = companyRoutes['POST /api/companies'].body;
const companyForm = ({ begun }: Around): MakeForm => ({
  title: 'New company',
  submit: 'Add the company',
  fields: [
    { name: 'name', label: 'Name', kind: 'text', isRequired: true },
    {
      name: 'domain',
      label: 'Web address',
      kind: 'text',
      placeholder: 'padariasol.example',
      help: 'Mail from this address is recognised as theirs.',
    },
    {
      name: 'kind',
      label: 'Kind',
      kind: 'choice',
      options: [
        { value: 'firm', title: 'Company' },
        { value: 'household', title: 'Household' },
      ],
    },
  ],
  given: { kind: 'firm', name: begun.name ?? '' },
  schema: COMPANY,
  aliases: {},
  toBody: (values) => ({
    name: text(values.name) ?? '',
    domain: text(values.domain) ?? null,
    kind: text(values.kind),
  }),
  save: async (body) => {
    const { company, eventId } = await api('POST /api/companies', { body });
    return { text: `Added ${company.name}.`, to: `/companies/${company.id}`, eventId };
  },
});

const LEAD = leadRoutes['POST /api/leads'].body;
const leadForm = (around: Around): MakeForm => ({
  title: 'New lead',
  submit: 'Add the lead',
  fields: [
    { name: 'person', label: 'Person', kind: 'person', mayBeNew: true, isRequired: true },
    { name: 'company', label: 'Company', kind: 'company', mayBeNew: true },
    { name: 'title', label: 'What they want', kind: 'text', isRequired: true, placeholder: 'Six long bikes' },
    { name: 'source', label: 'Source', kind: 'text', placeholder: 'Utrecht fair' },
    owner(around),
  ],
  given: {
    ownerId: around.me,
    person: around.begun.person ?? null,
    company: around.begun.company ?? null,
    title: around.begun.name ?? '',
  },
  schema: LEAD,
  aliases: { personId: 'person', personName: 'person', companyId: 'company', companyName: 'company' },
  toBody: (values) => ({
    title: text(values.title) ?? '',
    personId: record(values.person)?.id,
    personName: record(values.person)?.id ? undefined : record(values.person)?.label,
    companyId: record(values.company)?.id ?? null,
    companyName: record(values.company)?.id ? undefined : record(values.company)?.label,
    source: text(values.source),
    ownerId: text(values.ownerId),
  }),
  save: async (body) => {
    const { lead, eventId } = await api('POST /api/leads', { body });
    return { text: `Added the lead ${lead.title}.`, to: `/leads/${lead.id}`, eventId };
  },
});

const DEAL = dealRoutes['POST /api/deals'].body;
const dealForm = (around: Around): MakeForm => ({
  title: 'New deal',
  submit: 'Add the deal',
  fields: [
    { name: 'title', label: 'What it is about', kind: 'text', isRequired: true, placeholder: '8 long bikes' },
    { name: 'amount', label: 'Value', kind: 'money', currency: around.currency },
    { name: 'company', label: 'Company', kind: 'company', mayBeNew: true },
    { name: 'person', label: 'Person', kind: 'person' },
    { name: 'expectedClose', label: 'Expected by', kind: 'date' },
    owner(around),
    { name: 'tags', label: 'Tags', kind: 'tags' },
  ],
  given: {
    ownerId: around.me,
    person: around.begun.person ?? null,
    company: around.begun.company ?? null,
    title: around.begun.name ?? '',
  },
  schema: DEAL,
  aliases: { personId: 'person', companyId: 'company', companyName: 'company', amountMinor: 'amount' },
  toBody: (values) => ({
    title: text(values.title) ?? '',
    amountMinor: minorOf(text(values.amount) ?? '', around.currency),
    companyId: record(values.company)?.id ?? null,
    companyName: record(values.company)?.id ? undefined : record(values.company)?.label,
    personId: record(values.person)?.id ?? null,
    expectedClose: text(values.expectedClose) ?? null,
    ownerId: text(values.ownerId),
    tags: values.tags,
  }),
  save: async (body) => {
    const { deal, eventId } = await api('POST /api/deals', { body });
    return { text: `Added the deal ${deal.title}.`, to: `/deals/${deal.id}`, eventId };
  },
});

/** A repeat in plain words as a rule. @throws where the words name none */
function repeatOf(words: string | undefined): string | null {
  const repeat = words ? (findRepeat(words)?.repeat ?? null) : null;
  if (words && !repeat)
    throw new Error(
      `“${words}” names no repeat. Type one such as “every first Monday” or “3 weeks after done”.`,
    );
  return repeat;
}

const TASK = taskRoutes['POST /api/tasks'].body;
const taskForm = (around: Around): MakeForm => ({
  title: 'New task',
  submit: 'Add the task',
  fields: [
    {
      name: 'title',
      label: 'What to do',
      kind: 'text',
      isRequired: true,
      placeholder: 'Send the price list',
    },
    {
      name: 'kind',
      label: 'Kind',
      kind: 'choice',
      options: TASK_KINDS,
    },
    { name: 'day', label: 'Due', kind: 'date', isRequired: true },
    { name: 'assigneeId', label: 'Who does it', kind: 'choice', options: optionsOf(around.team) },
    {
      name: 'repeat',
      label: 'Repeats',
      kind: 'text',
      placeholder: 'every first Monday, 3 weeks after done',
    },
    { name: 'priority', label: 'Priority', kind: 'choice', options: PRIORITIES },
    { name: 'person', label: 'Person', kind: 'person' },
    { name: 'deal', label: 'Deal', kind: 'deal' },
    { name: 'notes', label: 'Notes', kind: 'long' },
  ],
  given: {
    kind: 'task',
    priority: 'normal',
    day: todayOf(),
    assigneeId: around.me,
    person: around.begun.person ?? null,
    deal: around.begun.deal ?? null,
    title: around.begun.name ?? '',
  },
  schema: TASK,
  aliases: { personId: 'person', dealId: 'deal', dueAt: 'day' },
  toBody: (values) => ({
    title: text(values.title) ?? '',
    kind: text(values.kind),
    dueAt: fromField(String(values.day ?? ''), true) ?? '',
    allDay: true,
    assigneeId: text(values.assigneeId),
    priority: text(values.priority),
    repeat: repeatOf(text(values.repeat)),
    notes: text(values.notes),
    personId: record(values.person)?.id ?? null,
    dealId: record(values.deal)?.id ?? null,
    projectId: around.begun.project?.id ?? null,
    caseId: around.begun.case?.id ?? null,
  }),
  save: async (body) => {
    const { task, eventId } = await api('POST /api/tasks', { body });
    return { text: `${task.title}, ${due(task)}, for ${task.assignee.name}.`, to: null, eventId };
  },
});

const FORMS = {
  person: personForm,
  company: companyForm,
  lead: leadForm,
  deal: dealForm,
  task: taskForm,
  case: caseForm,
  project: projectForm,
} as const;

/** The form that makes a record of a kind. */
export const formFor = (what: keyof typeof FORMS, around: Around): MakeForm => FORMS[what](around);
