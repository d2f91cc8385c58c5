import { delegating } from '../testing/delegating';
import { saying } from '../testing/saying';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);
const { idOf, noticesOf, task, change } = delegating;

const mine = async (who: typeof pell) =>
  (await who.call('GET /api/tasks')).body.items.map(({ title }) => title);
const leadsOf = async (who: typeof pell) => {
  const id = await idOf(who);
  const { items } = (await mara.call('GET /api/leads')).body;
  return items.filter(({ owner }) => owner.id === id).map(({ title }) => title);
};
const handOver = async (by: typeof pell, body: Record<string, unknown> = {}) =>
  by.call('POST /api/handovers', {
    body: { fromId: await idOf(pell), toId: await idOf(ines), ...body },
  });

beforeAll(async () => {
  const personId = await person('Ana Silva');
  await task(pell, { title: 'First' });
  await task(pell, { title: 'Second', dueAt: '2026-12-04T00:00:00Z' });
  await task(ines, { title: 'Of Ines' });
  await pell.call('POST /api/leads', { body: { title: 'Six bikes', personId } });
  await house.sequelize.query('DELETE FROM notices');
});

it('what would be handed over is shown first', async () => {
  const preview = await pell.call('GET /api/handovers/preview', { query: { from: await idOf(pell) } });
  expect(preview.body).toMatchObject({ tasks: 2, leads: 1 });
  expect(preview.body.first.map(({ name }) => name)).toEqual(['First', 'Second', 'Six bikes']);
  const other = await pell.call('GET /api/handovers/preview', { query: { from: await idOf(ines) } });
  expect(other.status).toBe(403);
});

it('goes over in one step, is told once, and one undo takes it back', async () => {
  const given = await handOver(pell);
  expect(given.body.handover).toMatchObject({ tasks: 2, leads: 1, from: { name: 'Pell Garrick' } });
  expect([await mine(pell), await leadsOf(pell)]).toEqual([[], []]);
  expect((await mine(ines)).sort()).toEqual(['First', 'Of Ines', 'Second']);
  expect(await noticesOf(ines)).toEqual([['handed over', '2 tasks and 1 lead', 'Ines Tolland']]);
  expect((await ines.call('GET /api/handovers')).body.items).toHaveLength(1);
  await pell.call('POST /api/events/:id/undo', { params: { id: given.body.eventId ?? '' } });
  expect([await mine(pell), await leadsOf(pell)]).toEqual([['First', 'Second'], ['Six bikes']]);
  expect([(await ines.call('GET /api/handovers')).body.items, await noticesOf(ines)]).toEqual([[], []]);
});

it('comes back when it is given back, but for what was done or passed on meanwhile', async () => {
  const { handover } = (await handOver(mara)).body;
  const items = (await ines.call('GET /api/tasks')).body.items;
  const idByTitle = (title: string) => items.find((one) => one.title === title)?.id ?? '';
  await change(ines, idByTitle('First'), { done: true });
  const back = await ines.call('POST /api/handovers/:id/return', { params: { id: handover.id }, body: {} });
  expect(back.body.handover.returnedAt).not.toBeNull();
  expect([await mine(pell), await leadsOf(pell), await mine(ines)]).toEqual([
    ['Second'],
    ['Six bikes'],
    ['Of Ines'],
  ]);
  expect((await noticesOf(pell))[0]?.slice(0, 1)).toEqual(['handed over']);
  const again = await ines.call('POST /api/handovers/:id/return', { params: { id: handover.id }, body: {} });
  expect(again.status).toBe(409);
});

it('comes back by itself on its day, on the clock of whoever was away', async () => {
  house.tools.now = () => new Date('2026-11-28T10:00:00Z');
  await pell.call('PATCH /api/session', { body: { timeZone: 'Pacific/Auckland' } });
  await handOver(pell, { backOn: '2026-12-01' });
  const { returnJob } = await import('./handover');
  // In Auckland, thirteen hours ahead, it is still the last of November.
  house.tools.now = () => new Date('2026-11-30T10:59:00Z');
  await returnJob.run(house.tools, {});
  expect(await mine(pell)).toEqual([]);
  house.tools.now = () => new Date('2026-11-30T11:00:00Z');
  await Promise.all([returnJob.run(house.tools, {}), returnJob.run(house.tools, {})]);
  expect(await mine(pell)).toEqual(['Second']);
  await pell.call('PATCH /api/session', { body: { timeZone: 'Europe/London' } });
});

it.each([
  ['to oneself', { toId: 'own' }, 422],
  ['back in the past', { backOn: '2026-11-01' }, 422],
  ['nothing of it', { tasks: false, leads: false }, 409],
])('%s is refused', async (_, body, status) => {
  const own = 'toId' in body ? { toId: await idOf(pell) } : body;
  expect((await handOver(pell, own)).status).toBe(status);
});

it('a rep hands over no work of others', async () => {
  expect((await handOver(ines)).status).toBe(403);
});
