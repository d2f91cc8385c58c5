import { freeDaysOf } from '../calendar/holidays';
import { readComposerLine } from './composer';

const users = [
  { id: 'mara', name: 'Mara Quill', email: 'mara@wharfside.example' },
  { id: 'joss', name: 'Joss Ferrow', email: 'joss.ferrow@wharfside.example' },
  { id: 'ines', name: 'Ines Tolland', email: 'i.tolland@wharfside.example' },
];
/** A Saturday, so that nothing falls on the day itself by chance. */
const now = '2026-11-28T10:00:00+00:00';
const move = (line: string) =>
  readComposerLine(line, {
    now,
    zone: 'Europe/London',
    userId: 'mara',
    currency: 'EUR',
    users,
    free: freeDaysOf('GB-ENG', [2026, 2027], new Map([['2026-12-07', 'Stocktaking']])),
  }).nextMove;

describe('a task written in plain words', () => {
  it.each([
    [
      'task @joss: fix the price list every first Monday',
      'Fix the price list',
      'joss',
      'FREQ=MONTHLY;BYDAY=1MO',
      '2026-12-04',
    ],
    ['@joss fix the price list on Thursday', 'Fix the price list', 'joss', null, '2026-12-03'],
    [
      '@i.tolland, check the stock every working day',
      'Check the stock',
      'ines',
      'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
      '2026-11-30',
    ],
    ['send the colours Tuesday @ines', 'Send the colours', 'ines', null, '2026-12-01'],
    ['task for Joss: order tyres', 'Order tyres', 'joss', null, '2026-11-30'],
    ['check the stock 3 weeks after done', 'Check the stock', 'mara', 'P3W', '2026-11-30'],
    [
      'call her every other Tuesday at 10am',
      'Call her',
      'mara',
      'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU',
      '2026-12-01',
    ],
    ['call about the price of every bike', 'Call about the price of every bike', 'mara', null, '2026-11-30'],
  ])('%j', (line, title, assigneeId, repeat, day) => {
    const read = move(line);
    expect([read?.title, read?.assigneeId, read?.repeat, read?.dueAt.slice(0, 10)]).toEqual([
      title,
      assigneeId,
      repeat,
      day,
    ]);
  });

  it('is urgent where it says so', () => {
    expect(move('send the quote tomorrow, urgent')).toMatchObject({
      title: 'Send the quote',
      isUrgent: true,
    });
    expect(move('send the quote tomorrow!')).toMatchObject({ title: 'Send the quote', isUrgent: true });
    expect(move('send the quote tomorrow')?.isUrgent).toBe(false);
  });

  it('whoever is called but not asked to do anything gets no task', () => {
    expect(move('@joss can we hold the March price?')).toBeNull();
    expect(move('call Hamish about @joss’s idea')?.assigneeId).toBe('mara');
    expect(move('task for Nobody: order tyres')).toMatchObject({ assigneeId: 'mara' });
  });

  it('nothing is proposed for a free day', () => {
    // The Friday of the week before is the last working day before stocktaking on Monday the 7th.
    expect(move('fix it every first Monday')?.dueAt.slice(0, 10)).toBe('2026-12-04');
    expect(move('order tyres')?.dueAt.slice(0, 10)).toBe('2026-11-30');
  });
});
