import { saying } from '../testing/saying';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person, company, enter } = saying(pell);

const noticesOf = async (who: typeof pell) =>
  (await who.call('GET /api/notices')).body.items.map((notice) => [
    notice.kind,
    notice.title,
    notice.actor,
    notice.about?.name ?? null,
  ]);
const unread = async (who: typeof pell) => (await who.call('GET /api/counts')).body.notices;
const idOf = async (name: string) => {
  const { items } = (await pell.call('GET /api/users')).body;
  return items.find((user) => user.name === name)?.id ?? '';
};
const clear = () => house.sequelize.query('DELETE FROM notices');
beforeEach(clear);

it('a mention tells the colleague where they were called, once, and takes itself back', async () => {
  const id = await person('Ana Silva');
  const note = await enter(
    pell,
    { headline: '@ines and @mara: who knows her brother? @ines' },
    { personId: id },
  );
  expect(await noticesOf(ines)).toEqual([
    ['mention', '@ines and @mara: who knows her brother? @ines', 'Pell Garrick', 'Ana Silva'],
  ]);
  expect([await unread(ines), await unread(mara), await unread(pell)]).toEqual([1, 1, 0]);
  const change = (body: object) => pell.call('PATCH /api/ledger/:id', { params: { id: note.body.id }, body });
  await change({ headline: '@ines and @mara: who knows her sister?' });
  expect(await unread(ines)).toBe(1);
  await pell.call('POST /api/events/:id/undo', { params: { id: note.body.eventId ?? '' } });
  // It was changed since, and so stays.
  expect(await unread(ines)).toBe(1);
  const other = await enter(pell, { headline: 'Hello @ines' }, { personId: id });
  expect(await unread(ines)).toBe(2);
  await pell.call('POST /api/events/:id/undo', { params: { id: other.body.eventId ?? '' } });
  expect(await unread(ines)).toBe(1);
});

it('what the composer writes calls colleagues too, and an address is no call', async () => {
  const id = await person('Rui Duarte');
  await pell.call('POST /api/ledger', { body: { line: 'He buys with @ines soon', about: { personId: id } } });
  await pell.call('POST /api/ledger', {
    body: { line: 'Writes from sol@mara.example', about: { personId: id } },
  });
  expect([await unread(ines), await unread(mara)]).toEqual([1, 0]);
});

it('a task tells who is to do it, and whoever gave it when it is moved, passed on and done', async () => {
  const personId = await person('Lea Brink');
  const [inesId, maraId] = [await idOf('Ines Tolland'), await idOf('Mara Quill')];
  const { body } = await pell.call('POST /api/tasks', {
    body: { title: 'Send the list', dueAt: '2026-12-01T09:00:00Z', assigneeId: inesId, personId },
  });
  const change = (by: typeof pell, patch: object) =>
    by.call('PATCH /api/tasks/:id', { params: { id: body.task.id }, body: patch });
  expect(await noticesOf(ines)).toEqual([['given', 'Send the list', 'Pell Garrick', 'Lea Brink']]);
  await change(ines, { dueAt: '2026-12-03T09:00:00Z' });
  await change(ines, { assigneeId: maraId });
  await change(mara, { done: true });
  expect((await noticesOf(pell)).map(([kind, , actor]) => [kind, actor])).toEqual([
    ['done', 'Mara Quill'],
    ['passed on', 'Ines Tolland'],
    ['moved', 'Ines Tolland'],
  ]);
  expect((await noticesOf(mara)).map(([kind]) => kind)).toEqual(['given']);
  await clear();
  await pell.call('POST /api/tasks', { body: { title: 'My own', dueAt: '2026-12-01T09:00:00Z' } });
  expect([await unread(pell), await unread(ines)]).toEqual([0, 0]);
});

it('a new owner is told which record is theirs now', async () => {
  const firm = await company('Quay Florists');
  const { version } = (await pell.call('GET /api/companies/:id', { params: { id: firm } })).body;
  await pell.call('PATCH /api/companies/:id', {
    params: { id: firm },
    body: { version, ownerId: await idOf('Ines Tolland'), because: 'You know the trade' },
  });
  expect(await noticesOf(ines)).toEqual([['owner', 'Quay Florists', 'Pell Garrick', 'Quay Florists']]);
});

it('is read and unread by whom it is for, and by nobody else; what is hidden from them is not told', async () => {
  const id = await person('Kai Lund');
  await enter(pell, { headline: 'One for @ines' }, { personId: id });
  const [notice] = (await ines.call('GET /api/notices')).body.items;
  const mark = (by: typeof pell, isRead: boolean) =>
    by.call('PATCH /api/notices/:id', { params: { id: notice?.id ?? '' }, body: { isRead } });
  expect((await mark(pell, true)).status).toBe(404);
  expect([(await mark(ines, true)).status, await unread(ines)]).toEqual([200, 0]);
  await mark(ines, false);
  await enter(pell, { headline: 'Two for @ines' }, { personId: id });
  const first = await ines.call('GET /api/notices', { query: { limit: '1' } });
  expect(first.body.items.map((one) => one.title)).toEqual(['Two for @ines']);
  const second = await ines.call('GET /api/notices', {
    query: { limit: '1', cursor: first.body.next ?? '' },
  });
  expect(second.body.items.map((one) => one.title)).toEqual(['One for @ines']);
  expect((await ines.call('POST /api/notices/read', { body: {} })).body.marked).toBe(2);
  await enter(pell, { headline: 'Three for @ines' }, { personId: id });
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'owner' },
  });
  expect([await unread(ines), await noticesOf(ines)]).toEqual([0, []]);
});

it('a deal says what colleagues did with it since one looked, with the sentence on why', async () => {
  const personId = await person('Jan Vries');
  const deal = (await pell.call('POST /api/deals', { body: { title: 'A trailer', personId } })).body.deal;
  const news = async (who: typeof pell) =>
    (await who.call('GET /api/deals/:id', { params: { id: deal.id } })).body.news;
  expect(await news(pell)).toBeNull();
  const stages = (await pell.call('GET /api/stages')).body.items;
  const { version } = (await ines.call('GET /api/deals/:id', { params: { id: deal.id } })).body;
  await ines.call('PATCH /api/deals/:id', {
    params: { id: deal.id },
    body: {
      version,
      stageId: stages.find((stage) => stage.name === 'Proposal')?.id,
      because: 'Wants it in writing',
    },
  });
  await enter(ines, { headline: 'Her brother signs' }, { dealId: deal.id });
  expect(await news(pell)).toEqual({ count: 2, sentence: 'Wants it in writing' });
  expect([await news(ines), await news(mara)]).toEqual([null, null]);
  await pell.call('POST /api/looks', { body: { recordId: deal.id } });
  expect(await news(pell)).toBeNull();
  const { items } = (await ines.call('GET /api/ledger', { query: { dealId: deal.id, kind: 'change' } })).body;
  const reason = (by: typeof pell, body: object) =>
    by.call('PATCH /api/ledger/:id', { params: { id: items[0]?.id ?? '' }, body });
  expect((await reason(pell, { body: 'No' })).status).toBe(403);
  expect((await reason(ines, { headline: 'Stage: lost' })).status).toBe(403);
  expect((await reason(ines, { body: 'Wants the price in writing' })).status).toBe(200);
});
