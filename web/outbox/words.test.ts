import type { Delivery } from '@emporikon/contract/outbox';
import { deliveryWords, mayRepeat } from './words';

const delivery = (over: Partial<Delivery>): Delivery => ({
  id: '00000000-0000-4000-8000-000000000001',
  state: 'waiting',
  tries: 1,
  trouble: null,
  nextTryAt: null,
  deadline: '2026-11-27T10:00:00Z',
  ...over,
});

it('says nothing of what went out, and why the rest did not', () => {
  expect(deliveryWords(delivery({ state: 'sent' }), 'The mail')).toBe('');
  expect(
    deliveryWords(delivery({ trouble: 'no answer', nextTryAt: '2026-11-27T09:00:00Z' }), 'The mail'),
  ).toBe('The mail has not gone out yet (no answer); it is tried again automatically.');
  expect(deliveryWords(delivery({ state: 'expired', trouble: 'no answer' }), 'The call')).toBe(
    'The call did not go out (no answer).',
  );
});

it('offers another try only where nothing is under way and nothing went out for sure', () => {
  const states = ['waiting', 'sending', 'sent', 'failed', 'expired', 'unsure'] as const;
  expect(states.filter((state) => mayRepeat(delivery({ state })))).toEqual(['failed', 'expired', 'unsure']);
});
