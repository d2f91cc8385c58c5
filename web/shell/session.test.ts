import { wentTo } from '../testing/browser';
import { openPage, refusal, type Page } from '../testing/page';
import { useSession } from './session';

let end: () => void = () => undefined;
let isOpen = false;
jest.mock('./live', () => ({
  openLive: (ended: () => void) => {
    end = ended;
    isOpen = true;
  },
  closeLive: () => (isOpen = false),
}));

let page: Page;
beforeEach(() => {
  wentTo.length = 0;
  isOpen = false;
  Object.assign(location, { pathname: '/deals', search: '?owner=me' });
  page = openPage({
    'GET /api/session': { name: 'Pell Garrick', timeZone: 'UTC' },
    'POST /api/session': { name: 'Pell Garrick' },
    'DELETE /api/session': {},
    'DELETE /api/sessions': {},
  });
});
afterEach(() => page.close());
const asked = (): string[] => page.asked.map(({ method, path }) => `${method} ${path}`);

it('finds out once who is signed in', async () => {
  const session = useSession();
  expect((await session.ready())?.name).toBe('Pell Garrick');
  await session.ready();
  expect(asked()).toEqual(['GET /api/session']);
  expect(isOpen).toBe(true);
});

it('nobody is signed in where the server says so; any other failure is one', async () => {
  page.answers['GET /api/session'] = refusal(401, 'signed-out');
  expect(await useSession().ready()).toBeNull();
  page.close();
  page = openPage({ 'GET /api/session': refusal(500, 'internal') });
  await expect(useSession().ready()).rejects.toThrow('internal');
});

it('a session that ended elsewhere leads to the door, and back here after it', async () => {
  const session = useSession();
  await session.ready();
  page.answers['GET /api/session'] = refusal(401, 'signed-out');
  end();
  await new Promise((resolve) => setImmediate(resolve));
  expect(wentTo).toEqual([`/sign-in?to=${encodeURIComponent('/deals?owner=me')}`]);
  expect(isOpen).toBe(false);
});

it('a stream that only broke does not throw anybody out', async () => {
  await useSession().ready();
  end();
  await new Promise((resolve) => setImmediate(resolve));
  expect([wentTo, isOpen]).toEqual([[], true]);
});

it('signs in, and out here or everywhere', async () => {
  const session = useSession();
  await session.signIn('pell@wharfside.example', 'long-bikes-carry');
  expect(page.asked[0]?.body).toEqual({ email: 'pell@wharfside.example', password: 'long-bikes-carry' });
  await session.signOut();
  await session.signOut(true);
  expect(asked().slice(-2)).toEqual(['DELETE /api/session', 'DELETE /api/sessions']);
  expect(wentTo).toEqual(['/sign-in', '/sign-in']);
});
