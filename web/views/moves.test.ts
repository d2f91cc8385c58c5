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
  expect(moveTo('task', 'owner', 'u')).toBeNull();
  expect([isMovable('deal', 'custom.plan'), isMovable('task', 'custom.plan')]).toEqual([true, false]);
  expect([
    isMovable('company', 'country'),
    isMovable('company', 'owner'),
    isMovable('task', 'owner'),
  ]).toEqual([...[false, true, false]]);
});
