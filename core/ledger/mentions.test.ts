import { findMentions } from './mentions';

const team = [
  { id: 'mara', name: 'Mara Quill', email: 'mara@wharfside.example' },
  { id: 'ines', name: 'Inês Tolland', email: 'i.tolland@wharfside.example' },
  { id: 'pell', name: 'Pell Garrick', email: 'pell@wharfside.example' },
  { id: 'other', name: 'Pell Ostrom', email: 'ostrom@wharfside.example' },
];

it.each([
  ['@mara please look', ['mara']],
  ['ask (@Mara), then @mara again', ['mara']],
  ['@ines and @i.tolland and @Inês-Tolland', ['ines']],
  ['@pell', ['pell']],
  ['@pell.ostrom, please', ['other']],
  ['@ostrom.', ['other']],
  ['write to ines@mara.example or mara@wharfside.example', []],
  ['@marathon @nobody @ mara', []],
  ['prix@mara', []],
  ['', []],
])('%s calls %p', (text, ids) => {
  expect(findMentions(text, team)).toEqual(ids);
});

it('a first name that two have calls neither of them', () => {
  const two = team.map((one) => ({ ...one, email: `${one.id}.x@wharfside.example` }));
  expect(findMentions('@pell', two)).toEqual([]);
  expect(findMentions('@pell.garrick', two)).toEqual(['pell']);
});

it('is quick on hostile text', () => {
  expect(findMentions(`${'@'.repeat(20_000)}${'a.'.repeat(20_000)}`, team)).toEqual([]);
});
