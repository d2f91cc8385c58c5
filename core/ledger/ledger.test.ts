import fc from 'fast-check';
import { readComposerLine, type ComposerContext } from './composer';
import { proposeMove } from './nextMove';
import { dueState, rankRound } from './round';
import { readTurn, type TurnEntry } from './turn';

const CONTEXT: ComposerContext = {
  now: '2026-11-24T09:00:00Z', // a Tuesday
  zone: 'Europe/London',
  userId: 'pell',
  currency: 'EUR',
  users: [
    { id: 'pell', name: 'Pell Garrick', email: 'pell@wharfside.example' },
    { id: 'ines', name: 'Ines Tolland', email: 'ines@wharfside.example' },
  ],
};
const read = (line: string, over: Partial<ComposerContext> = {}) =>
  readComposerLine(line, { ...CONTEXT, ...over });

describe('the composer', () => {
  it('reads the line of the issue as a next move', () => {
    expect(read('call Thursday 11am about the quote').nextMove).toEqual({
      title: 'Call about the quote',
      kind: 'call',
      dueAt: '2026-11-26T11:00:00+00:00',
      allDay: false,
      assumedDate: false,
      assigneeId: 'pell',
      repeat: null,
      isUrgent: false,
    });
  });

  it('takes a day as a day in the writer’s own zone, over a change of the clocks', () => {
    expect(read('call on 1 April at 9:00', { zone: 'Europe/Lisbon' }).nextMove?.dueAt).toBe(
      '2027-04-01T09:00:00+01:00',
    );
  });

  it.each([
    ['task for Ines: price list, Friday', 'Price list', 'ines', '2026-11-27'],
    ['Task for ines: send the price list on Friday', 'Send the price list', 'ines', '2026-11-27'],
    ['todo: price list', 'Price list', 'pell', '2026-11-25'],
    // Nobody of that name works here: the words stay.
    ['task for Padaria: price list, Friday', 'Task for Padaria: price list', 'pell', '2026-11-27'],
    ['todo: order bells for Padaria', 'Order bells for Padaria', 'pell', '2026-11-25'],
    ['task: call Rui back for Ines', 'Call Rui back', 'ines', '2026-11-25'],
  ])('gives what %j says to whom it is for', (line, title, assigneeId, day) => {
    const { nextMove } = read(line);
    expect(nextMove).toMatchObject({ title, assigneeId });
    expect(nextMove?.dueAt.slice(0, 10)).toBe(day);
  });

  it('says so when it had to assume the day, which is the next working day', () => {
    expect(read('send the brochure').nextMove).toMatchObject({
      kind: 'mail',
      dueAt: '2026-11-25T00:00:00+00:00',
      assumedDate: true,
    });
    expect(read('send it', { now: '2026-11-27T15:00:00Z' }).nextMove?.dueAt).toBe(
      '2026-11-30T00:00:00+00:00',
    );
  });

  it('gives it to the one who is named', () => {
    expect(read('call tomorrow about the trial for Ines').nextMove).toMatchObject({
      assigneeId: 'ines',
      title: 'Call about the trial',
    });
  });

  it('tells what happened from what is to come, and a note from both', () => {
    expect(read('called her, she wants ten').entry).toEqual({
      kind: 'call',
      side: 'ours',
      headline: 'Called her, she wants ten',
      at: null,
      outcome: 'spoke',
    });
    expect(read('they called about the invoice').entry).toMatchObject({ kind: 'call', side: 'theirs' });
    expect(read('Works half a day on Fridays. Met us at the fair').entry).toMatchObject({
      kind: 'note',
      side: 'within',
    });
  });

  // The line was written on a Tuesday, 24 November 2026, by somebody in London.
  it.each([
    ['called yesterday at 3pm, no answer', '2026-11-23T15:00:00+00:00', 'no answer'],
    ['visited them yesterday at 4, nobody in', '2026-11-23T16:00:00+00:00', 'no answer'],
    ['dropped by yesterday at 10, liked the box', '2026-11-23T10:00:00+00:00', 'spoke'],
    ['met Ines yesterday at 11, she wants ten', '2026-11-23T11:00:00+00:00', 'spoke'],
    ['meeting was moved to Friday', null, 'moved'],
    ['called on Friday, left a voicemail', '2026-11-20T12:00:00+00:00', 'voicemail'],
    ['called her two days ago, she wants ten', '2026-11-22', 'spoke'],
    ['rang him 12 November', '2026-11-12T12:00:00+00:00', 'spoke'],
    ['spoke last Thursday at 9:30', '2026-11-19T09:30:00+00:00', 'spoke'],
    ['called her', null, 'spoke'],
    ['called, line busy', null, 'no answer'],
  ])('tells when a call took place and how it ended: %s', (line, at, outcome) => {
    const { entry } = read(line);
    expect(entry?.outcome).toBe(outcome);
    if (at === null) expect(entry?.at).toBeNull();
    else expect(entry?.at?.startsWith(at)).toBe(true);
  });
  it('never puts what happened into the future, and says what kind of move a bare time is', () => {
    expect(read('called at 11pm').entry?.at).toBeNull();
    expect(read('call 1/12').nextMove?.title).toBe('Call');
  });

  it('reads a move, a wish and a sum from one line', () => {
    const { nextMove, wants, amount, entry } = read(
      'call Thu 11am about the quote, she wants 10 long bikes now, budget 48k',
    );
    expect(nextMove?.title).toBe('Call about the quote');
    expect(wants).toEqual({ count: 10, of: 'long bikes' });
    expect(amount).toEqual({ minor: 4_800_000, currency: 'EUR' });
    expect(entry?.headline).toBe('She wants 10 long bikes now, budget 48k');
  });

  it('parts what is over from what is to come, and takes a bare figure for a sum', () => {
    expect(read('left a voicemail, try again tomorrow at 9')).toMatchObject({
      nextMove: { title: 'Try again', kind: 'call', dueAt: '2026-11-25T09:00:00+00:00' },
      entry: { kind: 'call', headline: 'Left a voicemail' },
    });
    expect(read('call Thu 11 about the quote, she wants 10 bikes now, 48k').amount).toEqual({
      minor: 4_800_000,
      currency: 'EUR',
    });
    expect(read('lunch Thu 11-12').nextMove).toMatchObject({ title: 'Lunch', allDay: false });
    expect(read('chase the signature Monday morning').nextMove?.title).toBe('Chase the signature');
  });
  it('takes a sum without a currency to be in that of the deal', () =>
    expect(readComposerLine('budget 48k', { ...CONTEXT, currency: 'GBP' }).amount).toEqual({
      minor: 4_800_000,
      currency: 'GBP',
    }));
  it('never makes a line break of what was typed, and lights only what is in the line', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom(
            'call',
            'Thursday',
            '\r\n',
            'Bcc: x',
            ',',
            '.',
            '40k',
            'she wants',
            'eight bikes',
            '\u2028',
            '€',
          ),
          { maxLength: 14 },
        ),
        (words) => {
          const line = words.join(' ');
          const { nextMove, entry, lit } = read(line);
          for (const text of [nextMove?.title ?? '', entry?.headline ?? ''])
            expect(text).not.toMatch(/[\r\n\u2028\0]/);
          for (const { start, end } of lit)
            expect(0 <= start && start < end && end <= line.length).toBe(true);
        },
      ),
    );
  });
});

