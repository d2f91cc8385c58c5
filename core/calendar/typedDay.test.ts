import fc from 'fast-check';
import { readTypedDay } from './typedDay';

/** A Friday. */
const today = '2026-11-27';
const read = (text: string, monthFirst = false): string | null => readTypedDay(text, { today, monthFirst });

describe('a day typed into a field', () => {
  it('leaves out the days on which the reader does not work', () => {
    const free = { weekend: [6, 7], closed: new Map([['2026-11-30', 'St Andrew’s Day']]) };
    const read = (text: string): string | null => readTypedDay(text, { today, monthFirst: false, free });
    expect(['in 1 working day', 'end of month'].map(read)).toEqual(['2026-12-01', '2026-11-27']);
    // On the last free day of a month its end is over, and the next one is meant.
    expect(readTypedDay('end of month', { today: '2026-11-30', monthFirst: false, free })).toBe('2026-12-31');
  });

  it.each([
    ['2026-12-03', '2026-12-03'],
    ['3/12/2026', '2026-12-03'],
    ['3.12.26', '2026-12-03'],
    ['3/12', '2026-12-03'],
    ['3.12.', '2026-12-03'],
    ['3 dec', '2026-12-03'],
    ['Dec 3', '2026-12-03'],
    ['3 December 2027', '2027-12-03'],
    ['tomorrow', '2026-11-28'],
    ['today', '2026-11-27'],
    ['tue', '2026-12-01'],
    ['fri', '2026-12-04'],
    ['Wednesday', '2026-12-02'],
    ['in 2 weeks', '2026-12-11'],
    ['+2', '2026-11-29'],
    ['in 3 working days', '2026-12-02'],
    ['1 working day', '2026-11-30'],
    ['end of month', '2026-11-30'],
    ['the end of the week', '2026-11-27'],
    ['end of next month', '2026-12-31'],
    ['end of the year', '2026-12-31'],
    ['  in  3  business  days ', '2026-12-02'],
  ])('reads %j as %s', (text, day) => {
    expect(read(text)).toBe(day);
  });

  it('takes a day without a year forward, and the 29th of February to the next leap year', () => {
    expect(read('26/11')).toBe('2027-11-26');
    expect(read('27/11')).toBe(today);
    expect(read('29/2')).toBe('2028-02-29');
  });

  it('takes the month first where that is how it is written', () => {
    expect(read('12/3/2026', true)).toBe('2026-12-03');
    expect(read('12/3', true)).toBe('2026-12-03');
    expect(read('3/12/2026', true)).toBe('2026-03-12');
  });

  it.each(['', 'soon', '31/2', '30 feb', 'call Ann on Friday', 'fri or mon', '99', '2026-13-01', '1/1/9999'])(
    'finds no day in %j',
    (text) => {
      expect(read(text)).toBeNull();
    },
  );

  it('reads back every day as it is written, in either order of day and month', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1700-01-01'), max: new Date('2900-12-31'), noInvalidDate: true }),
        (date) => {
          const iso = date.toISOString().slice(0, 10);
          const [year, month, day] = iso.split('-');
          expect(read(iso)).toBe(iso);
          expect(read(`${day}/${month}/${year}`)).toBe(iso);
          expect(read(`${month}/${day}/${year}`, true)).toBe(iso);
        },
      ),
    );
  });
});
