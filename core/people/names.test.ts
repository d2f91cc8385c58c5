import fc from 'fast-check';
import {
  isRoleName,
  looksLikeName,
  nameFitsLocalPart,
  nameFromLocalPart,
  nameKey,
  nameOverlap,
  parseName,
  stripTitles,
} from './names';

describe('a personal name', () => {
  it.each([
    ['Ines Duarte', 'Ines Duarte', 'Ines', 'Duarte'],
    ['Duarte, Ines', 'Ines Duarte', 'Ines', 'Duarte'],
    ['DUARTE Ines', 'Ines Duarte', 'Ines', 'Duarte'],
    ['INES DUARTE', 'Ines Duarte', 'Ines', 'Duarte'],
    ['van Dalfsen, Bram', 'Bram van Dalfsen', 'Bram', 'van Dalfsen'],
    ['Bram van Dalfsen', 'Bram van Dalfsen', 'Bram', 'van Dalfsen'],
    ['Prof. Dr.-Ing. Margarethe Vogelsang', 'Margarethe Vogelsang', 'Margarethe', 'Vogelsang'],
    ['Henrike Aldenhoven, MBA', 'Henrike Aldenhoven', 'Henrike', 'Aldenhoven'],
    ['Rowan Pettifer (they/them) MSc', 'Rowan Pettifer', 'Rowan', 'Pettifer'],
    ['hugo marsden', 'Hugo Marsden', 'Hugo', 'Marsden'],
    ['Tamsin', 'Tamsin', 'Tamsin', ''],
  ])('%s is read as %s', (written, fullName, givenName, familyName) => {
    expect(parseName(written)).toEqual({ fullName, givenName, familyName });
  });

  it('never throws and never grows longer than it was written', () => {
    fc.assert(
      fc.property(fc.string(), (text) =>
        expect(parseName(text).fullName.length).toBeLessThanOrEqual(text.length + 1),
      ),
    );
  });

  it('has one key however it is written', () => {
    expect(nameKey('Duarte Ines')).toBe(nameKey('Dr. Ines DUARTE'));
    expect(nameKey('João Simões')).toBe('joao simoes');
  });

  it('is told from a function', () => {
    expect(isRoleName('Sales Team')).toBe(true);
    expect(isRoleName('info')).toBe(true);
    expect(isRoleName('Ines Duarte')).toBe(false);
  });

  it('is told from other lines by its shape', () => {
    expect(looksLikeName('Ines Duarte')).toBe(true);
    expect(looksLikeName('we will call you')).toBe(false);
    expect(looksLikeName('Room 12')).toBe(false);
  });

  it('fits the local parts people choose', () => {
    for (const local of ['ines', 'i.duarte', 'duarte99', 'id'])
      expect(nameFitsLocalPart('Ines Duarte', local)).toBe(true);
    expect(nameFitsLocalPart('Ines Duarte', 'info')).toBe(false);
  });

  it('is guessed from a local part only where that has two words', () => {
    expect(nameFromLocalPart('odette.marlow')).toBe('Odette Marlow');
    expect(nameFromLocalPart('om')).toBe('');
    expect(nameFromLocalPart('sales.team')).toBe('');
  });

  it('overlaps another by the words of the shorter one', () => {
    expect(nameOverlap('Ines Duarte', 'Ines Maria Duarte')).toBe(1);
    expect(nameOverlap('I. Duarte', 'Ines Duarte')).toBe(0.75);
    expect(nameOverlap('Ines Duarte', 'Rui Figueira')).toBe(0);
  });

  it('loses its titles and nothing else', () => {
    expect(stripTitles('Mrs Marion Drake')).toBe('Marion Drake');
    expect(stripTitles('Mario Master')).toBe('Mario Master');
  });
});
