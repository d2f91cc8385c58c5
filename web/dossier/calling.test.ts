import { calledAt } from './calling';

const team = ['Mara Quill', 'Pell Garrick', 'Ines Tolland', 'Ines Quarry'].map((name, at) => ({
  id: String(at),
  name,
}));
const handles = (text: string, caret = text.length) =>
  calledAt(text, caret, team).choices.map(({ handle }) => handle);

it('offers whoever may be meant, by first name where only one has it', () => {
  expect(handles('ask @m')).toEqual(['mara']);
  expect(handles('@i')).toEqual(['ines.tolland', 'ines.quarry']);
  expect(handles('(@q')).toEqual(['mara', 'ines.quarry']);
  expect(handles('@ines.q')).toEqual(['ines.quarry']);
  expect(handles('@')).toHaveLength(4);
});

it('offers nobody in an address, behind a word, or once the name is there', () => {
  expect(handles('ines@m')).toEqual([]);
  expect(handles('ask mara')).toEqual([]);
  expect(handles('@mara ')).toEqual([]);
  expect(handles('@Mara')).toEqual([]);
});

it('looks at where one types, and not at the end', () => {
  const text = '@m about the price';
  expect(handles(text, 2)).toEqual(['mara']);
  expect(calledAt(text, 2, team).start).toBe(1);
  expect(handles(text)).toEqual([]);
});
