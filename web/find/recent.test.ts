import '../testing/browser';
import type { Me } from '@emporikon/contract/session';
import { useSession } from '../shell/session';
import { openPage, settle, type Page } from '../testing/page';
import { noteRecent, useRecent, type Recent } from './recent';

let page: Page;
beforeEach(() => (page = openPage()));
afterEach(() => page.close());
const as = (id: string): void => {
  useSession().me = { id } as Me;
};
const record = (id: number): Recent => ({ kind: 'person', id: String(id), label: `P ${id}`, hint: '' });

it('keeps the last ones, newest first and each once, where everybody sees the same list', async () => {
  as('pell');
  const shown = page.run(useRecent);
  for (let id = 1; id <= 10; id++) noteRecent(record(id));
  noteRecent({ ...record(5), label: 'renamed' });
  expect(shown.value.map(({ id }) => id)).toEqual(['5', '10', '9', '8', '7', '6', '4', '3']);
  expect(shown.value[0]?.label).toBe('renamed');
  await settle();
  expect(JSON.parse(localStorage.getItem('emporikon.recent.pell') ?? '[]')).toHaveLength(8);
});

it('outlives the page that first asked for it', async () => {
  as('mara');
  page.run(useRecent);
  page.scope.stop();
  noteRecent(record(1));
  await settle();
  expect(localStorage.getItem('emporikon.recent.mara')).toContain('"P 1"');
});

it('is each user’s own', () => {
  as('joss');
  expect(useRecent().value).toEqual([]);
});
