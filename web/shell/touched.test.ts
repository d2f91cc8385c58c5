import { matters, shownIds } from './touched';

const [ann, bo, firm, task] = ['a', 'b', 'c', 'd'].map((letter) =>
  '00000000-0000-4000-8000-000000000000'.replace(/0$/, letter),
) as [string, string, string, string];
const shown = shownIds([ann], { company: { id: firm, name: 'Firm' }, tasks: [{ id: task, title: ann }] });

it('what is shown are the records an answer is about and names, at any depth', () => {
  expect([...shown].sort()).toEqual([ann, firm, task]);
  expect([...shownIds([null, undefined], null)]).toEqual([]);
});

it.each([
  ['the record itself', 'people', ann, [firm], true],
  ['something of the record', 'tasks', bo, [ann], true],
  ['a record that is named', 'companies', firm, [], true],
  ['somebody else', 'people', bo, [], false],
  ['something of somebody else', 'tasks', bo, [bo], false],
  ['another table', 'leads', ann, [ann], false],
])('a change of %s', (_, table, id, of, wanted) => {
  expect(matters([{ table, id, of }], ['people', 'tasks', 'companies'], shown)).toBe(wanted);
});

it('any row of its tables matters to a list, and one that does not say what it belongs to to everybody', () => {
  expect(matters([{ table: 'people', id: bo, of: [] }], ['people'])).toBe(true);
  expect(matters([{ table: 'people', id: bo }], ['people'], shown)).toBe(true);
  expect(matters([], ['people'])).toBe(false);
});
