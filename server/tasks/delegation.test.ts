import { createTransport } from 'nodemailer';
import { delegating } from '../testing/delegating';
import { saying } from '../testing/saying';
import { openMailIntake, type MailIntake } from '../outside/mail';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);
const { idOf, noticesOf, task, change, detail } = delegating;

let intake: MailIntake;
beforeAll(async () => {
  intake = await openMailIntake(house.tools, '127.0.0.1', 0, () => undefined);
});
afterAll(() => intake.stop());
beforeEach(async () => {
  await house.sequelize.query('DELETE FROM notices');
  house.mails.length = 0;
});

/** What was mailed about a task, once the queue has worked. */
async function mailed() {
  await house.work();
  return house.mails.map(({ to, subject }) => [to, subject]);
}
const reply = (mail: { id: string }, from: string, text: string, more: Record<string, string> = {}) =>
  createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail({
    from,
    to: 'hello@wharfside.example',
    subject: 'Re: a task',
    inReplyTo: `<${mail.id}@wharfside.example>`,
    text: `${text}\n\nOn Sat, 28 Nov 2026 at 10:00, Emporikon wrote:\n> Pell Garrick gave you a task\n`,
    ...(Object.keys(more).length ? { headers: more } : {}),
  });

it('whoever is given a task is told and mailed what it is about, with a link', async () => {
  const personId = await person('Ana Silva');
  const made = await task(pell, { assigneeId: await idOf(ines), personId, notes: 'The one of March' });
  expect(await mailed()).toEqual([['ines@wharfside.example', 'Pell Garrick gave you a task: Send the list']]);
  const [mail] = house.mails;
  expect(mail?.text).toContain('About: Ana Silva');
  expect(mail?.text).toContain('Due: Thursday 3 December 2026');
  expect(mail?.text).toContain('The one of March');
  expect(mail?.text).toContain(`http://127.0.0.1:4600/people/${personId}?task=${made.task.id}`);
  expect(mail).toMatchObject({ isAutomatic: true });
});

it('a task that was taken back before the mail went out is not mailed', async () => {
  const made = await task(pell, { assigneeId: await idOf(ines) });
  await pell.call('POST /api/events/:id/undo', { params: { id: made.eventId ?? '' } });
  expect(await mailed()).toEqual([]);
  expect(await noticesOf(ines)).toEqual([]);
});

it('“done” by mail makes it done, once, and the giver hears of it', async () => {
  const made = await task(pell, { assigneeId: await idOf(ines) });
  await mailed();
  const [mail] = house.mails;
  if (!mail) throw new Error('nothing was mailed');
  await reply(mail, 'Ines Tolland <ines@wharfside.example>', 'Done, thanks!');
  expect(await detail(pell, made.task.id)).toMatchObject({ doneBy: 'Ines Tolland', messages: [] });
  expect(await noticesOf(pell)).toEqual([['done', 'Send the list', '']]);
  await reply(mail, 'Ines Tolland <ines@wharfside.example>', 'Done, thanks!');
  expect(await noticesOf(pell)).toHaveLength(1);
  expect((await pell.call('GET /api/captures')).body.waiting).toBe(0);
});

it('a question by mail comes back to the task, and its answer goes out by mail', async () => {
  const made = await task(pell, { assigneeId: await idOf(ines) });
  await mailed();
  const [mail] = house.mails;
  if (!mail) throw new Error('nothing was mailed');
  await reply(mail, 'ines@wharfside.example', 'Which list, the old one?');
  expect((await detail(pell, made.task.id)).messages).toMatchObject([
    { by: 'Ines Tolland', words: 'Which list, the old one?', isMail: true },
  ]);
  expect(await noticesOf(pell)).toEqual([['answered', 'Send the list', 'Which list, the old one?']]);
  await pell.call('POST /api/tasks/:id/messages', {
    params: { id: made.task.id },
    body: { words: 'The new one' },
  });
  house.mails.length = 0;
  expect(await mailed()).toContainEqual([
    'ines@wharfside.example',
    'Pell Garrick wrote about “Send the list”: The new one',
  ]);
});

it.each([
  ['somebody else', 'somebody@outside.example', {}],
  ['a colleague it was not sent to', 'mara@wharfside.example', {}],
  ['a machine', 'ines@wharfside.example', { 'Auto-Submitted': 'auto-replied' }],
])('what %s writes to it changes nothing', async (_, from, headers) => {
  const made = await task(pell, { assigneeId: await idOf(ines) });
  await mailed();
  const [mail] = house.mails;
  if (!mail) throw new Error('nothing was mailed');
  await reply(mail, from, 'Done', headers as Record<string, string>);
  expect(await detail(pell, made.task.id)).toMatchObject({ doneAt: null, messages: [] });
});

