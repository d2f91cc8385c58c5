const view = (
  kind: string,
  name: string,
  columns: readonly string[],
  {
    filter = [],
    order,
    groups = [],
  }: {
    filter?: readonly object[];
    order: readonly [field: string, direction: 'asc' | 'desc'];
    groups?: readonly object[];
  },
): readonly [kind: string, name: string, query: object] => [
  kind,
  name,
  {
    kind,
    filter: { all: filter },
    groups,
    order: [{ field: order[0], direction: order[1] }],
    totals: [],
    columns,
  },
];
const within = (field: string, unit: 'week' | 'month'): object => ({
  field,
  op: 'in',
  value: { unit, shift: 0 },
});

const PROJECT = ['title', 'stage', 'companyName', 'dueOn', 'progress', 'nextMoveDue', 'owner'];
const CASE = ['title', 'urgency', 'fullName', 'companyName', 'solveBy', 'overdue', 'owner'];
const ENTRY = ['headline', 'entryKind', 'outcome', 'fullName', 'companyName', 'at', 'author'];
const CAPTURE = ['subject', 'captureKind', 'tone', 'state', 'receivedAt'];

/** Views of projects, cases, history and captures that every organisation begins with. */
export const STARTING_VIEWS_OF_WORK = [
  view('project', 'Open projects', PROJECT, {
    filter: [{ field: 'status', op: 'is', value: ['open'] }],
    order: ['dueOn', 'asc'],
  }),
  view('project', 'By owner', PROJECT, {
    filter: [{ field: 'status', op: 'is', value: ['open'] }],
    order: ['dueOn', 'asc'],
    groups: [{ field: 'owner' }],
  }),
  view('case', 'Open cases', CASE, {
    filter: [{ field: 'solved', op: 'is', value: false }],
    order: ['solveBy', 'asc'],
  }),
  view('case', 'Overdue', CASE, {
    filter: [{ field: 'overdue', op: 'is', value: true }],
    order: ['solveBy', 'asc'],
  }),
  view('entry', 'Calls this week', ENTRY, {
    filter: [{ field: 'entryKind', op: 'is', value: ['call'] }, within('at', 'week')],
    order: ['at', 'desc'],
    groups: [{ field: 'author' }],
  }),
  view('entry', 'Meetings this month', ENTRY, {
    filter: [{ field: 'entryKind', op: 'is', value: ['meeting', 'visit'] }, within('at', 'month')],
    order: ['at', 'desc'],
  }),
  view('entry', 'Everything this week', ENTRY, { filter: [within('at', 'week')], order: ['at', 'desc'] }),
  view('capture', 'Waiting', CAPTURE, {
    filter: [{ field: 'state', op: 'is', value: ['waiting'] }],
    order: ['receivedAt', 'desc'],
  }),
  view('capture', 'Negative', CAPTURE, {
    filter: [{ field: 'tone', op: 'is', value: ['negative'] }],
    order: ['receivedAt', 'desc'],
  }),
  view('capture', 'Came in this week', CAPTURE, {
    filter: [within('receivedAt', 'week')],
    order: ['receivedAt', 'desc'],
    groups: [{ field: 'captureKind' }],
  }),
];
