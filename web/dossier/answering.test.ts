import { findMentions } from '@emporikon/core/ledger/mentions';
import { answering, answerTo, calledAs } from './answering';

const team = [
  { id: 'ines', name: 'Inês Tolland', email: 'it@wharfside.example' },
  { id: 'oconnor', name: "Ida O'Connor-Lund", email: 'ida@wharfside.example' },
];

it.each(team)('$name is called so that the note reaches them', ({ id, name }) => {
  expect(findMentions(`${calledAs(name)} yes, we can`, team)).toEqual([id]);
});

it('the same colleague can be answered twice', () => {
  answerTo('Inês Tolland');
  const first = answering.value;
  answerTo('Inês Tolland');
  expect(answering.value).toEqual({ words: '@inês.tolland ' });
  expect(answering.value).not.toBe(first);
});
