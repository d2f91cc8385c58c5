import { SECTIONS, SETTINGS } from '../shell/map';
import { commandsFor, findCommands, MAKEABLE } from './commands';

const all = commandsFor(true);
const first = (typed: string): string | undefined => findCommands(typed, all)[0]?.name;

it('knows every place, everything that can be made, and the themes', () => {
  const places = [...SECTIONS, ...SETTINGS].flatMap(({ places }) => places.map(({ to }) => to));
  const reached = all.flatMap(({ act }) => (act.kind === 'go' ? [act.to] : []));
  expect(reached.filter((to) => !to.includes('?')).sort()).toEqual(places.sort());
  expect(all.flatMap(({ act }) => (act.kind === 'make' ? [act.what] : []))).toEqual([...MAKEABLE]);
  expect(all.filter(({ act }) => act.kind === 'theme')).toHaveLength(3);
});

it.each([
  ['new pers', 'New person'],
  ['new deal', 'New deal'],
  ['new meet', 'New meeting'],
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

it('keeps what is for admins from others', () => {
  const names = commandsFor(false).map(({ name }) => name);
  expect(names).not.toContain('Accounts');
  expect(names).toContain('Teams');
});
