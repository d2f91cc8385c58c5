import { formFields, stepsOf, type Choices } from './steps';

const CHOICES: Choices = {
  users: [{ value: 'u1', title: 'Ines' }],
  lists: [{ value: 'l1', title: 'Spring' }],
  projects: [],
  stages: [{ value: 's1', title: 'Talking' }],
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
const names = (kind: 'person' | 'company' | 'lead' | 'deal', values = {}): string[] =>
  formFields(kind, CHOICES, values).map(({ name }) => name);

it('offers what records of a kind can take, and what belongs to it once it is needed', () => {
  expect(names('company')).toEqual(['owner', 'move', 'field', 'important', 'visible']);
  expect(names('deal')).toEqual(['owner', 'stage', 'tag', 'untag', 'move', 'field', 'visible']);
  expect(names('lead', { status: 'parked', move: 'Call' })).toEqual([
    ...['owner', 'status', 'parkedUntil', 'source', 'move', 'due', 'field', 'visible'],
  ]);
  expect(names('person', { field: 'route' })).toContain('fieldValue');
  expect(names('person')).not.toContain('project');
});

it('says as steps only what is filled in, whole', () => {
  expect(stepsOf('person', { owner: '', tag: [], move: 'Call' })).toEqual([]);
  expect(
    stepsOf('person', {
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
  expect(stepsOf('lead', { status: 'dropped' })).toEqual([]);
  expect(stepsOf('lead', { status: 'dropped', dropReason: 'no budget' })).toEqual([
    { do: 'status', to: 'dropped', dropReason: 'no budget' },
  ]);
  expect(stepsOf('lead', { status: 'working', standing: 'partner' })).toEqual([
    { do: 'status', to: 'working' },
  ]);
});

it('who sees them is everybody, the owner, or one team', () => {
  expect(stepsOf('deal', { visible: 'owner' })).toEqual([{ do: 'visible', to: 'owner' }]);
  expect(stepsOf('deal', { visible: 't1' })).toEqual([{ do: 'visible', to: 'team', only: ['t1'] }]);
  expect(stepsOf('deal', { visible: '' })).toEqual([]);
});
