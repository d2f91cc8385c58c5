import { sendDigests } from '../notices/mail';
import { runInTransaction } from '../commands/context';
import { delegating } from '../testing/delegating';
import { useHouse } from '../testing/harness';
import { tellReminders } from './reminders';

const { house, pell, ines } = useHouse();
const { idOf, noticesOf, task, change } = delegating;

const at = (iso: string) => {
  house.tools.now = () => new Date(iso);
};
const due = async () => {
  const [rows] = await house.sequelize.query(
    'SELECT at, told_at FROM reminders WHERE told_at IS NULL ORDER BY at',
  );
  return (rows as { at: Date }[]).map((row) => row.at.toISOString());
};
beforeEach(async () => {
  at('2026-11-28T10:00:00Z');
  await house.sequelize.query('DELETE FROM notices; DELETE FROM tasks');
  house.mails.length = 0;
});

it('come the day before at eight, once, whoever asks', async () => {
  await task(pell, { dueAt: '2026-12-03T00:00:00Z' });
  expect(await due()).toEqual(['2026-12-02T08:00:00.000Z']);
  at('2026-12-02T07:59:59Z');
  expect(await tellReminders(house.tools)).toBe(0);
  at('2026-12-02T08:00:00Z');
  const told = await Promise.all([1, 2, 3].map(() => tellReminders(house.tools)));
  expect(told.reduce((sum, count) => sum + count)).toBe(1);
  expect(await tellReminders(house.tools)).toBe(0);
  expect((await noticesOf(pell)).map(([kind, title]) => [kind, title])).toEqual([
    ['reminder', 'Send the list'],
  ]);
});

it('are told after all where nobody was there to tell them, and by a worker that is cut off not at all', async () => {
  await task(pell, { dueAt: '2026-12-03T00:00:00Z' });
  at('2026-12-02T11:00:00Z');
  // A worker that ends before it committed leaves both the mark and the notice undone.
  const cutOff = {
    ...house.tools,
    newId: () => {
      throw new Error('killed');
    },
  };
  await expect(tellReminders(cutOff)).rejects.toThrow('killed');
  expect(await noticesOf(pell)).toEqual([]);
  expect(await tellReminders(house.tools)).toBe(1);
  expect(await noticesOf(pell)).toHaveLength(1);
});

it('move with the task, its doer, and the clock of its doer, and end when it is done', async () => {
  const { id } = (
    await task(pell, {
      dueAt: '2026-12-03T00:00:00Z',
      reminders: [{ days: 1, at: '08:00' }, { minutes: 60 }],
    })
  ).task;
  expect(await due()).toEqual(['2026-12-02T08:00:00.000Z', '2026-12-03T08:00:00.000Z']);
  await change(pell, id, { dueAt: '2026-12-05T00:00:00Z', reminders: [{ days: 1, at: '08:00' }] });
  expect(await due()).toEqual(['2026-12-04T08:00:00.000Z']);
  await ines.call('PATCH /api/session', { body: { timeZone: 'Europe/Lisbon' } });
  await change(pell, id, { assigneeId: await idOf(ines) });
  await ines.call('PATCH /api/session', { body: { timeZone: 'America/New_York' } });
  expect(await due()).toEqual(['2026-12-04T13:00:00.000Z']);
  const done = await change(ines, id, { done: true });
  expect(await due()).toEqual([]);
  await ines.call('POST /api/events/:id/undo', { params: { id: done.body.eventId ?? '' } });
  expect(await due()).toEqual(['2026-12-04T13:00:00.000Z']);
  await ines.call('PATCH /api/session', { body: { timeZone: 'Europe/London' } });
});

it('keep their hour over the change to summer time', async () => {
  await pell.call('PATCH /api/session', { body: { timeZone: 'Europe/Berlin' } });
  await task(pell, { dueAt: '2027-03-28T22:00:00Z', zone: 'Europe/Berlin', repeat: 'FREQ=DAILY' });
  // The 29th; the day before, the 28th, eight o'clock is six in UTC and no longer seven.
  expect(await due()).toEqual(['2027-03-28T06:00:00.000Z']);
  await pell.call('PATCH /api/session', { body: { timeZone: 'Europe/London' } });
});

const settings = (by: typeof pell, body: object) => by.call('PATCH /api/notices/settings', { body });

it('a notice is mailed at once, once a day or not at all, as its reader chose', async () => {
  const inesId = await idOf(ines);
  const choose = (mail: string) =>
    settings(ines, { choices: [{ kind: 'given', mail, browser: true }], digestAt: '09:00', quiet: null });
  await choose('off');
  await task(pell, { title: 'Silent', assigneeId: inesId });
  await house.work();
  expect(house.mails).toEqual([]);
  await choose('digest');
  await task(pell, { title: 'One', assigneeId: inesId });
  await task(pell, { title: 'Two', assigneeId: inesId });
  await house.work();
  expect(house.mails).toEqual([]);
  at('2026-11-29T08:59:00Z');
  expect(await sendDigests(house.tools)).toBe(0);
  at('2026-11-29T09:00:00Z');
  const sent = await Promise.all([sendDigests(house.tools), sendDigests(house.tools)]);
  expect(sent.reduce((sum, count) => sum + count)).toBe(1);
  await house.work();
  expect(house.mails.map(({ to, subject }) => [to, subject])).toEqual([
    ['ines@wharfside.example', '2 notices for you'],
  ]);
  expect(house.mails[0]?.text).toContain('Pell Garrick gave you a task: One');
  expect((await ines.call('GET /api/notices/settings')).body).toMatchObject({
    digestAt: '09:00',
    quiet: null,
  });
});

it('in quiet hours nothing is mailed until they are over', async () => {
  await settings(ines, {
    choices: [{ kind: 'given', mail: 'at once', browser: true }],
    quiet: { from: '22:00', until: '07:00' },
  });
  at('2026-11-28T23:00:00Z');
  await task(pell, { title: 'At night', assigneeId: await idOf(ines) });
  const [rows] = await house.sequelize.query(
    "SELECT run_at FROM graphile_worker.jobs WHERE task_identifier = 'mailNotices' ORDER BY id DESC LIMIT 1",
  );
  expect((rows as { run_at: Date }[])[0]?.run_at.toISOString()).toBe('2026-11-29T07:00:00.000Z');
  await runInTransaction(house.tools, null, ({ sequelize, tx }) =>
    sequelize.query(
      "SELECT graphile_worker.complete_jobs(ARRAY(SELECT id FROM graphile_worker.jobs WHERE task_identifier = 'mailNotices'))",
      { transaction: tx },
    ),
  );
});
