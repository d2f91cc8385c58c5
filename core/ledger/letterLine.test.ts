import { letterIn } from './letterLine';

it.each([
  ['write Ines: the quote is ready', 'Ines', 'the quote is ready'],
  ['Write to Ana Leça : two things', 'Ana Leça', 'two things'],
  ['letter: thank you', null, 'thank you'],
  ['letter to Rui: see https://w.example', 'Rui', 'see https://w.example'],
])('“%s” is a letter', (line, to, words) => {
  expect(letterIn(line)).toEqual({ to, words });
});

it.each([
  'write Ines',
  'write: ',
  'wrote Ines: done',
  'call Thursday: about the quote',
  'letter arrived 10:30, all fine',
  'see write: x',
])('“%s” is none', (line) => {
  expect(letterIn(line)).toBeNull();
});
