import { editingWords, presenceWords } from './words';

const at = (name: string, field: string | null = null, isMe = false) => ({ id: name, name, field, isMe });

it('says who is here and who edits what', () => {
  expect(presenceWords([])).toBe('');
  expect(presenceWords([at('Mara Quill')])).toBe('Mara Quill is here');
  expect(presenceWords([at('Joss Ferrow', 'Job title'), at('Mara Quill'), at('Pell Garrick')])).toBe(
    'Joss Ferrow is editing “Job title” · Mara Quill and Pell Garrick are here',
  );
});

it('says nothing of one’s own other tab unless something is edited there', () => {
  expect(presenceWords([at('Pell Garrick', null, true)])).toBe('');
  expect(presenceWords([at('Pell Garrick', 'Name', true)])).toBe('You are editing “Name” in another tab');
});

it('says at the field who edits it, and only there', () => {
  const others = [at('Joss Ferrow', 'Name'), at('Mara Quill', 'Name'), at('Pell Garrick', 'Address', true)];
  expect(editingWords(others, 'Name')).toBe('Joss Ferrow and Mara Quill are editing this');
  expect(editingWords(others, 'Address')).toBe('You are editing this in another tab');
  expect(editingWords(others, 'Job title')).toBe('');
});
