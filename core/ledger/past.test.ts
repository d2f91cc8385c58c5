import { findPast } from './past';

/** A Friday, 16:00 in London. */
const NOW = '2026-11-27T16:00:00+00:00';
const past = (text: string, now = NOW, zone = 'Europe/London') => findPast(text, now, zone);

describe('when something took place', () => {
  it.each([
    ['called yesterday at 3pm', '2026-11-26T15:00:00+00:00'],
    ['called yesterday at 3', '2026-11-26T15:00:00+00:00'],
    ['called yesterday at 5.30', '2026-11-26T17:30:00+00:00'],
    ['called yesterday at 9', '2026-11-26T09:00:00+00:00'],
    ['rang at 03:00 yesterday', '2026-11-26T03:00:00+00:00'],
    ['rang at 3 am yesterday', '2026-11-26T03:00:00+00:00'],
    ['met on Monday', '2026-11-23T12:00:00+00:00'],
    ['spoke two days ago', '2026-11-25T12:00:00+00:00'],
    ['rang this morning at 9', '2026-11-27T09:00:00+00:00'],
    ['lunch on 3 November', '2026-11-03T12:00:00+00:00'],
    ['visit on 12 March 2025 at 10:30', '2025-03-12T10:30:00+00:00'],
  ])('“%s” was at %s', (text, at) => {
    expect(past(text)?.at).toBe(at);
  });

  it('is never later than now', () => {
    for (const text of [
      'today',
      'on Friday',
      'this afternoon',
      'tomorrow',
      'next week',
      'on Saturday',
      '3 December',
    ]) {
      const found = past(text);
      if (found) expect([text, Date.parse(found.at) <= Date.parse(NOW)]).toEqual([text, true]);
    }
    expect(past('call tomorrow at 9')).toBeNull();
  });

  it('a weekday is the last one', () => {
    expect(past('on Saturday')?.at.slice(0, 10)).toBe('2026-11-21');
    expect(past('on Thursday at 10am')?.at).toBe('2026-11-26T10:00:00+00:00');
  });

  it('stands on the clock of the writer, over a change of the clocks too', () => {
    expect(past('yesterday at 9am', '2026-10-25T18:00:00+00:00')?.at).toBe('2026-10-24T09:00:00+01:00');
    expect(past('yesterday at 9am', NOW, 'America/New_York')?.at).toBe('2026-11-26T09:00:00-05:00');
  });

  it('says where in the text it was read', () => {
    const text = 'spoke yesterday at 3pm about the quote';
    const { start = 0, end = 0 } = past(text) ?? {};
    expect(text.slice(start, end)).toBe('yesterday at 3pm');
  });

  it.each(['needs 8 bikes', '', 'no answer', 'price 40k'])('“%s” names none', (text) => {
    expect(past(text)).toBeNull();
  });

  it('without a real clock there is no time', () => {
    expect(past('yesterday', 'soon')).toBeNull();
  });
});
