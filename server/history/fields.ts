import type { FieldChange } from '@emporikon/contract/history';

type Type = FieldChange['type'];
/** A field as the history tells it: its caption, and how its values are written. */
export interface ToldField {
  caption: string;
  type: Type | 'user' | 'stage' | 'project stage' | 'company' | 'person' | 'file' | 'term';
  /** Of money whose currency is not a column of the record. */
  currency?: string;
}
const text = (caption: string): ToldField => ({ caption, type: 'text' });
const owner: ToldField = { caption: 'Owner', type: 'user' };
const company: ToldField = { caption: 'Company', type: 'company' };
const rhythm = text('Rhythm in days');
const important = text('Important');

/** What the history tells of each table, in this order. */
export const TOLD: Readonly<Record<FieldChange['record']['table'], Readonly<Record<string, ToldField>>>> = {
  people: {
    fullName: text('Name'),
    jobTitle: text('Job title'),
    companyId: company,
    address: text('Address'),
    timeZone: text('Time zone'),
    birthday: text('Birthday'),
    background: text('Background'),
    standing: { caption: 'Standing', type: 'term' },
    ownerId: owner,
    tags: text('Tags'),
    inactiveSince: { caption: 'Inactive since', type: 'time' },
    rhythmDays: rhythm,
    isImportant: important,
    custom: text('Own field'),
  },
  companies: {
    name: text('Name'),
    domain: text('Domain'),
    legalName: text('Legal name'),
    url: text('Web'),
    phone: text('Phone'),
    address: text('Address'),
    country: text('Country'),
    timeZone: text('Time zone'),
    industry: text('Industry'),
    employees: text('Employees'),
    custom: text('Own field'),
    technologies: text('Technology'),
    kind: { caption: 'Kind', type: 'term' },
    parentId: { caption: 'Parent company', type: 'company' },
    ownerId: owner,
    rhythmDays: rhythm,
    isImportant: important,
  },
  leads: {
    title: text('Title'),
    status: { caption: 'Status', type: 'term' },
    source: text('Source'),
    custom: text('Own field'),
    rating: text('Rating'),
    ownerId: owner,
    parkedUntil: { caption: 'Parked until', type: 'day' },
    dropReason: text('Why it was dropped'),
  },
  deals: {
    title: text('Title'),
    stageId: { caption: 'Stage', type: 'stage' },
    amountMinor: { caption: 'Amount', type: 'money' },
    currency: text('Currency'),
    probability: text('Win chance in per cent'),
    expectedClose: { caption: 'Expected', type: 'day' },
    companyId: company,
    ownerId: owner,
    tags: text('Tags'),
    custom: text('Own field'),
    closeReason: text('Why it ended'),
  },
  tasks: {
    title: text('What to do'),
    kind: text('Kind'),
    dueAt: { caption: 'Due', type: 'time' },
    endsAt: { caption: 'Until', type: 'time' },
    place: text('Where'),
    assigneeId: { caption: 'Who does it', type: 'user' },
    priority: text('Priority'),
    progress: text('Progress'),
    repeat: text('Repeats'),
    custom: text('Own field'),
    notes: text('Notes'),
    doneAt: { caption: 'Done', type: 'time' },
  },
  projects: {
    title: text('Title'),
    stageId: { caption: 'Stage', type: 'project stage' },
    companyId: company,
    ownerId: owner,
    startsOn: { caption: 'Starts', type: 'day' },
    dueOn: { caption: 'Due', type: 'day' },
    custom: text('Own field'),
    progress: text('Progress'),
    notes: text('Notes'),
  },
  cases: {
    title: text('Title'),
    words: text('What happened'),
    personId: { caption: 'Person', type: 'person' },
    companyId: company,
    urgency: text('Urgency'),
    ownerId: owner,
    solvedAt: { caption: 'Solved', type: 'time' },
    custom: text('Own field'),
    solution: text('How it was solved'),
  },
  contact_points: { value: text('Contact detail'), consent: text('Consent') },
};

export const TOLD_FIELDS: Readonly<Record<string, readonly string[]>> = Object.fromEntries(
  Object.entries(TOLD).map(([table, fields]) => [table, Object.keys(fields)]),
);
/** Fields that cannot be put back by themselves. */
export const NOT_RESTORED: ReadonlySet<string> = new Set([
  'tasks.doneAt',
  'cases.solvedAt',
  'contact_points.consent',
]);