it('a reply to a mail that was never sent is mail like any other', async () => {
  const made = await task(pell, { assigneeId: await idOf(ines) });
  const before = await house.count('captures');
  await reply(
    { id: `task.${made.task.id}.00000000-0000-4000-8000-000000000000` },
    'ines@wharfside.example',
    'Done',
  );
  expect([(await detail(pell, made.task.id)).doneAt, await house.count('captures')]).toEqual([
    null,
    before + 1,
  ]);
});

it('a notice of ours that comes round to us is no capture, and one that only looks like it is', async () => {
  await task(pell, { assigneeId: await idOf(ines) });
  await mailed();
  const [mail] = house.mails;
  const before = await house.count('captures');
  const come = (messageId: string, subject: string) =>
    createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail({
      from: 'hello@wharfside.example',
      to: 'ines@wharfside.example',
      messageId,
      subject,
      text: mail?.text,
    });
  await come(`<${mail?.id ?? ''}@wharfside.example>`, 'A task');
  expect(await house.count('captures')).toBe(before);
  // A link that lets somebody choose a password would stand where all colleagues read.
  const asked = await house.anonymous.call('POST /api/session/password-link', {
    body: { email: 'ines@wharfside.example' },
  });
  expect(asked.status).toBe(200);
  await house.work();
  const link = house.mails.at(-1);
  expect(link?.text).toContain('/new-password#');
  await come(`<${link?.id ?? ''}@wharfside.example>`, link?.subject ?? '');
  expect(await house.count('captures')).toBe(before);
  await come('<notices.00000000-0000-4000-8000-000000000000@wharfside.example>', 'Not ours');
  expect(await house.count('captures')).toBe(before + 1);
});

it('declined it goes back with the reason; taken back, moved and asked after, whoever does it hears', async () => {
  const inesId = await idOf(ines);
  const { id } = (await task(pell, { assigneeId: inesId })).task;
  const declined = await ines.call('POST /api/tasks/:id/decline', {
    params: { id },
    body: { why: 'I am at the fair' },
  });
  expect(declined.body.task).toMatchObject({
    assignee: { name: 'Pell Garrick' },
    givenBy: null,
    declined: { by: 'Ines Tolland', why: 'I am at the fair' },
  });
  expect(await noticesOf(pell)).toEqual([['declined', 'Send the list', 'I am at the fair']]);
  expect(
    (await pell.call('POST /api/tasks/:id/decline', { params: { id }, body: { why: 'No' } })).status,
  ).toBe(409);
  expect(
    (await mara.call('POST /api/tasks/:id/decline', { params: { id }, body: { why: 'No' } })).status,
  ).toBe(403);
  await house.sequelize.query('DELETE FROM notices');
  await change(pell, id, { assigneeId: inesId });
  await change(pell, id, { dueAt: '2026-12-04T00:00:00Z' });
  const ask = (by: typeof pell) => by.call('POST /api/tasks/:id/reminder', { params: { id }, body: {} });
  expect([(await ask(pell)).status, (await ask(pell)).status, (await ask(mara)).status]).toEqual([
    200, 409, 403,
  ]);
  await change(pell, id, { assigneeId: await idOf(pell) });
  expect((await noticesOf(ines)).map(([kind]) => kind)).toEqual([
    'taken back',
    'asked after',
    'moved',
    'given',
  ]);
  expect(await noticesOf(pell)).toEqual([]);
});

it('what one gave is one list, open and done, and only one’s own', async () => {
  const inesId = await idOf(ines);
  const [late, early] = [
    await task(pell, { title: 'Late', dueAt: '2026-12-09T00:00:00Z', assigneeId: inesId }),
    await task(pell, { title: 'Early', dueAt: '2026-12-02T00:00:00Z', assigneeId: inesId }),
  ];
  await task(mara, { title: 'Of Mara', assigneeId: inesId });
  const list = async (query: Record<string, string> = {}) =>
    (await pell.call('GET /api/tasks/delegated', { query })).body;
  const titles = (await list()).items.map(({ title }) => title);
  expect(titles.slice(titles.indexOf('Early'))).toContain('Late');
  expect(titles).not.toContain('Of Mara');
  await change(ines, early.task.id, { done: true });
  expect((await list({ state: 'done' })).items[0]).toMatchObject({ title: 'Early', doneBy: 'Ines Tolland' });
  // Passed on, it is still what Pell gave.
  await change(ines, late.task.id, { assigneeId: await idOf(mara) });
  expect((await list()).items.map(({ title }) => title)).toContain('Late');
  const first = await list({ limit: '1' });
  const second = await list({ limit: '1', cursor: first.next ?? '' });
  expect(first.items[0]?.id).not.toBe(second.items[0]?.id);
});

it('watchers hear of what becomes of a task they have nothing to do for', async () => {
  const { id } = (await task(pell, { watchers: [await idOf(mara)] })).task;
  await change(pell, id, { dueAt: '2026-12-04T00:00:00Z' });
  await change(pell, id, { done: true });
  expect((await noticesOf(mara)).map(([kind]) => kind)).toEqual(['done', 'moved']);
});
