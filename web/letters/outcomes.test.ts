import type { Outcome } from '@emporikon/contract/outcome';

jest.mock('../shell/format', () => ({ calendarDay: (day: string) => day }));
import { isBad, lettersOutcome, outcomeWords } from './outcomes';

const at = (more: Partial<Outcome>): Outcome => ({
  ...{ name: 'Ana', address: 'ana@x.example', personId: null, status: '', words: '', toldAt: null },
  ...{ state: 'sent', awayUntil: null, answeredAt: null },
  ...{ openedAt: null, fetchedAt: null, clickedAt: null, clicks: 0 },
  ...more,
});

it('says what became of a letter, and nothing where it was only sent', () => {
  expect(lettersOutcome([at({})])).toBe('');
  expect(lettersOutcome([at({ state: 'gone' })])).toBe('address no longer exists');
  expect(outcomeWords(at({ state: 'delivered', awayUntil: '2027-01-04' }))).toBe(
    'delivered, away until 2027-01-04',
  );
  expect(outcomeWords(at({ state: 'delivered', answeredAt: '2026-12-01T10:00:00Z' }))).toBe('answered');
  const openedAt = '2026-12-01T10:00:00Z';
  expect(outcomeWords(at({ state: 'delivered', openedAt }))).toBe('opened');
  expect(outcomeWords(at({ openedAt, clickedAt: openedAt, clicks: 2 }))).toBe('opened, followed 2 links');
  // A program that fetched its pictures tells nothing of a reader.
  expect(outcomeWords(at({ state: 'delivered', fetchedAt: openedAt }))).toBe('delivered');
  expect(lettersOutcome([at({ openedAt })])).toBe('opened');
});

it('names, of several, those there is something to say of', () => {
  const rui = at({ name: '', address: 'rui@x.example', state: 'full' });
  expect(lettersOutcome([at({ state: 'delivered' }), rui])).toBe('rui@x.example: mailbox full');
  expect([isBad(rui), isBad(at({ state: 'delayed' }))]).toEqual([true, false]);
});
