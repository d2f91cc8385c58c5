import { formFields, stepsOf, type Choices } from './steps';

const CHOICES: Choices = {
  users: [{ value: 'u1', title: 'Ines' }],
  lists: [{ value: 'l1', title: 'Spring' }],
  projects: [],
  stages: [{ value: 's1', title: 'Talking' }],
  terms: [
    { list: 'leadStatus', key: 'working', name: 'working', countsAs: 'working' },
    { list: 'leadStatus', key: 'parked', name: 'parked', countsAs: 'parked' },
    { list: 'leadStatus', key: 'dropped', name: 'dropped', countsAs: 'dropped' },
    { list: 'leadStatus', key: 'later', name: 'Next season', countsAs: 'parked' },
    { list: 'companyKind', key: 'council', name: 'Council', countsAs: 'firm' },
  ],
  teams: [{ value: 't1', title: 'Harbour' }],
  fields: [
    {
      id: 'f',
      version: 1,
      key: 'route',
      label: 'Route',
      kind: 'text',
      options: [],
      active: true,
      isPersonal: false,
      record: 'person',
      tab: '',
      part: '',
      help: '',
      isAsked: false,
      preset: '',
      isUnique: false,
      onlyFor: [],
      formula: '',
      seenBy: 'everybody',
      changedBy: 'everybody',
    },
  ],
};
const steps = (...[kind, values]: [Parameters<typeof stepsOf>[0], Parameters<typeof stepsOf>[1]]) =>
  stepsOf(kind, values, CHOICES);
const names = (kind: 'person' | 'company' | 'lead' | 'deal', values = {}): string[] =>
  formFields(kind, CHOICES, values).map(({ name }) => name);

it('offers what records of a kind can take, and what belongs to it once it is needed', () => {
  expect(names('company')).toEqual(['owner', 'kind', 'move', 'field', 'important', 'visible']);
  expect(names('deal')).toEqual(['owner', 'stage', 'tag', 'untag', 'move', 'field', 'visible']);
  expect(names('lead', { status: 'parked', move: 'Call' })).toEqual([
    ...['owner', 'status', 'parkedUntil', 'source', 'move', 'due', 'field', 'visible'],
  ]);
  expect(names('lead', { status: 'later' })).toContain('parkedUntil');
  expect(names('person', { field: 'route' })).toContain('fieldValue');
  expect(names('person')).not.toContain('project');
});

it('says as steps only what is filled in, whole', () => {
  expect(steps('person', { owner: '', tag: [], move: 'Call' })).toEqual([]);
  expect(
    steps('person', {
      owner: 'nobody',
      tag: ['fair'],
      list: 'l1',
      field: 'route',
      fieldValue: '',
      active: 'no',
    }),
  ).toEqual([
    { do: 'owner', to: null },
    { do: 'tag', tags: ['fair'] },
    { do: 'list', to: 'l1' },
    { do: 'field', key: 'route', to: '' },
    { do: 'active', to: false },
  ]);
  expect(steps('lead', { status: 'dropped' })).toEqual([]);
  expect(steps('lead', { status: 'later' })).toEqual([]);
  expect(steps('lead', { status: 'later', parkedUntil: '2027-03-01' })).toEqual([
    { do: 'status', to: 'later', parkedUntil: '2027-03-01' },
  ]);
  expect(steps('company', { kind: 'council' })).toEqual([{ do: 'kind', to: 'council' }]);
  expect(steps('lead', { status: 'dropped', dropReason: 'no budget' })).toEqual([
    { do: 'status', to: 'dropped', dropReason: 'no budget' },
  ]);
  expect(steps('lead', { status: 'working', standing: 'partner' })).toEqual([
    { do: 'status', to: 'working' },
  ]);
});

it('who sees them is everybody, the owner, or one team', () => {
  expect(steps('deal', { visible: 'owner' })).toEqual([{ do: 'visible', to: 'owner' }]);
  expect(steps('deal', { visible: 't1' })).toEqual([{ do: 'visible', to: 'team', only: ['t1'] }]);
  expect(steps('deal', { visible: '' })).toEqual([]);
});
