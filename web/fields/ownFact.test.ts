import '../testing/browser';
import type { FieldValue } from '@emporikon/contract/fields';
import type { Me } from '@emporikon/contract/session';
import { useSession } from '../shell/session';
import { openPage, type Page } from '../testing/page';
import { cellOf, editedOf, hrefOf, keptOf, optionsOf, shownOf, tabsOf } from './ownFact';

let page: Page;
beforeEach(() => {
  page = openPage();
  useSession().me = { timeZone: 'Europe/Lisbon', locale: 'en-GB' } as Me;
});
afterEach(() => page.close());

const ID = '0b9d6a3e-7c1f-4f7e-9f5e-2f1a4b6c8d90';
type Kind = FieldValue['kind'];
const field = (kind: Kind, value: string, more: Partial<FieldValue> = {}) => ({
  ...{ kind, value, options: [], shown: null, why: null },
  ...more,
});

it.each<[Kind, string, Partial<FieldValue>, string]>([
  ['money', '125050', { options: ['EUR'] }, '€1,250.50'],
  ['money', '1250', { options: ['JPY'] }, 'JP¥1,250'],
  ['money', 'about 50', { options: ['EUR'] }, 'about 50'],
  ['number', '1250.5', {}, '1,250.5'],
  ['number', 'many', {}, 'many'],
  ['date', '2026-12-03', {}, 'Thu, 3 Dec 2026'],
  ['date', 'next spring', {}, 'next spring'],
  ['yearly date', '--05-28', {}, '28 May'],
  ['yearly date', '1984-05-28', {}, '28 May 1984'],
  ['several', 'Mon\nFri', {}, 'Mon, Fri'],
  ['person', ID, { shown: 'Ann Bee' }, 'Ann Bee'],
  ['person', ID, {}, 'A person you cannot see, or that is gone'],
  ['person', 'Ann, from a table', {}, 'Ann, from a table'],
  ['formula', '54000', {}, '54,000'],
  ['formula', '', { why: 'It divides by nothing.' }, 'It divides by nothing.'],
])('%s %j is read as it is written for people', (kind, value, more, expected) =>
  expect(shownOf(field(kind, value, more))).toBe(expected),
);

it('money is typed as people write it and kept in minor units; clearing it clears it', () => {
  const money = field('money', '125050', { options: ['EUR'] });
  expect(editedOf(money)).toBe('1250.5');
  expect(keptOf(money, '1.250,50')).toBe('125050');
  expect(keptOf(money, ' ')).toBe('');
  expect(() => keptOf(money, 'a lot')).toThrow('is not a sum');
  expect(keptOf(field('text', ''), '1.250,50')).toBe('1.250,50');
  useSession().me = { timeZone: 'Europe/Lisbon', locale: 'pt-PT' } as Me;
  expect(editedOf(field('number', '12.555'))).toBe('12,555');
});

it('every choice of one can be taken back, and a file is chosen by its name', () => {
  expect(optionsOf(field('choice', '', { options: ['Small'] }), []).map(({ value }) => value)).toEqual([
    '',
    'Small',
  ]);
  expect(optionsOf(field('several', '', { options: ['Mon'] }), []).map(({ value }) => value)).toEqual([
    'Mon',
  ]);
  expect(optionsOf(field('file', ''), [{ value: 'f', title: 'plan.txt' }]).map(({ title }) => title)).toEqual(
    ['None', 'plan.txt'],
  );
  expect([cellOf({ kind: 'file' }), cellOf({ kind: 'yearly date' }), cellOf({ kind: 'link' })]).toEqual([
    'choice',
    'date',
    'text',
  ]);
});

it('only what is a record of its own leads to one', () => {
  expect(hrefOf(field('person', ID))).toBe(`/people/${ID}`);
  expect(hrefOf(field('person', 'Ann'))).toBeNull();
  expect(hrefOf(field('company', ''))).toBeNull();
  expect(hrefOf(field('text', '/people/p1'))).toBeNull();
});

it('fields stand in their tabs under their headings, in the order in which these come', () => {
  const at = (tab: string, part: string, key: string) => ({ tab, part, key });
  const fields = [
    at('', '', 'a'),
    at('Fleet', 'Bikes', 'b'),
    at('', 'Money', 'c'),
    at('Fleet', '', 'd'),
    at('Fleet', 'Bikes', 'e'),
  ];
  const told = tabsOf(fields).map(({ name, parts }) => [
    name,
    ...parts.map((part) => `${part.name}: ${part.fields.map(({ key }) => key).join(' ')}`),
  ]);
  expect(told).toEqual([
    ['', ': a', 'Money: c'],
    ['Fleet', 'Bikes: b e', ': d'],
  ]);
});
