import { writeCalendar } from '@emporikon/core/formats/icalendar';
import { delegating } from '../testing/delegating';
import { useHouse } from '../testing/harness';
import { ANA, inviting } from '../testing/inviting';

const { house, pell } = useHouse();
const { noticesOf, change, detail } = delegating;
const { state, sent, post, meet, mailed, eventOf, peopleOf, answer, waiting } = inviting(house, pell);

it('an answer marks who comes, is told to whoever holds it, stands in their history, and not in Arrivals', async () => {
  const { task } = await meet();
  await mailed();
  await answer(eventOf(sent()[0]), 'accepted', { comment: 'I bring Rui' });
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'accepted', 'yes']]);
  expect(await noticesOf(pell)).toEqual([['coming', 'Trial ride', 'Ana Silva accepted: I bring Rui']]);
  const { items } = (await pell.call('GET /api/ledger', { query: { personId: state.ana } })).body;
  expect(items).toContainEqual(
    expect.objectContaining({ side: 'theirs', kind: 'mail', headline: 'Accepted “Trial ride”' }),
  );
  expect((await pell.call('GET /api/captures')).body.waiting).toBe(0);
  house.mails.length = 0;
  expect(await mailed()).toEqual([]);
});

it('an answer of another sender, to another version, or that a newer one overtook changes nothing', async () => {
  const { task } = await meet();
  await mailed();
  const event = eventOf(sent()[0]);
  await answer(event, 'declined', { from: 'mallory@elsewhere.example' });
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'waiting', 'yes']]);
  await answer(event, 'accepted');
  await answer(event, 'declined', { stamp: '2026-11-25T09:59:00Z' });
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'accepted', 'yes']]);
  await change(pell, task.id, { dueAt: '2026-12-04T10:00:00Z' });
  await mailed();
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'waiting', 'yes']]);
  await answer(event, 'accepted', { stamp: '2026-11-25T11:00:00Z' });
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'waiting', 'yes']]);
  await answer(eventOf(sent().at(-1)), 'accepted', { stamp: '2026-11-25T11:00:00Z' });
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'accepted', 'yes']]);
});

it('what they write around their answer is kept: with it, or in Arrivals where the answer holds no more', async () => {
  const { task } = await meet();
  await mailed();
  const event = eventOf(sent()[0]);
  await answer(event, 'tentative', { text: 'Could Rui come instead of me?' });
  const { items } = (await pell.call('GET /api/ledger', { query: { personId: state.ana } })).body;
  expect(items.map(({ headline, body }) => [headline, body])).toContainEqual([
    'May come to “Trial ride”',
    'Could Rui come instead of me?',
  ]);
  await change(pell, task.id, { done: true });
  const before = await waiting();
  await answer(event, 'accepted', { stamp: '2026-11-25T12:00:00Z' });
  expect(await waiting()).toBe(before);
  await answer(event, 'declined', { stamp: '2026-11-25T12:00:00Z', text: 'My daughter is ill, sorry' });
  expect(await waiting()).toBe(before + 1);
});

it('the same answer from two mailboxes is one, and one that is the whole of a mail is taken too', async () => {
  const { task } = await meet();
  await mailed();
  const event = eventOf(sent()[0]);
  const messageId = `<twice.${task.id}@padariasol.example>`;
  const entries = async (): Promise<number> =>
    (await pell.call('GET /api/ledger', { query: { personId: state.ana, q: 'accepted trial' } })).body.items
      .length;
  const before = await entries();
  await answer(event, 'accepted', { messageId, comment: 'Fine' });
  await answer(event, 'accepted', { messageId, comment: 'Fine' });
  expect(await entries()).toBe(before + 1);
  const file = writeCalendar(
    [{ ...event, attendees: [{ email: ANA, name: '', answer: 'declined' }], stamp: '2026-11-25T11:00:00Z' }],
    'REPLY',
  );
  const raw = [
    `From: ${ANA}`,
    'To: pell@wharfside.example',
    'Subject: Declined',
    `Message-ID: <alone.${task.id}@padariasol.example>`,
    'MIME-Version: 1.0',
    'Content-Type: multipart/alternative; boundary=b',
    '',
    '--b',
    'Content-Type: text/plain',
    '',
    'Sorry',
    '--b',
    'Content-Type: text/calendar; charset=utf-8; method=REPLY',
    'Content-Transfer-Encoding: base64',
    '',
    Buffer.from(file).toString('base64'),
    '--b--',
    '',
  ].join('\r\n');
  await post({
    envelope: { from: ANA, to: 'pell@wharfside.example' },
    raw,
  });
  expect((await detail(pell, task.id)).people[0]).toMatchObject({ answer: 'declined', comment: 'Sorry' });
});

it('a calendar file that is no answer of ours, or larger than one, is a message as any other', async () => {
  const { task } = await meet();
  await mailed();
  const event = eventOf(sent()[0]);
  const before = await waiting();
  await answer({ ...event, uid: 'somebody-else@calendar.example' }, 'accepted');
  await answer(event, 'accepted', { notes: 'x'.repeat(80_000) });
  await answer(event, 'accepted', { uid: `meeting.${crypto.randomUUID()}@127.0.0.1` });
  expect(await waiting()).toBe(before + 3);
  expect(await peopleOf(task.id)).toEqual([['Ana Silva', 'waiting', 'yes']]);
});

it('another time that they propose stands beside them', async () => {
  const { task } = await meet();
  await mailed();
  await answer(eventOf(sent()[0]), 'tentative', {
    method: 'COUNTER',
    start: '2026-12-04T14:00:00Z',
    end: '2026-12-04T15:00:00Z',
  });
  expect((await detail(pell, task.id)).people[0]).toMatchObject({
    answer: 'tentative',
    proposes: { start: '2026-12-04T14:00:00.000Z', end: '2026-12-04T15:00:00.000Z' },
  });
  expect(await noticesOf(pell)).toEqual([['coming', 'Trial ride', 'Ana Silva proposes another time']]);
});
