import { readForm } from './form/read';
import { readLabelled } from './call/labelled';
import { usableValue } from './usable';

describe('a birthday', () => {
  it.each([
    ['1980-03-05', '1980-03-05'],
    ['1980-03-05T12:00:00Z', '1980-03-05'],
    ['5 March 1980', '1980-03-05'],
    ['5.3.1980', '1980-03-05'],
    ['--03-05', '--03-05'],
    ['--0305', '--03-05'],
    ['--02-29', '--02-29'],
  ])('%s is kept as %s', (said, kept) => {
    expect(usableValue('birthday', said)).toBe(kept);
    expect(usableValue('birthday', kept)).toBe(kept);
  });

  it.each(['soon', '', '1980', '1980-02-30', '0000-00-00', '--02-30', '--13-01', 'March'])(
    '%j is none',
    (said) => {
      expect(usableValue('birthday', said)).toBeNull();
    },
  );
});

describe('a time zone', () => {
  it.each(['Europe/Lisbon', 'UTC', 'America/Argentina/Buenos_Aires'])('%s is one', (zone) => {
    expect(usableValue('timeZone', zone)).toBe(zone);
  });

  it.each(['Europe/Nowhere', 'lunch', ''])('%j is none', (zone) => {
    expect(usableValue('timeZone', zone)).toBeNull();
  });
});

it('every other fact is kept as it was said', () => {
  for (const field of ['jobTitle', 'address', 'note', 'custom:shoe'])
    expect(usableValue(field, ' Buyer of 1980-02-30 ')).toBe(' Buyer of 1980-02-30 ');
});

describe('what cannot be what its label says', () => {
  it('is not claimed of a form, and the rest is', () => {
    const { claims } = readForm({
      form: 'Contact',
      answers: [
        { name: 'name', label: 'Your name', value: 'Ines Duarte' },
        { name: 'born', label: 'Birthday', value: 'soon' },
        { name: 'zone', label: 'Time zone', value: 'lunch' },
        { name: 'mail', label: 'Email', value: 'nowhere' },
        { name: 'web', label: 'Website', value: 'my site' },
      ],
    });
    expect(claims.map(({ field, value }) => [field, value])).toEqual([['fullName', 'Ines Duarte']]);
  });

  it('is not claimed of a note either; what can be is, with the place it was said', () => {
    const note =
      'Name: Ines Duarte\nBirthday: 5 March 1980\nTime zone: Europe/Lisbon\nPhone = 020 7946 0018\nFax: none';
    const claims = readLabelled(note, 'GB');
    expect(claims.map(({ field, value, normalized }) => [field, normalized ?? value])).toEqual([
      ['fullName', 'Ines Duarte'],
      ['birthday', '1980-03-05'],
      ['timeZone', 'Europe/Lisbon'],
      ['phone', '+442079460018'],
    ]);
    const said = claims.map(({ span }) => note.slice(span?.start, span?.end));
    expect(said).toEqual(['Ines Duarte', '5 March 1980', 'Europe/Lisbon', '020 7946 0018']);
  });
});
