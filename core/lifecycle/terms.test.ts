import fc from 'fast-check';
import {
  BUILT_IN_TERMS,
  countable,
  heldAs,
  nextLeadStatuses,
  TERM_LISTS,
  termKey,
  termName,
  type Term,
} from './terms';

const term = (key: string, countsAs: string, more: Partial<Term> = {}): Term => ({
  ...{ list: 'standing', key, name: key, countsAs, isRetired: false },
  ...more,
});
const TERMS = [term('prospect', 'prospect'), term('hot', 'prospect', { name: 'Hot prospect' })];

it('no key stands on two lists, so that a record cannot hold a term of another list', () => {
  const keys = TERM_LISTS.flatMap((list) => [...BUILT_IN_TERMS[list]]);
  expect(new Set(keys).size).toBe(keys.length);
});

it('a built-in term is held as itself, one of the organisation’s own beside what it counts as', () => {
  expect(heldAs(TERMS, 'standing', 'prospect')).toEqual({ countsAs: 'prospect', own: null });
  expect(heldAs(TERMS, 'standing', 'hot')).toEqual({ countsAs: 'prospect', own: 'hot' });
  expect([heldAs(TERMS, 'leadStatus', 'hot'), heldAs(TERMS, 'standing', 'cold')]).toEqual([null, null]);
  expect([termName(TERMS, 'hot'), termName(TERMS, 'gone')]).toEqual(['Hot prospect', 'gone']);
});

it('a lead goes to what its status allows, and to whatever counts as what it is', () => {
  const status = (key: string, countsAs = key, isRetired = false): Term =>
    term(key, countsAs, { list: 'leadStatus', isRetired });
  const statuses = [
    ...BUILT_IN_TERMS.leadStatus.map((key) => status(key)),
    status('demo', 'working'),
    status('old', 'working', true),
  ];
  const next = (from: Parameters<typeof nextLeadStatuses>[1], own: string | null = null): string[] =>
    nextLeadStatuses([...statuses, ...TERMS], from, own);
  expect(next('dropped')).toEqual(['new', 'working', 'demo']);
  expect(next('working')).toEqual(['new', 'qualified', 'parked', 'dropped', 'demo']);
  expect(next('working', 'demo')).toEqual(['new', 'working', 'qualified', 'parked', 'dropped']);
  expect(next('converted')).toEqual([]);
});

it('no term of one’s own counts as converted', () => {
  expect(countable('leadStatus')).toEqual(['new', 'working', 'qualified', 'parked', 'dropped']);
  expect(countable('companyKind')).toEqual(['firm', 'household']);
});

it.each([
  ['Hot prospect', [], 'hot-prospect'],
  ['Hot prospect', ['hot-prospect'], 'hot-prospect-2'],
  ['Łódź & Größe', [], 'odz-gro-e'],
  ['見込み客', ['term'], 'term-2'],
])('%j, where %j are taken, gets the key %s', (name, taken, key) => {
  expect(termKey(name, taken)).toBe(key);
});

it('every name gets a short plain key that is not taken', () => {
  fc.assert(
    fc.property(fc.string(), fc.array(fc.string(), { maxLength: 3 }), (name, names) => {
      const taken = names.reduce<string[]>((keys, each) => [...keys, termKey(each, keys)], []);
      const key = termKey(name, taken);
      expect(key).toMatch(/^[a-z0-9][a-z0-9-]{0,39}$/);
      expect(taken).not.toContain(key);
    }),
  );
});
