import { readCalendar, writeCalendar, type CalendarEvent } from './icalendar';

const file = (...lines: string[]): string => [...lines, ''].join('\r\n');
const event = (...lines: string[]): string =>
  file('BEGIN:VCALENDAR', 'VERSION:2.0', 'BEGIN:VEVENT', ...lines, 'END:VEVENT', 'END:VCALENDAR');

const MEETING: CalendarEvent = {
  uid: 'meeting.1@wharfside.example',
  sequence: 2,
  stamp: '2026-11-27T09:00:00.000Z',
  title: 'Trial ride, eight bikes; bring helmets',
  start: '2026-12-03T10:00:00.000Z',
  end: '2026-12-03T10:45:00.000Z',
  allDay: false,
  place: 'Quay 4, Lisbon',
  notes: 'Line one\nLine two',
  url: 'http://127.0.0.1:4600/round?task=1',
  organizer: { email: 'pell@wharfside.example', name: 'Pell Garrick' },
  attendees: [
    { email: 'ines@padariasol.example', name: 'Duarte, Ines "Nini"', answer: 'waiting' },
    { email: 'mara@wharfside.example', name: 'Mara Quill', answer: 'accepted' },
  ],
  isCancelled: false,
  comment: '',
};

describe('what is written', () => {
  it('is read back as it was, but for quotes in a name, which no parameter may hold (RFC 5545, 3.2)', () => {
    const read = readCalendar(writeCalendar([MEETING], 'REQUEST'));
    expect(read).toEqual({
      method: 'REQUEST',
      events: [
        {
          ...MEETING,
          attendees: [{ ...MEETING.attendees[0], name: 'Duarte, Ines Nini' }, MEETING.attendees[1]],
        },
      ],
    });
  });

  it('has what RFC 5546 asks of a request, in lines of at most 75 octets that end in CR LF', () => {
    const written = writeCalendar(
      [{ ...MEETING, notes: 'Größe über alles – naïve façade '.repeat(12) }],
      'REQUEST',
    );
    const lines = written.split('\r\n');
    expect(Math.max(...lines.map((line) => new TextEncoder().encode(line).length))).toBeLessThanOrEqual(75);
    expect(written).not.toMatch(/[^\r]\n/);
    const unfolded = written.replace(/\r\n /g, '');
    for (const property of [
      'METHOD:REQUEST',
      'SEQUENCE:2',
      'DTSTAMP:20261127T090000Z',
      'DTSTART:20261203T100000Z',
    ])
      expect(unfolded).toContain(`\r\n${property}\r\n`);
    expect(unfolded).toMatch(/ORGANIZER;CN=Pell Garrick:mailto:pell@wharfside\.example/);
    expect(unfolded).toMatch(/ATTENDEE;[^\r]*PARTSTAT=NEEDS-ACTION;[^\r]*RSVP=TRUE:mailto:ines@/);
  });

  it('keeps a whole day as a day', () => {
    const day = { ...MEETING, allDay: true, start: '2026-12-03', end: '2026-12-04' };
    const written = writeCalendar([day], 'PUBLISH', 'Pell');
    expect(written).toContain('DTSTART;VALUE=DATE:20261203');
    expect(readCalendar(written)?.events[0]).toMatchObject({
      start: '2026-12-03',
      end: '2026-12-04',
      allDay: true,
    });
  });

  it('cannot be broken out of by what a title, a place or a name says', () => {
    const hostile = 'x\r\nATTENDEE:mailto:other@evil.example\r\nEND:VEVENT';
    const written = writeCalendar(
      [{ ...MEETING, title: hostile, place: hostile, organizer: { email: 'p@w.example', name: hostile } }],
      'REQUEST',
    );
    const [read, ...more] = readCalendar(written)?.events ?? [];
    expect(more).toEqual([]);
    expect(read?.attendees.map(({ email }) => email)).toEqual([
      'ines@padariasol.example',
      'mara@wharfside.example',
    ]);
  });
});

describe('what is read', () => {
  it.each([
    ['UTC', 'DTSTART:20261203T100000Z', '2026-12-03T10:00:00.000Z'],
    ['a zone by its name', 'DTSTART;TZID=America/New_York:20261203T100000', '2026-12-03T15:00:00.000Z'],
    ['no zone: the reader’s clock', 'DTSTART:20261203T100000', '2026-12-03T09:00:00.000Z'],
    ['a day', 'DTSTART;VALUE=DATE:20261203', '2026-12-03'],
  ])('a time in %s', (_, line, start) => {
    expect(readCalendar(event('UID:a', line), 'Europe/Berlin')?.events[0]?.start).toBe(start);
  });

  it('a time in a zone that only the file describes', () => {
    const read = readCalendar(
      file(
        'BEGIN:VCALENDAR',
        'BEGIN:VTIMEZONE',
        'TZID:Office time',
        'BEGIN:STANDARD',
        'DTSTART:19701025T030000',
        'TZOFFSETFROM:+0300',
        'TZOFFSETTO:+0200',
        'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
        'END:STANDARD',
        'BEGIN:DAYLIGHT',
        'DTSTART:19700329T020000',
        'TZOFFSETFROM:+0200',
        'TZOFFSETTO:+0300',
        'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
        'END:DAYLIGHT',
        'END:VTIMEZONE',
        'BEGIN:VEVENT',
        'UID:a',
        'DTSTART;TZID=Office time:20261203T100000',
        'END:VEVENT',
        'BEGIN:VEVENT',
        'UID:b',
        'DTSTART;TZID=Office time:20260703T100000',
        'END:VEVENT',
        'END:VCALENDAR',
      ),
    );
    expect(read?.events.map(({ start }) => start)).toEqual([
      '2026-12-03T08:00:00.000Z',
      '2026-07-03T07:00:00.000Z',
    ]);
  });

  it.each([
    ['an end', 'DTEND:20261203T113000Z', '2026-12-03T11:30:00.000Z'],
    ['a duration', 'DURATION:PT1H30M', '2026-12-03T11:30:00.000Z'],
    ['neither', 'SUMMARY:x', '2026-12-03T10:00:00.000Z'],
    ['an end before its beginning', 'DTEND:20261203T090000Z', '2026-12-03T10:00:00.000Z'],
  ])('where it ends, with %s (RFC 5545, 3.6.1)', (_, line, end) => {
    expect(readCalendar(event('UID:a', 'DTSTART:20261203T100000Z', line))?.events[0]?.end).toBe(end);
  });

  it.each([
    ['nothing', ''],
    ['a card', 'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Ann\r\nEND:VCARD\r\n'],
    ['a file that breaks off', 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:a'],
    ['words', 'Meet me at ten'],
    ['more than anybody’s', `BEGIN:VCALENDAR\r\nX-A:${'a'.repeat(600_000)}\r\nEND:VCALENDAR`],
  ])('%s is no calendar, and nothing breaks', (_, text) => {
    expect(readCalendar(text)).toBeNull();
  });

  it('an event with nonsense in it keeps what makes sense', () => {
    const read = readCalendar(event('UID:a', 'DTSTART:20261399T996100Z', 'SEQUENCE:many', 'ATTENDEE:nobody'));
    expect(read === null || read.events.every(({ uid, sequence }) => uid === 'a' && sequence === 0)).toBe(
      true,
    );
  });
});
