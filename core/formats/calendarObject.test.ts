import { occurrenceOn, readObject, type EventFacts } from './calendarObject';
import { newObject, withFacts, withoutOccurrence, withRule, withSeriesEnd } from './writeCalendarObject';
import { readCalendar } from './icalendar';

const file = (...lines: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Somebody//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
const event = (...lines: string[]): string[] => ['BEGIN:VEVENT', 'UID:a@b.example', ...lines, 'END:VEVENT'];
const SPAN = { from: '2026-03-01T00:00:00Z', until: '2026-05-01T00:00:00Z' };
const starts = (raw: string, zone = 'Europe/Berlin', span = SPAN): (string | undefined)[] =>
  readObject(raw, zone, span)?.occurrences.map(({ at, facts }) => `${at} ${facts.start}`) ?? [];
const WEEKLY = [
  'SUMMARY:Team',
  'DTSTART;TZID=Europe/Berlin:20260310T090000',
  'DTEND;TZID=Europe/Berlin:20260310T093000',
];
const SAID = { stamp: '2026-03-01T08:00:00Z', zone: 'Europe/Berlin' };
const FACTS: EventFacts = {
  title: 'Trial ride',
  start: '2026-03-10T09:00:00.000Z',
  end: '2026-03-10T10:00:00.000Z',
  allDay: false,
  place: 'Quay 4',
  notes: 'Bring helmets',
};
const EVENT = {
  uid: 'meeting.1@wharfside.example',
  facts: FACTS,
  rule: null,
  zone: 'Europe/Berlin',
  stamp: '2026-03-01T08:00:00.000Z',
  url: 'http://127.0.0.1/',
  isPrivate: false,
};

describe('a series', () => {
  it('keeps its hour over the change to summer time of 29 March 2026', () => {
    expect(starts(file(...event(...WEEKLY, 'RRULE:FREQ=WEEKLY;COUNT=4')))).toEqual([
      '2026-03-10T08:00:00.000Z 2026-03-10T08:00:00.000Z',
      '2026-03-17T08:00:00.000Z 2026-03-17T08:00:00.000Z',
      '2026-03-24T08:00:00.000Z 2026-03-24T08:00:00.000Z',
      '2026-03-31T07:00:00.000Z 2026-03-31T07:00:00.000Z',
    ]);
  });

  it('leaves out what is left out, in whichever zone that is written, and moves what was moved', () => {
    const raw = file(
      ...event(...WEEKLY, 'RRULE:FREQ=WEEKLY;COUNT=4', 'EXDATE:20260317T080000Z'),
      ...event(
        'SUMMARY:Team, late',
        'RECURRENCE-ID;TZID=Europe/Berlin:20260324T090000',
        'DTSTART;TZID=Europe/Berlin:20260325T150000',
      ),
    );
    const read = readObject(raw, 'UTC', SPAN);
    expect(read?.occurrences.map(({ at, facts }) => [at, facts.start, facts.title])).toEqual([
      ['2026-03-10T08:00:00.000Z', '2026-03-10T08:00:00.000Z', 'Team'],
      ['2026-03-24T08:00:00.000Z', '2026-03-25T14:00:00.000Z', 'Team, late'],
      ['2026-03-31T07:00:00.000Z', '2026-03-31T07:00:00.000Z', 'Team'],
    ]);
  });

  it('takes dates that are added (RDATE), and parts of a rule in any order', () => {
    const raw = file(
      ...event(...WEEKLY, 'RRULE:COUNT=2;BYDAY=TU;INTERVAL=2;FREQ=WEEKLY', 'RDATE:20260401T120000Z'),
    );
    expect(starts(raw).map((one) => one?.slice(0, 13))).toEqual([
      '2026-03-10T08',
      '2026-03-24T08',
      '2026-04-01T12',
    ]);
  });

  it('of whole days is on days', () => {
    const raw = file(
      ...event(
        'SUMMARY:Fair',
        'DTSTART;VALUE=DATE:20260310',
        'DTEND;VALUE=DATE:20260312',
        'RRULE:FREQ=MONTHLY',
      ),
    );
    expect(
      readObject(raw, 'Europe/Berlin', SPAN)?.occurrences.map(({ facts }) => [facts.start, facts.end]),
    ).toEqual([
      ['2026-03-10', '2026-03-12'],
      ['2026-04-10', '2026-04-12'],
    ]);
  });

  it('on the clock of a zone under a name that only the file knows', () => {
    const zone = [
      'BEGIN:VTIMEZONE',
      'TZID:W. Europe Standard Time',
      'BEGIN:STANDARD',
      'DTSTART:16011028T030000',
      'RRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10',
      'TZOFFSETFROM:+0200',
      'TZOFFSETTO:+0100',
      'END:STANDARD',
      'BEGIN:DAYLIGHT',
      'DTSTART:16010325T020000',
      'RRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=3',
      'TZOFFSETFROM:+0100',
      'TZOFFSETTO:+0200',
      'END:DAYLIGHT',
      'END:VTIMEZONE',
    ];
    const raw = file(
      ...zone,
      ...event(
        'SUMMARY:x',
        'DTSTART;TZID=W. Europe Standard Time:20260324T090000',
        'RRULE:FREQ=WEEKLY;COUNT=2',
      ),
    );
    expect(starts(raw, 'America/New_York').map((one) => one?.split(' ')[0])).toEqual([
      '2026-03-24T08:00:00.000Z',
      '2026-03-31T07:00:00.000Z',
    ]);
  });

  it.each([
    ['one that never comes', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30'],
    ['one of seconds', 'FREQ=SECONDLY'],
    ['one that asks for every minute of a century', 'FREQ=MINUTELY;UNTIL=21260101T000000Z'],
    ['nonsense', 'FREQ=OFTEN'],
  ])('%s is followed no further than its first', (_, rule) => {
    const read = readObject(file(...event(...WEEKLY, `RRULE:${rule}`)), 'UTC', SPAN);
    expect(read === null || (read.occurrences.length === 1 && (read.isBeyond || read.rule === null))).toBe(
      true,
    );
  });

  it('of which somebody was asked to one meeting only is that meeting (RFC 5545, 3.8.4.4)', () => {
    const raw = file(...event('SUMMARY:Once', 'RECURRENCE-ID:20260324T080000Z', 'DTSTART:20260324T090000Z'));
    expect(starts(raw)).toEqual(['2026-03-24T08:00:00.000Z 2026-03-24T09:00:00.000Z']);
  });
});

describe('what is written', () => {
  it('is read back as it was', () => {
    const read = readObject(newObject(EVENT), 'UTC', SPAN);
    expect(read).toMatchObject({
      uid: EVENT.uid,
      rule: null,
      first: { at: '', facts: FACTS, isPrivate: false },
    });
  });

  it('a series of ours keeps its hour, with its zone described for whoever does not know it', () => {
    const raw = newObject({ ...EVENT, rule: 'FREQ=WEEKLY' });
    expect(raw).toContain('BEGIN:VTIMEZONE');
    expect(
      starts(raw, 'Asia/Tokyo')
        .slice(2, 4)
        .map((one) => one?.split(' ')[0]),
    ).toEqual(['2026-03-24T09:00:00.000Z', '2026-03-31T08:00:00.000Z']);
    // The description alone, under a name that no platform knows, tells the same hours.
    const renamed = raw.replaceAll('Europe/Berlin', 'Elsewhere');
    expect(starts(renamed, 'Asia/Tokyo')).toEqual(starts(raw, 'Asia/Tokyo'));
  });

  it('changes what was changed and leaves all else as another program wrote it', () => {
    const raw = file(
      ...event(
        ...WEEKLY,
        'RRULE:FREQ=WEEKLY;COUNT=4',
        'X-OTHER:kept',
        'SEQUENCE:4',
        'BEGIN:VALARM',
        'ACTION:DISPLAY',
        'TRIGGER:-PT15M',
        'END:VALARM',
      ),
    );
    const was = readObject(raw, 'UTC', SPAN)?.first.facts as EventFacts;
    const written = withFacts(raw, '', was, { ...was, place: 'Shed; north' }, SAID) ?? '';
    for (const line of [
      'X-OTHER:kept',
      'TRIGGER:-PT15M',
      'SEQUENCE:5',
      'RRULE:FREQ=WEEKLY;COUNT=4',
      'LOCATION:Shed\\; north',
    ])
      expect(written).toContain(line);
    expect(written).toContain('DTSTART;TZID=Europe/Berlin:20260310T090000');
  });

  it('one meeting of a series is moved alone, and moved again, and left out', () => {
    const raw = file(...event(...WEEKLY, 'RRULE:FREQ=WEEKLY;COUNT=4'));
    const third = readObject(raw, 'UTC', SPAN)?.occurrences[2];
    if (!third) throw new Error('there is a third');
    const moved = { ...third.facts, start: '2026-03-25T10:00:00.000Z', end: '2026-03-25T10:30:00.000Z' };
    const once = withFacts(raw, third.at, third.facts, moved, SAID) ?? '';
    const twice = withFacts(once, third.at, moved, { ...moved, title: 'Team, late' }, SAID) ?? '';
    const read = readObject(twice, 'UTC', SPAN)?.occurrences;
    expect(read?.map(({ facts }) => [facts.start.slice(0, 13), facts.title])).toEqual([
      ['2026-03-10T08', 'Team'],
      ['2026-03-17T08', 'Team'],
      ['2026-03-25T10', 'Team, late'],
      ['2026-03-31T07', 'Team'],
    ]);
    const without = withoutOccurrence(twice, third.at, SAID) ?? '';
    expect(starts(without).map((one) => one?.slice(0, 10))).toEqual([
      '2026-03-10',
      '2026-03-17',
      '2026-03-31',
    ]);
    expect(without.match(/BEGIN:VEVENT/g)).toHaveLength(1);
  });

  it('a time of a series is as its rule has it, as somebody changed it, or none', () => {
    const weekly = file(...event(...WEEKLY, 'RRULE:FREQ=WEEKLY'));
    const [, second = '', third = '', fourth = ''] = starts(weekly).map((one) => one?.split(' ')[0]);
    const usual = readObject(weekly, 'UTC', SPAN);
    const was = (usual && occurrenceOn(usual, second)?.facts) as EventFacts;
    expect(was.start).toBe('2026-03-17T08:00:00.000Z');
    const changed = withFacts(weekly, second, was, { ...was, title: 'Team, late' }, SAID) ?? '';
    const without = withoutOccurrence(changed, third, SAID) ?? '';
    const off = without.replace('SUMMARY:Team\\, late', 'SUMMARY:Team\\, late\r\nSTATUS:CANCELLED');
    const on = (raw: string, at: string) => {
      const read = readObject(raw, 'UTC', SPAN);
      return read && occurrenceOn(read, at)?.facts.title;
    };
    expect([second, third, fourth].map((at) => on(without, at))).toEqual(['Team, late', undefined, 'Team']);
    expect(on(off, second)).toBeUndefined();
    // Far beyond what is laid out.
    expect(on(without, '2031-03-11T08:00:00.000Z')).toBe('Team');
  });

  it('a series that ends before one of its times keeps what was before, changed or not', () => {
    for (const rule of ['FREQ=WEEKLY', 'FREQ=WEEKLY;COUNT=20', 'FREQ=WEEKLY;UNTIL=20270101T000000Z']) {
      const raw = file(...event(...WEEKLY, `RRULE:${rule}`));
      const times = readObject(raw, 'UTC', SPAN)?.occurrences ?? [];
      const [, second, third, fourth] = times;
      if (!second || !third || !fourth) throw new Error('there are four');
      const late = (facts: EventFacts): EventFacts => ({ ...facts, title: 'Late' });
      const one = withFacts(raw, second.at, second.facts, late(second.facts), SAID) ?? '';
      const two = withFacts(one, fourth.at, fourth.facts, late(fourth.facts), SAID) ?? '';
      const ended = readObject(withSeriesEnd(two, third.at, SAID) ?? '', 'UTC', SPAN);
      expect(ended?.occurrences.map(({ facts }) => [facts.start.slice(0, 10), facts.title])).toEqual([
        ['2026-03-10', 'Team'],
        ['2026-03-17', 'Late'],
      ]);
    }
    const days = newObject({
      ...EVENT,
      ...{ rule: 'FREQ=DAILY', facts: { ...FACTS, start: '2026-03-10', end: '2026-03-11', allDay: true } },
    });
    expect(starts(withSeriesEnd(days, '2026-03-12', SAID) ?? '')).toHaveLength(2);
    expect(withSeriesEnd(newObject(EVENT), EVENT.facts.start, SAID)).toBeNull();
  });

  it('a series that is over repeats no more', () => {
    const raw = newObject({ ...EVENT, rule: 'FREQ=WEEKLY' });
    expect(readObject(withRule(raw, null, SAID.stamp) ?? '', 'UTC', SPAN)?.rule).toBeNull();
    expect(readObject(withRule(raw, 'FREQ=DAILY', SAID.stamp) ?? '', 'UTC', SPAN)?.rule).toBe('FREQ=DAILY');
  });

  it('cannot be broken out of, and is a file that the other reader takes', () => {
    const hostile = 'x\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:other';
    const raw = newObject({ ...EVENT, facts: { ...FACTS, title: hostile, notes: hostile } });
    expect(readCalendar(raw)?.events).toHaveLength(1);
    expect(readObject(raw, 'UTC', SPAN)?.occurrences).toHaveLength(1);
  });
});

it.each([
  ['nothing', ''],
  ['a to-do', file('BEGIN:VTODO', 'UID:x', 'END:VTODO')],
  ['an event without a time', file(...event('SUMMARY:x'))],
  ['a file that breaks off', 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT'],
  ['what is larger than any', file(...event(...WEEKLY, `X-A:${'a'.repeat(600_000)}`))],
])('%s holds no event, and nothing breaks', (_, raw) => {
  expect(readObject(raw, 'UTC', SPAN)).toBeNull();
});
