import { DateTime } from 'luxon';
import { isTaskRule, occurrenceAfter, occurrences, ruleFrom } from './recurrence';

const zone = 'America/New_York';
/** "1997: 9/2-4, 10/1" as days. */
const days = (words: string): string[] =>
  words.split(';').flatMap((ofYear) => {
    const [year = '', list = ''] = ofYear.trim().split(':');
    return list.split(',').flatMap((one) => {
      const [, month, first, last] = /(\d+)\/(\d+)(?:-(\d+))?/.exec(one) ?? [];
      const count = Number(last ?? first) - Number(first) + 1;
      return [...Array(count).keys()].map(
        (more) => DateTime.utc(Number(year), Number(month), Number(first) + more).toISODate() ?? '',
      );
    });
  });

/** Every example of RFC 5545, section 3.8.5.3, in its order; the days from memory. All at nine in New York. */
const EXAMPLES: [rule: string, start: string, expected: string, isEndless?: boolean][] = [
  ['FREQ=DAILY;COUNT=10', '1997-09-02', '1997: 9/2-11'],
  ['FREQ=DAILY;UNTIL=19971224T000000Z', '1997-09-02', '1997: 9/2-30, 10/1-31, 11/1-30, 12/1-23'],
  ['FREQ=DAILY;INTERVAL=2', '1997-09-02', '1997: 9/2, 9/4, 9/6, 9/8, 9/10, 9/12, 9/14, 9/16', true],
  ['FREQ=DAILY;INTERVAL=10;COUNT=5', '1997-09-02', '1997: 9/2, 9/12, 9/22, 10/2, 10/12'],
  [
    'FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA',
    '1998-01-01',
    '1998: 1/1-31; 1999: 1/1-31; 2000: 1/1-31',
  ],
  ['FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1', '1998-01-01', '1998: 1/1-31; 1999: 1/1-31; 2000: 1/1-31'],
  ['FREQ=WEEKLY;COUNT=10', '1997-09-02', '1997: 9/2, 9/9, 9/16, 9/23, 9/30, 10/7, 10/14, 10/21, 10/28, 11/4'],
  [
    'FREQ=WEEKLY;UNTIL=19971224T000000Z',
    '1997-09-02',
    '1997: 9/2, 9/9, 9/16, 9/23, 9/30, 10/7, 10/14, 10/21, 10/28, 11/4, 11/11, 11/18, 11/25, 12/2, 12/9, 12/16, 12/23',
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
    '1997-09-02',
    '1997: 9/2, 9/16, 9/30, 10/14, 10/28, 11/11, 11/25, 12/9, 12/23; 1998: 1/6, 1/20, 2/3, 2/17',
    true,
  ],
  [
    'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
    '1997-09-02',
    '1997: 9/2, 9/4, 9/9, 9/11, 9/16, 9/18, 9/23, 9/25, 9/30, 10/2',
  ],
  [
    'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH',
    '1997-09-02',
    '1997: 9/2, 9/4, 9/9, 9/11, 9/16, 9/18, 9/23, 9/25, 9/30, 10/2',
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR',
    '1997-09-01',
    '1997: 9/1, 9/3, 9/5, 9/15, 9/17, 9/19, 9/29, 10/1, 10/3, 10/13, 10/15, 10/17, 10/27, 10/29, 10/31, 11/10, 11/12, 11/14, 11/24, 11/26, 11/28, 12/8, 12/10, 12/12, 12/22',
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
    '1997-09-02',
    '1997: 9/2, 9/4, 9/16, 9/18, 9/30, 10/2, 10/14, 10/16',
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '1997-09-05',
    '1997: 9/5, 10/3, 11/7, 12/5; 1998: 1/2, 2/6, 3/6, 4/3, 5/1, 6/5',
  ],
  ['FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR', '1997-09-05', '1997: 9/5, 10/3, 11/7, 12/5'],
  [
    'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
    '1997-09-07',
    '1997: 9/7, 9/28, 11/2, 11/30; 1998: 1/4, 1/25, 3/1, 3/29, 5/3, 5/31',
  ],
  ['FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', '1997-09-22', '1997: 9/22, 10/20, 11/17, 12/22; 1998: 1/19, 2/16'],
  ['FREQ=MONTHLY;BYMONTHDAY=-3', '1997-09-28', '1997: 9/28, 10/29, 11/28, 12/29; 1998: 1/29, 2/26', true],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15',
    '1997-09-02',
    '1997: 9/2, 9/15, 10/2, 10/15, 11/2, 11/15, 12/2, 12/15; 1998: 1/2, 1/15',
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
    '1997-09-30',
    '1997: 9/30, 10/1, 10/31, 11/1, 11/30, 12/1, 12/31; 1998: 1/1, 1/31, 2/1',
  ],
  [
    'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
    '1997-09-10',
    '1997: 9/10-15; 1999: 3/10-13',
  ],
  [
    'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU',
    '1997-09-02',
    '1997: 9/2, 9/9, 9/16, 9/23, 9/30, 11/4, 11/11, 11/18, 11/25; 1998: 1/6, 1/13, 1/20, 1/27, 3/3, 3/10, 3/17, 3/24, 3/31',
    true,
  ],
  [
    'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
    '1997-06-10',
    '1997: 6/10, 7/10; 1998: 6/10, 7/10; 1999: 6/10, 7/10; 2000: 6/10, 7/10; 2001: 6/10, 7/10',
  ],
  [
    'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
    '1997-03-10',
    '1997: 3/10; 1999: 1/10, 2/10, 3/10; 2001: 1/10, 2/10, 3/10; 2003: 1/10, 2/10, 3/10',
  ],
  [
    'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
    '1997-01-01',
    '1997: 1/1, 4/10, 7/19; 2000: 1/1, 4/9, 7/18; 2003: 1/1, 4/10, 7/19; 2006: 1/1',
  ],
  ['FREQ=YEARLY;BYDAY=20MO', '1997-05-19', '1997: 5/19; 1998: 5/18; 1999: 5/17', true],
  ['FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997-05-12', '1997: 5/12; 1998: 5/11; 1999: 5/17', true],
  [
    'FREQ=YEARLY;BYMONTH=3;BYDAY=TH',
    '1997-03-13',
    '1997: 3/13, 3/20, 3/27; 1998: 3/5, 3/12, 3/19, 3/26; 1999: 3/4, 3/11, 3/18, 3/25',
    true,
  ],
  [
    'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8',
    '1997-06-05',
    '1997: 6/5, 6/12, 6/19, 6/26, 7/3, 7/10, 7/17, 7/24, 7/31, 8/7, 8/14, 8/21, 8/28; 1998: 6/4, 6/11, 6/18, 6/25, 7/2',
    true,
  ],
  [
    'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
    '1997-09-03',
    '1998: 2/13, 3/13, 11/13; 1999: 8/13; 2000: 10/13',
    true,
  ],
  [
    'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13',
    '1997-09-13',
    '1997: 9/13, 10/11, 11/8, 12/13; 1998: 1/10, 2/7, 3/7, 4/11, 5/9, 6/13',
    true,
  ],
  [
    'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
    '1996-11-05',
    '1996: 11/5; 2000: 11/7; 2004: 11/2',
    true,
  ],
  ['FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3', '1997-09-04', '1997: 9/4, 10/7, 11/6'],
  [
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
    '1997-09-29',
    '1997: 9/29, 10/30, 11/27, 12/30; 1998: 1/29, 2/26, 3/30',
    true,
  ],
  ['FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', '1997-08-05', '1997: 8/5, 8/10, 8/19, 8/24'],
  ['FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', '1997-08-05', '1997: 8/5, 8/17, 8/19, 8/31'],
  ['FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', '2007-01-15', '2007: 1/15, 1/30, 2/15, 3/15, 3/30'],
];

