import { delegating } from '../testing/delegating';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { idOf, task } = delegating;

beforeEach(async () => {
  house.tools.now = () => new Date('2026-11-25T09:00:00Z');
  await house.sequelize.query('DELETE FROM tasks');
});

const timed = (by: typeof pell, title: string, start: string, more: Record<string, unknown> = {}) =>
  task(by, { title, kind: 'meeting', dueAt: start, allDay: false, ...more });

describe('free times', () => {
  const free = async (query: Record<string, string> = {}) => {
    const { body } = await pell.call('GET /api/calendar/free-times', { query });
    return { minutes: body.minutes, starts: body.items.map(({ start }) => start.slice(5, 16)) };
  };

  it('are when all are at work and have nothing else, hidden or not', async () => {
    await timed(pell, 'A', '2026-11-30T09:00:00Z', { endAt: '2026-11-30T11:00:00Z' });
    const secret = await timed(ines, 'B', '2026-11-30T11:00:00Z', { endAt: '2026-11-30T16:00:00Z' });
    await ines.call('PUT /api/visibility/:kind/:id', {
      params: { kind: 'tasks', id: secret.task.id },
      body: { visibility: 'named', peopleIds: [await idOf(ines)] },
    });
    const found = await free({ with: await idOf(ines), wish: 'Monday, 45 min' });
    expect(found).toEqual({ minutes: 45, starts: ['11-30T16:00'] });
    expect((await free({ wish: 'Monday, 45 min' })).starts[0]).toBe('11-30T11:00');
    await ines.call('PATCH /api/session', { body: { worksUntil: '16:30' } });
    expect((await free({ with: await idOf(ines), wish: 'Monday, 45 min' })).starts).toEqual([]);
    await ines.call('PATCH /api/session', { body: { worksUntil: '17:30' } });
  });

  it('are none while something repeats, for whoever does it and whoever is asked to it', async () => {
    const weekly = await timed(ines, 'Weekly', '2026-11-30T09:00:00Z', {
      ...{ repeat: 'FREQ=WEEKLY;BYDAY=MO', endAt: '2026-11-30T17:30:00Z' },
      people: [{ userId: await idOf(mara) }],
    });
    const wish = '2026-12-07, 1 hour';
    for (const who of [ines, mara]) expect((await free({ with: await idOf(who), wish })).starts).toEqual([]);
    expect((await free({ wish })).starts[0]).toBe('12-07T09:00');
    expect((await free({ with: await idOf(ines), wish, except: weekly.task.id })).starts[0]).toBe(
      '12-07T09:00',
    );
    const answer = { params: { id: weekly.task.id }, body: { answer: 'declined' } };
    await mara.call('POST /api/tasks/:id/answer', answer);
    expect((await free({ with: await idOf(mara), wish })).starts[0]).toBe('12-07T09:00');
  });

  it('of a meeting that is to be moved leave out the meeting itself', async () => {
    const made = await timed(pell, 'A', '2026-11-30T09:00:00Z', { endAt: '2026-11-30T17:30:00Z' });
    expect((await free({ wish: 'Monday' })).starts).toEqual([]);
    expect((await free({ wish: 'Monday', except: made.task.id })).starts[0]).toBe('11-30T09:00');
  });

  it('are asked for in words that name a day, and with colleagues', async () => {
    const wrong = await pell.call('GET /api/calendar/free-times', { query: { wish: 'blue moon' } });
    expect([wrong.status, wrong.body.detail]).toEqual([
      422,
      'This names no day. Type one such as “next week, 45 min” or “Thursday afternoon”.',
    ]);
    const nobody = await pell.call('GET /api/calendar/free-times', { query: { with: crypto.randomUUID() } });
    expect(nobody.status).toBe(422);
  });

  it('working hours end after they begin', async () => {
    expect((await pell.call('PATCH /api/session', { body: { worksFrom: '18:00' } })).status).toBe(422);
    const { body } = await pell.call('PATCH /api/session', { body: { worksFrom: '08:30' } });
    expect(body).toMatchObject({ worksFrom: '08:30', worksUntil: '17:30' });
    await pell.call('PATCH /api/session', { body: { worksFrom: '09:00' } });
  });
});
