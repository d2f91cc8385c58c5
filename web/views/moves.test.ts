import { isMovable, moveTo } from './moves';

it('says what a record takes when it comes to a lane', () => {
  expect(moveTo('person', 'owner', null)).toEqual({ steps: [{ do: 'owner', to: null }] });
  expect(moveTo('person', 'standing', 'customer')).toEqual({ steps: [{ do: 'standing', to: 'customer' }] });
  expect(moveTo('person', 'custom.route', null)).toEqual({ steps: [{ do: 'field', key: 'route', to: '' }] });
  expect(moveTo('company', 'custom.plan', 'Gold')).toEqual({
    steps: [{ do: 'field', key: 'plan', to: 'Gold' }],
  });
  expect(moveTo('deal', 'stage', 's')).toEqual({ steps: [{ do: 'stage', to: 's' }] });
  expect(moveTo('lead', 'status', 'working')).toEqual({ steps: [{ do: 'status', to: 'working' }] });
});

it('asks where more has to be said, and refuses what is no lane to come to', () => {
  expect(moveTo('lead', 'status', 'dropped')).toEqual({ ask: 'dropped', to: 'dropped' });
  expect(moveTo('lead', 'status', 'later', 'parked')).toEqual({ ask: 'parked', to: 'later' });
  expect(moveTo('lead', 'status', 'demo', 'working')).toEqual({ steps: [{ do: 'status', to: 'demo' }] });
  expect(moveTo('company', 'companyKind', 'council')).toEqual({ steps: [{ do: 'kind', to: 'council' }] });
  expect(moveTo('lead', 'status', 'converted')).toBeNull();
  expect(moveTo('lead', 'owner', null)).toBeNull();
  expect(moveTo('company', 'country', 'PT')).toBeNull();
  expect([isMovable('deal', 'custom.plan'), isMovable('capture', 'tone')]).toEqual([true, false]);
  expect([
    isMovable('company', 'country'),
    isMovable('company', 'owner'),
    isMovable('entry', 'author'),
  ]).toEqual([...[false, true, false]]);
});

it('moves tasks, projects and cases in the fields that say who does them and how far they are', () => {
  expect(moveTo('task', 'owner', 'u')).toEqual({ work: 'task', change: { assigneeId: 'u' } });
  expect(moveTo('task', 'priority', 'high')).toEqual({ work: 'task', change: { priority: 'high' } });
  expect(moveTo('project', 'stage', 's')).toEqual({ work: 'project', change: { stageId: 's' } });
  expect(moveTo('case', 'urgency', 'urgent')).toEqual({ work: 'case', change: { urgency: 'urgent' } });
  expect(moveTo('case', 'custom.plan', null)).toEqual({ work: 'case', values: { plan: '' } });
  for (const [kind, field] of [
    ['case', 'cameBy'],
    ['task', 'givenBy'],
    ['project', 'status'],
  ] as const)
    expect([moveTo(kind, field, 'x'), isMovable(kind, field)]).toEqual([null, false]);
  expect(moveTo('task', 'owner', null)).toBeNull();
});
