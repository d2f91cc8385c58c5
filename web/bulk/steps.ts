import type { BulkKind, Step } from '@emporikon/core/bulk/types';
import type { CustomField } from '@emporikon/contract/fields';
import type { Term, TermList } from '@emporikon/core/lifecycle/terms';
import type { FormField, FormValues } from '../kit/forms';

interface Option {
  value: string;
  title: string;
}
/** What can be chosen from in this organisation. */
export interface Choices {
  users: readonly Option[];
  lists: readonly Option[];
  projects: readonly Option[];
  /** Open stages, each with its pipeline. */
  stages: readonly Option[];
  teams: readonly Option[];
  /** Standings, statuses and kinds that can be chosen. */
  terms: readonly Pick<Term, 'list' | 'key' | 'name' | 'countsAs'>[];
  fields: readonly CustomField[];
}

export const LEAVE = '';
const NOBODY = 'nobody';
const orLeave = (options: readonly Option[]): Option[] => [
  { value: LEAVE, title: 'Leave as it is' },
  ...options,
];
const named = (values: readonly string[]): Option[] => values.map((value) => ({ value, title: value }));
const flag = (yes: string, no: string): Option[] =>
  orLeave([
    { value: 'yes', title: yes },
    { value: 'no', title: no },
  ]);
const choice = (name: string, label: string, options: readonly Option[]): FormField => ({
  ...{ name, label, kind: 'choice', options },
});

const SIGHT: readonly Option[] = [
  { value: 'everybody', title: 'Everybody' },
  { value: 'owner', title: 'The owner and their managers' },
];
const YES_NO = named(['yes', 'no']);

/** The control for the new value of one of the organisation's own fields. */
function valueField({ kind, options, label }: CustomField): FormField {
  const shared = { name: 'fieldValue', label, help: 'Leave it empty to clear the field.' };
  if (kind === 'date') return { ...shared, kind: 'date' };
  if (kind === 'choice' || kind === 'yes or no') {
    const offered = kind === 'choice' ? named(options) : YES_NO;
    return { ...shared, kind: 'choice', options: [{ value: '', title: 'Clear it' }, ...offered] };
  }
  return { ...shared, kind: 'text' };
}

/** The fields of the form for records of a kind; some only once another is filled in. */
export function formFields(kind: BulkKind, choices: Choices, values: FormValues): FormField[] {
  const { users, lists, projects, stages, teams, fields, terms } = choices;
  const termsOf = (list: TermList): Option[] =>
    orLeave(
      terms
        .filter((term) => term.list === list && term.key !== 'converted')
        .map(({ key, name }) => ({ value: key, title: name })),
    );
  const countsAs = terms.find(({ key }) => key === values.status)?.countsAs;
  const hasTags = kind === 'person' || kind === 'deal';
  const mayBeNobody = kind === 'person' || kind === 'company';
  const field = fields.find(({ key }) => key === values.field);
  const all: (FormField | null)[] = [
    choice(
      'owner',
      'Owner',
      orLeave([...users, ...(mayBeNobody ? [{ value: NOBODY, title: 'Nobody' }] : [])]),
    ),
    kind === 'person' ? choice('standing', 'Standing', termsOf('standing')) : null,
    kind === 'lead' ? choice('status', 'Status', termsOf('leadStatus')) : null,
    kind === 'company' ? choice('kind', 'Kind', termsOf('companyKind')) : null,
    countsAs === 'parked'
      ? { name: 'parkedUntil', label: 'Comes back on', kind: 'date', isRequired: true }
      : null,
    countsAs === 'dropped' ? { name: 'dropReason', label: 'Why', kind: 'text', isRequired: true } : null,
    kind === 'deal' ? choice('stage', 'Stage', orLeave(stages)) : null,
    kind === 'lead' ? { name: 'source', label: 'Source', kind: 'text', placeholder: 'Leave as it is' } : null,
    hasTags ? { name: 'tag', label: 'Add tags', kind: 'tags' } : null,
    hasTags ? { name: 'untag', label: 'Remove tags', kind: 'tags' } : null,
    kind === 'person' && lists.length ? choice('list', 'Put on a list', orLeave(lists)) : null,
    kind === 'person' && lists.length ? choice('unlist', 'Take off a list', orLeave(lists)) : null,
    kind === 'person' && projects.length ? choice('project', 'Add to a project', orLeave(projects)) : null,
    { name: 'move', label: 'Next move', kind: 'text', placeholder: 'None' },
    values.move ? { name: 'due', label: 'Due', kind: 'date', isRequired: true } : null,
    fields.length
      ? choice('field', 'Own field', orLeave(fields.map(({ key, label }) => ({ value: key, title: label }))))
      : null,
    field ? valueField(field) : null,
    kind === 'person' || kind === 'company'
      ? choice('important', 'Important', flag('Important', 'Not important'))
      : null,
    kind === 'person' ? choice('active', 'Active', flag('Active', 'Inactive')) : null,
    choice('visible', 'Visible to', orLeave([...SIGHT, ...teams])),
  ];
  return all.filter((one) => one !== null);
}

const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
const tags = (value: unknown): string[] => (Array.isArray(value) ? (value as string[]) : []);

/** What somebody filled in, as steps; nothing for what is left as it is, or not filled in whole. */
export function stepsOf(kind: BulkKind, values: FormValues, { terms }: Pick<Choices, 'terms'>): Step[] {
  const given = (name: string): string => text(values[name]);
  const steps: Step[] = [];
  if (given('owner')) steps.push({ do: 'owner', to: given('owner') === NOBODY ? null : given('owner') });
  if (kind === 'person' && given('standing')) steps.push({ do: 'standing', to: given('standing') });
  if (kind === 'company' && given('kind')) steps.push({ do: 'kind', to: given('kind') });
  if (kind === 'lead' && given('status')) {
    const to = given('status');
    const countsAs = terms.find(({ key }) => key === to)?.countsAs;
    if (countsAs === 'parked' && given('parkedUntil'))
      steps.push({ do: 'status', to, parkedUntil: given('parkedUntil') });
    else if (countsAs === 'dropped' && given('dropReason'))
      steps.push({ do: 'status', to, dropReason: given('dropReason') });
    else if (countsAs !== 'parked' && countsAs !== 'dropped') steps.push({ do: 'status', to });
  }
  if (kind === 'deal' && given('stage')) steps.push({ do: 'stage', to: given('stage') });
  if (kind === 'lead' && given('source')) steps.push({ do: 'source', to: given('source') });
  if (tags(values.tag).length) steps.push({ do: 'tag', tags: tags(values.tag) });
  if (tags(values.untag).length) steps.push({ do: 'untag', tags: tags(values.untag) });
  if (given('list')) steps.push({ do: 'list', to: given('list') });
  if (given('unlist')) steps.push({ do: 'unlist', to: given('unlist') });
  if (given('project')) steps.push({ do: 'project', to: given('project') });
  if (given('move') && given('due')) steps.push({ do: 'next move', title: given('move'), due: given('due') });
  if (given('field')) steps.push({ do: 'field', key: given('field'), to: given('fieldValue') });
  if (given('important')) steps.push({ do: 'important', to: given('important') === 'yes' });
  const visible = given('visible');
  if (visible === 'everybody' || visible === 'owner') steps.push({ do: 'visible', to: visible });
  else if (visible) steps.push({ do: 'visible', to: 'team', only: [visible] });
  if (given('active')) steps.push({ do: 'active', to: given('active') === 'yes' });
  return steps;
}