describe('repeating', () => {
  it.each(EXAMPLES)('%s from %s', (rule, start, expected, isEndless = false) => {
    const wanted = days(expected);
    const found = occurrences({ rule, start: `${start}T09:00`, zone }, isEndless ? wanted.length : 500);
    expect(found.map((at) => at.toISODate())).toEqual(wanted);
    // Summer time or not, it stays nine o'clock there.
    expect(new Set(found.map((at) => at.toFormat('HH:mm')))).toEqual(new Set(['09:00']));
  });

  it('leaves out what does not take place: every Friday the 13th, but not the day it began', () => {
    const found = occurrences(
      {
        rule: 'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
        start: '1998-02-13T09:00',
        zone,
        except: ['1998-02-13T09:00'],
      },
      2,
    );
    expect(found.map((at) => at.toISODate())).toEqual(['1998-03-13', '1998-11-13']);
  });

  // RFC 5545, 3.8.5.3, within a day. Of the first the published list names 15:00 too, which is after the end it gives.
  it.each([
    ['FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T170000Z', ['09:00', '12:00']],
    ['FREQ=MINUTELY;INTERVAL=15;COUNT=6', ['09:00', '09:15', '09:30', '09:45', '10:00', '10:15']],
    ['FREQ=MINUTELY;INTERVAL=90;COUNT=4', ['09:00', '10:30', '12:00', '13:30']],
  ])('%s within a day', (rule, expected) => {
    const found = occurrences({ rule, start: '1997-09-02T09:00', zone }, 50);
    expect(found.map((at) => at.toFormat('HH:mm'))).toEqual(expected);
  });

  it('every 20 minutes from nine to twenty to five, said both ways', () => {
    const [byDay, byMinute] = [
      'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40',
      'FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16',
    ].map((rule) => occurrences({ rule, start: '1997-09-02T09:00', zone }, 48).map((at) => at.toISO()));
    expect(byDay).toEqual(byMinute);
    expect(byDay?.[23]).toBe('1997-09-02T16:40:00.000-04:00');
    expect(byDay?.[24]).toBe('1997-09-03T09:00:00.000-04:00');
  });

  // The EU changes its clocks on 28 March 2027, the US on 14 March; Lord Howe by half an hour on 4 April.
  it.each([
    [
      'Europe/Berlin',
      '2027-03-27T02:30',
      ['2027-03-27T02:30:00.000+01:00', '2027-03-28T03:30:00.000+02:00', '2027-03-29T02:30:00.000+02:00'],
    ],
    [
      'America/New_York',
      '2027-03-13T08:00',
      ['2027-03-13T08:00:00.000-05:00', '2027-03-14T08:00:00.000-04:00', '2027-03-15T08:00:00.000-04:00'],
    ],
    [
      'Australia/Lord_Howe',
      '2027-04-03T09:00',
      ['2027-04-03T09:00:00.000+11:00', '2027-04-04T09:00:00.000+10:30', '2027-04-05T09:00:00.000+10:30'],
    ],
  ])('keeps the clock of %s where it changes', (place, start, expected) => {
    expect(occurrences({ rule: 'FREQ=DAILY', start, zone: place }, 3).map((at) => at.toISO())).toEqual(
      expected,
    );
  });

  it('finds the next after a moment, and none where none comes', () => {
    const after = (rule: string, at: string): string | null =>
      occurrenceAfter(
        { rule, start: '2026-01-05T09:00', zone: 'Europe/London' },
        DateTime.fromISO(at, { zone: 'Europe/London' }),
      )?.toISODate() ?? null;
    expect(after('FREQ=MONTHLY;BYDAY=1MO', '2026-11-28')).toBe('2026-12-07');
    expect(after('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29', '2026-11-28')).toBe('2028-02-29');
    expect(after('FREQ=WEEKLY;COUNT=3', '2026-11-28')).toBeNull();
    expect(after('FREQ=WEEKLY;UNTIL=20261129T000000Z', '2026-11-28')).toBeNull();
  });

  it('from a later of its times on has as many left, and the same', () => {
    const start = '1997-09-02T09:00';
    const rule = 'FREQ=WEEKLY;COUNT=10';
    const all = occurrences({ rule, start, zone }, 20);
    for (const [at, begins] of all.entries()) {
      const rest = ruleFrom({ rule, start, zone }, begins);
      const from = begins.toFormat("yyyy-MM-dd'T'HH:mm");
      expect(occurrences({ rule: rest, start: from, zone }, 20).map(String)).toEqual(
        all.slice(at).map(String),
      );
    }
    const endless = 'FREQ=MONTHLY;BYDAY=1FR';
    expect(ruleFrom({ rule: endless, start, zone }, all[3] as DateTime)).toBe(endless);
  });

  it.each([
    ['FREQ=WEEKLY;BYDAY=MO', true],
    ['FREQ=MONTHLY;BYDAY=-1FR;COUNT=4', true],
    ['FREQ=SECONDLY', false],
    ['FREQ=HOURLY', false],
    ['FREQ=DAILY;INTERVAL=0', false],
    ['FREQ=DAILY;BYHOUR=1,2,3', false],
    ['FREQ=DAILY;COUNT=0', false],
    ['FREQ=DAILY;COUNT=2;UNTIL=20270101T000000Z', false],
    ['FREQ=WEEKLY;BYDAY=XX', false],
    ['FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30', false],
    ['FREQ=DAILY;INTERVAL=7;BYDAY=TU', false],
    ['FREQ=MONTHLY;BYMONTH=2;BYMONTHDAY=31', false],
    ['FREQ=MONTHLY;BYDAY=6MO', false],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH;COUNT=8', true],
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29', true],
    ['FREQ=DAILY\nATTACH:x', false],
    ['', false],
  ])('of a task %j may be a rule: %s', (rule, isRule) => {
    expect(isTaskRule(rule)).toBe(isRule);
  });
});
