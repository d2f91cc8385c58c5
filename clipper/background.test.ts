import { openExtension, refused, settle, type Extension } from './testing/extension';

let extension: Extension;
beforeEach(async () => {
  extension = openExtension();
  await import('./background');
});
afterEach(() => jest.restoreAllMocks());

const page = (id: string, over: object = {}) => ({
  id,
  url: `http://rollcall.example/in/${id}`,
  title: id,
  html: `<h1>${id}</h1>`,
  filing: { as: 'lead' },
  at: '2026-11-27T10:00:00Z',
  ...over,
});
const send = () => extension.send({ type: 'send' });
const asked = () => extension.asked.map(({ method, path, key }) => `${method} ${path} ${key}`);
const waiting = () => (extension.stored.waiting as { id: string; problem?: string }[]).map(({ id }) => id);
const fresh = { id: 'c9', state: 'waiting', verdict: { person: { kind: 'new' } } };

it('sends and files what was kept, under the same keys however often it is tried', async () => {
  extension.stored.waiting = [page('a')];
  extension.answers['POST /api/captures'] = fresh;
  extension.answers['POST /api/captures/c9/filing'] = {};
  expect(await send()).toBe(1);
  expect(asked()).toEqual(['POST /api/captures a', 'POST /api/captures/c9/filing a-filing']);
  expect(waiting()).toEqual([]);
});

it('keeps everything while the program is down or says not now, and goes on after it', async () => {
  extension.stored.waiting = [page('a'), page('b')];
  expect(await send()).toBe(0);
  for (const status of [401, 429, 500, 503]) {
    extension.answers['POST /api/captures'] = refused(status, 'Not now.');
    expect(await send()).toBe(0);
    expect(waiting()).toEqual(['a', 'b']);
  }
  extension.answers['POST /api/captures'] = { ...fresh, state: 'filed' };
  expect(await send()).toBe(2);
  expect(waiting()).toEqual([]);
});

it('a page that is filed when it is sent, but not answered for, is sent again and filed once', async () => {
  extension.stored.waiting = [page('a')];
  extension.answers['POST /api/captures'] = fresh;
  expect(await send()).toBe(0);
  extension.answers['POST /api/captures/c9/filing'] = {};
  expect(await send()).toBe(1);
  expect(asked().filter((one) => one.includes('/filing'))).toEqual([
    'POST /api/captures/c9/filing a-filing',
    'POST /api/captures/c9/filing a-filing',
  ]);
});

it('one that is refused stays with the reason, and holds up no other', async () => {
  extension.stored.waiting = [page('bad'), page('good')];
  extension.answers['POST /api/captures'] = ({ query }: { query: URLSearchParams }) =>
    query.get('url')?.endsWith('bad')
      ? refused(422, 'This page is too large.')
      : { ...fresh, state: 'filed' };
  expect(await send()).toBe(1);
  expect(extension.stored.waiting).toMatchObject([{ id: 'bad', problem: 'This page is too large.' }]);
});

it('somebody who may be known waits in Arrivals for a person to choose, unless it was chosen', async () => {
  const maybe = { ...fresh, verdict: { person: { kind: 'maybe' } } };
  extension.stored.waiting = [page('a')];
  extension.answers['POST /api/captures'] = maybe;
  expect(await send()).toBe(1);
  expect(asked()).toEqual(['POST /api/captures a']);
  extension.stored.waiting = [page('b', { filing: { as: 'lead', person: 'p1' } })];
  extension.answers['POST /api/captures/c9/filing'] = {};
  await send();
  expect(asked().at(-1)).toBe('POST /api/captures/c9/filing b-filing');
});

it('does not send the same twice when it is asked twice at once', async () => {
  extension.stored.waiting = [page('a')];
  extension.answers['POST /api/captures'] = { ...fresh, state: 'filed' };
  for (const ring of extension.alarms) ring();
  await Promise.all([send(), send()]);
  await settle();
  expect(asked()).toEqual(['POST /api/captures a']);
});

it('without a token it sends nothing', async () => {
  extension.stored = { waiting: [page('a')] };
  expect(await send()).toBe(0);
  expect(extension.asked).toEqual([]);
});

it('passes messages of the sheet on to the page it stands in, and only to that', async () => {
  expect(await extension.send({ type: 'page' }, { tab: { id: 5 } })).toEqual(extension.page);
  expect(extension.said).toContainEqual({ type: 'page', toTab: true });
  await extension.send({ type: 'options' });
  expect(extension.said).toContainEqual({ type: 'options opened' });
});
