import type { Action, BuiltInRole, RecordArea, SettingArea } from '@emporikon/core/rights/rights';

/** The table of rights as it reads. */
export const AREAS: Readonly<Record<RecordArea, string>> = {
  people: 'People',
  companies: 'Companies',
  leads: 'Leads',
  deals: 'Deals',
  tasks: 'Tasks and meetings',
  projects: 'Projects and cases',
  ledger: 'History',
  captures: 'Arrivals and imports',
};
export const ACTIONS: Readonly<Record<Action, string>> = {
  see: 'See',
  add: 'Add',
  change: 'Change',
  delete: 'Delete',
  export: 'Export',
  bulk: 'Change many',
};
export const SETTINGS_OF: Readonly<Record<SettingArea, { name: string; holds: string }>> = {
  organisation: {
    name: 'Organisation',
    holds: 'closed days, kinds of tasks, rhythms, project stages, file limits',
  },
  fields: { name: 'Fields', holds: 'fields, tags, lists, sources, kinds of relations' },
  scoring: { name: 'Scoring', holds: 'fit, warmth, lead owners, questions, plans for prospects' },
  deals: { name: 'Deals', holds: 'pipelines, stages, reasons, products, prices, quotes' },
  channels: { name: 'Channels', holds: 'forms, look-up sources, where facts go' },
  data: { name: 'Data', holds: 'how long personal data is kept' },
};
export const BUILT_IN: readonly { role: BuiltInRole; name: string; says: string }[] = [
  { role: 'rep', name: 'Rep', says: 'Works with all records. Changes no settings.' },
  {
    role: 'manager',
    name: 'Manager',
    says: 'Also changes settings, and sees what only an owner and their managers see.',
  },
  { role: 'admin', name: 'Admin', says: 'Also looks after accounts, roles and how long data is kept.' },
];
