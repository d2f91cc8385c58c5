import { sightInWords } from './words';

const people = (...names: string[]) => names.map((name) => ({ id: name, name }));

it.each([
  [null, 'Visible to everybody'],
  [people('Ines Tolland'), 'Visible to Ines'],
  [people('Ines Tolland', 'Mara Quill'), 'Visible to Ines and Mara'],
  [people('Ines Tolland', 'Mara Quill', 'Pell Garrick'), 'Visible to Ines, Mara and Pell'],
  [people('A A', 'B B', 'C C', 'D D'), 'Visible to A, B and 2 more'],
])('says who may see a record: %j', (seenBy, words) => {
  expect(sightInWords({ seenBy })).toBe(words);
});
