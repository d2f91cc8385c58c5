import type { Right } from '@emporikon/core/rights/rights';
import { SECTIONS, sectionsFor } from '../shell/map';
import { SETTINGS } from '../shell/settingsMap';
import { commandsFor, findCommands, MAKEABLE } from './commands';

const everything = { isAdmin: true, may: () => true };
const all = commandsFor(everything);
const first = (typed: string): string | undefined => findCommands(typed, all)[0]?.name;

it('knows every place, everything that can be made, and the themes', () => {
  const places = [...SECTIONS, ...SETTINGS].flatMap(({ places }) => places.map(({ to }) => to));
  const reached = all.flatMap(({ act }) => (act.kind === 'go' ? [act.to] : []));
  expect(reached.filter((to) => !to.includes('?') && !to.endsWith('/new')).sort()).toEqual(places.sort());
  expect(all.flatMap(({ act }) => (act.kind === 'make' ? [act.what] : []))).toEqual([...MAKEABLE]);
  expect(all.filter(({ act }) => act.kind === 'theme')).toHaveLength(3);
});

it.each([
  ['new pers', 'New person'],
  ['new deal', 'New deal'],
  ['new meet', 'New meeting'],
  ['write a let', 'Write a letter'],
  ['forecast', 'Forecast'],
  ['dark', 'Dark theme'],
  ['duplicates', 'Look-alikes'],
  ['stages', 'Pipelines and stages'],
  ['password', 'Sign-in'],
  ['csv', 'Import'],
  ['qualifying rules', 'Fit'],
  ['TRIAGE', 'Triage'],
  ['settings fit', 'Fit'],
])('finds by %j the command %j first', (typed, name) => {
  expect(first(typed)).toBe(name);
});

it('finds nothing for a name that is no command, and nothing for nothing', () => {
  expect(findCommands('ines duarte', all)).toEqual([]);
  expect(findCommands('  ', all)).toEqual([]);
});

it('keeps from somebody what their role leaves out: sections, places and what can be made', () => {
  const may = (right: Right): boolean => !/^(?:deals|captures|ledger)\./.test(right);
  const names = commandsFor({ isAdmin: false, may }).map(({ name }) => name);
  for (const gone of ['New deal', 'New call', 'Capture', 'Inbox', 'Lanes', 'Forecast'])
    expect(names).not.toContain(gone);
  for (const kept of ['New person', 'All people', 'Projects', 'Pipelines and stages'])
    expect(names).toContain(kept);
  expect(sectionsFor(may).map(({ name, to }) => `${name} ${to}`)).toEqual([
    'Arrivals /forms',
    'Round /round',
    'Leads /leads',
    'People /people',
    'Companies /companies',
    'Deals /deals/projects',
  ]);
});

it('keeps what is for admins from others', () => {
  const names = commandsFor({ ...everything, isAdmin: false }).map(({ name }) => name);
  expect(names).not.toContain('Accounts');
  expect(names).toContain('Teams');
});