describe('the turn', () => {
  const entry = (side: TurnEntry['side'], kind: string, day: number, text = ''): TurnEntry => ({
    side,
    kind,
    at: `2026-11-${day}T10:00:00Z`,
    text,
  });

  it('is ours after their mail, theirs after ours, and says why', () => {
    const asked = entry('theirs', 'mail', 12, 'Could you send the quote?');
    expect(readTurn([entry('ours', 'mail', 10), asked])).toEqual({
      turn: 'ours',
      since: '2026-11-12T10:00:00Z',
      because: 'they asked: Could you send the quote?',
    });
    expect(readTurn([entry('ours', 'mail', 10, 'Which of the two would you like?')]).turn).toBe('theirs');
    const answered = entry('ours', 'mail', 14, 'It costs €1,950.');
    expect(readTurn([entry('theirs', 'mail', 12, 'What does it cost?'), answered]).turn).toBe('nobody');
    // Where they asked for a quote, the price is one, and they decide.
    expect(readTurn([asked, answered]).turn).toBe('theirs');
  });
  it('is nobody’s after a call, or when nothing was said; a note of our own does not change it', () => {
    expect(readTurn([entry('theirs', 'mail', 10), entry('ours', 'call', 12)]).turn).toBe('nobody');
    expect(readTurn([]).turn).toBe('nobody');
    expect(readTurn([entry('theirs', 'mail', 10), entry('within', 'note', 14)]).turn).toBe('ours');
  });
});

