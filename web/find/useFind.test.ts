import '../testing/browser';
import { ref } from 'vue';
import { openPage, refusal, settle, type Page } from '../testing/page';
import { commandsFor } from './commands';
import { useFind, type Option } from './useFind';

const INES = { kind: 'person', id: '1', label: 'Ines Duarte', hint: 'Padaria Sol', inactive: false };
const MOVE = { title: 'Price list', kind: 'task', dueAt: '2026-12-04T00:00:00Z', allDay: true };
const reading = (over: object = {}): object => ({ nextMove: null, entry: null, ...over });
let page: Page;
let about: { personId?: string };
const failed: unknown[] = [];

beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['setImmediate'] });
  about = {};
  failed.length = 0;
  page = openPage({
    'GET /api/search': { items: [INES] },
    'POST /api/composer': reading(),
    'GET /api/lists': {
      items: [],
      tags: [
        { tag: 'Utrecht fair', people: 3 },
        { tag: 'bakery', people: 1 },
      ],
    },
  });
});
afterEach(() => {
  page.close();
  jest.useRealTimers();
});

function open(recent = ref([{ kind: 'deal' as const, id: '9', label: 'Long bikes', hint: '' }])) {
  return page.run(() =>
    useFind({
      commands: () => commandsFor({ isAdmin: true, may: () => true }),
      recent: () => recent.value,
      about: () => about,
      fail: (problem) => failed.push(problem),
    }),
  );
}
async function typed(words: string, find = open()): Promise<Option[]> {
  find.words.value = words;
  await settle();
  jest.runOnlyPendingTimers();
  await settle();
  return find.options.value;
}
const kinds = (options: Option[]): string[] => [...new Set(options.map(({ kind }) => kind))];

it('shows what was opened last before anything is typed', () => {
  expect(open().options.value).toMatchObject([{ kind: 'record', group: 'Opened last', hit: { id: '9' } }]);
});

it('finds records first, and places and commands by name after them', async () => {
  const options = await typed('fore');
  expect(kinds(options)).toEqual(['record', 'command']);
  expect(options.at(-1)).toMatchObject({ command: { name: 'Forecast' } });
  // A name is not taken for something to be saved.
  expect(page.asked.map(({ path }) => path)).toEqual(['/api/search']);
});

it('offers plain words as a next move, and as an entry only where a record is open', async () => {
  page.answers['POST /api/composer'] = reading({ nextMove: MOVE });
  expect(kinds(await typed('task for Joss: price list'))).toContain('line');
  page.answers['POST /api/composer'] = reading({ entry: { kind: 'note', headline: 'x' } });
  expect(kinds(await typed('she rides every day'))).not.toContain('line');
  about = { personId: '1' };
  expect(kinds(await typed('she rides every day'))).toContain('line');
});

it('finds people though plain words cannot be read', async () => {
  page.answers['POST /api/composer'] = refusal(422, 'invalid');
  expect(kinds(await typed('ines duarte padaria'))).toEqual(['record']);
  expect(failed).toEqual([]);
});

it('offers the tags that are meant, and searches without the word that says so', async () => {
  const options = await typed('tag: fair');
  expect(options[0]).toMatchObject({ kind: 'tag', tag: 'Utrecht fair', people: 3 });
  expect(options.filter(({ kind }) => kind === 'tag')).toHaveLength(1);
  expect(page.asked.find(({ path }) => path === '/api/search')?.query.get('q')).toBe('fair');
});

it('tells when the search itself fails, and forgets an answer that comes too late', async () => {
  page.answers['GET /api/search'] = refusal(503, 'unreachable');
  await typed('ines');
  expect(failed).toHaveLength(1);
  const find = open();
  page.answers['GET /api/search'] = { items: [INES] };
  find.words.value = 'in';
  await settle();
  jest.runOnlyPendingTimers();
  find.words.value = '';
  await settle();
  expect(find.options.value.every(({ group }) => group === 'Opened last')).toBe(true);
});
