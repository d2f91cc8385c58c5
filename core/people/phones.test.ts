import fc from 'fast-check';
import { getCountries, getExampleNumber } from 'libphonenumber-js/max';
import examples from 'libphonenumber-js/examples.mobile.json';
import { normalizePhone, readPhone, showPhone } from './phones';

describe('a phone number', () => {
  // Source: libphonenumber's own example numbers, one mobile number a country.
  it.each(getCountries().filter((country) => getExampleNumber(country, examples)))(
    'reads the example of %s, written nationally and internationally',
    (country) => {
      const example = getExampleNumber(country, examples);
      expect(readPhone(example?.formatInternational() ?? '')?.normalized).toBe(example?.number);
      expect(readPhone(example?.formatNational() ?? '', [country])?.normalized).toBe(example?.number);
    },
  );

  // Source: ITU-T E.164, a number has at most fifteen digits after the plus.
  it('is never normalised to anything but E.164', () => {
    fc.assert(
      fc.property(fc.string(), (text) =>
        expect(normalizePhone(text, ['GB', 'US', 'DE']) ?? '+123456').toMatch(/^\+\d{4,15}$/),
      ),
    );
    fc.assert(
      fc.property(fc.stringMatching(/^\+?[\d ()./-]{5,24}$/), (text) =>
        expect(normalizePhone(text, ['GB', 'US', 'DE']) ?? '+123456').toMatch(/^\+\d{4,15}$/),
      ),
    );
  });

  it('is the same read again', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^\+?[\d ()-]{7,20}$/), (text) => {
        const once = normalizePhone(text, ['GB']);
        if (once) expect(normalizePhone(once)).toBe(once);
      }),
    );
  });

  it.each([
    ['+44 (0)20 7946 0321', [], '+442079460321'],
    ['0044 20 7946 0321', [], '+442079460321'],
    ['(02) 5550 1234', ['AU'], '+61255501234'],
    ['0221/4710-0456', ['DE'], '+4922147100456'],
    ['212.555.0142', ['US'], '+12125550142'],
    ['0161 496 0456 ext. 12', ['GB'], '+441614960456'],
  ])('%s in %s is %s', (written, countries, expected) => {
    expect(readPhone(written, countries)?.normalized).toBe(expected);
  });

  it('says what kind it is where the plan tells', () => {
    expect(readPhone('07700 900123', ['GB'])).toMatchObject({
      normalized: '+447700900123',
      type: 'mobile',
      valid: true,
    });
    expect(readPhone('+49 30 231250123')?.type).toBe('work');
  });

  it('is null where there is none', () => {
    for (const text of ['', '12', '2026-11-24', 'call me', '+', '0'.repeat(60)])
      expect(readPhone(text, ['GB'])).toBeNull();
  });

  it('is written for abroad with its country code', () => {
    expect(showPhone('+351910555014')).toBe('+351 910 555 014');
    expect(showPhone('withheld')).toBe('withheld');
  });
});