describe('the round', () => {
  const at = (dueAt: string, allDay: boolean) =>
    dueState({ dueAt, allDay }, '2026-11-24T12:00:00Z', 'Europe/London');
  it('calls a day overdue when it is over, and an hour when it is past', () => {
    expect([
      at('2026-11-23T00:00:00Z', true),
      at('2026-11-24T00:00:00Z', true),
      at('2026-11-24T11:00:00Z', false),
      at('2026-11-24T13:00:00Z', false),
      at('2026-11-25T00:00:00Z', true),
    ]).toEqual(['overdue', 'today', 'overdue', 'today', 'later']);
  });
  it('judges by the day of the person’s zone', () => {
    expect(
      dueState(
        { dueAt: '2026-11-24T00:00:00+11:00', allDay: true },
        '2026-11-24T02:00:00Z',
        'Australia/Sydney',
      ),
    ).toBe('today');
  });
  it('calls several days today until the last is over, on the clock of their zone', () => {
    const fair = { dueAt: '2026-11-23T00:00:00Z', endAt: '2026-11-26T00:00:00Z', allDay: true, zone: 'UTC' };
    const on = (day: string) => dueState(fair, `${day}T12:00:00Z`, 'Europe/London');
    expect(['2026-11-22', '2026-11-23', '2026-11-25', '2026-11-26'].map(on)).toEqual([
      'later',
      'today',
      'today',
      'overdue',
    ]);
  });
  it('puts the longest overdue first, whatever order they came in', () => {
    const tasks = ['2026-11-26', '2026-11-20', '2026-11-24', '2026-11-22'].map((day) => ({
      id: day,
      dueAt: `${day}T00:00:00Z`,
      allDay: true,
    }));
    expect(rankRound(tasks, '2026-11-24T12:00:00Z', 'UTC').map((task) => task.id)).toEqual([
      '2026-11-20',
      '2026-11-22',
      '2026-11-24',
      '2026-11-26',
    ]);
  });
});

describe('the proposed next move', () => {
  const ask = (what: string, due: string | null) => ({
    kind: 'ask' as const,
    text: `Could you ${what}?`,
    value: { what, due },
    confidence: 0.92,
  });
  it('is what they ask, the working day before it is due', () => {
    expect(
      proposeMove(
        [ask('send the quote before Thursday', '2026-11-26T00:00:00Z')],
        '2026-11-24T09:00:00Z',
        'UTC',
      ),
    ).toEqual({ title: 'Send the quote', kind: 'mail', dueAt: '2026-11-25T00:00:00Z', allDay: true });
  });
  it('is what they turn to us for before what they wish, and the soonest of it', () => {
    const wish = { ...ask('three bikes by the end of March', '2027-03-31T00:00:00Z'), confidence: 0.8 };
    const when = {
      kind: 'date' as const,
      text: 'end of March',
      value: { at: '', allDay: true },
      confidence: 0.9,
    };
    const propose = (...asks: ReturnType<typeof ask>[]) =>
      proposeMove([...asks, when], '2026-11-24T09:00:00Z', 'UTC');
    expect(
      propose(wish, ask('call me', '2026-11-25T16:00:00Z'), ask('send it', '2026-12-04T00:00:00Z')),
    ).toMatchObject({
      title: 'Call them',
      dueAt: '2026-11-25T16:00:00Z',
    });
    expect(propose(wish)).toMatchObject({
      title: 'Answer: three bikes',
      dueAt: '2026-11-25T00:00:00Z',
      allDay: true,
    });
  });
  it('is said from our side, without the date it is due', () => {
    const when = {
      kind: 'date' as const,
      text: 'Friday 4 December',
      confidence: 0.9,
      value: { at: '2026-12-04', allDay: true },
    };
    expect(
      proposeMove(
        [ask('send us a quote for our shop by Friday 4 December', '2026-12-04T00:00:00Z'), when],
        '2026-11-24T09:00:00Z',
        'UTC',
      )?.title,
    ).toBe('Send them a quote for their shop');
  });
  it('skips the weekend, and is never before today', () => {
    expect(proposeMove([ask('send it', '2026-11-30T00:00:00Z')], '2026-11-24T09:00:00Z', 'UTC')?.dueAt).toBe(
      '2026-11-27T00:00:00Z',
    );
    expect(proposeMove([ask('send it', '2026-11-24T00:00:00Z')], '2026-11-24T09:00:00Z', 'UTC')?.dueAt).toBe(
      '2026-11-24T00:00:00Z',
    );
  });
  it('keeps the hour of an appointment', () => {
    expect(
      proposeMove([ask('call me', '2026-11-26T11:00:00+01:00')], '2026-11-24T09:00:00Z', 'UTC'),
    ).toMatchObject({ kind: 'call', dueAt: '2026-11-26T11:00:00+01:00', allDay: false });
  });
  it('is none when nothing is asked', () =>
    expect(proposeMove([], '2026-11-24T09:00:00Z', 'UTC')).toBeNull());
});
