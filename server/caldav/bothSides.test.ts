import { calendarActs, eventAt, inDays, useCalendarHouse } from '../testing/caldav';

const use = useCalendarHouse();
const { add, calendar, fileOf, must, patch, pellId } = calendarActs(use);

beforeAll(async () => {
  await use.link();
});

it('one’s own appointments stay one’s own while somebody else does one’s work', async () => {
  await use.radicale.put(
    'h.ics',
    eventAt('h@phone.example', 'Optician', inDays(28, 8).ics, inDays(28, 9).ics),
  );
  await use.sync();
  await add('Deliver the rack', inDays(27, 9));
  const from = await pellId();
  const preview = await use.pell.call('GET /api/handovers/preview', { query: { from } });
  expect(preview.body.first.map(({ name }) => name)).toEqual(['Deliver the rack']);
  const toId = (await use.mara.call('GET /api/session')).body.id as string;
  const given = await use.pell.call('POST /api/handovers', {
    body: { fromId: from, toId, tasks: true, leads: false },
  });
  expect(given.status).toBe(201);
  await use.sync();
  expect(await must('Optician')).toMatchObject({ assignee: { name: 'Pell Garrick' } });
  expect(await use.radicale.get('h.ics')).toContain('Optician');
  await use.pell.call('POST /api/events/:id/undo', { params: { id: given.body.eventId ?? '' } });
});

it('what was there only is done by itself once it is over, and asks nobody what came of it', async () => {
  await use.radicale.put('o.ics', eventAt('o@phone.example', 'Haircut', inDays(1, 8).ics, inDays(1, 9).ics));
  await use.sync();
  const { taskId } = await must('Haircut');
  const { now } = use.house.tools;
  use.house.tools.now = () => new Date(inDays(1, 10).iso);
  await use.sync();
  use.house.tools.now = now;
  expect((await use.pell.call('GET /api/tasks/:id', { params: { id: taskId } })).body).toMatchObject({
    doneAt: inDays(1, 9).iso,
    doneBy: 'Pell Garrick',
  });
});

it('different parts changed on both sides are brought together; the same part is asked, and neither is lost', async () => {
  const { id } = await add('Contract', inDays(16, 10));
  await use.sync();
  const name = `meeting.${id}@127.0.0.1.ics`;
  const file = (await use.radicale.get(name)) ?? '';
  await use.radicale.put(name, file.replace('SUMMARY:Contract', 'SUMMARY:Contract\\, second reading'));
  await patch(id, { place: 'Room 2' });
  expect((await use.sync()).clashes).toEqual([]);
  expect(await must('Contract, second reading')).toMatchObject({ place: 'Room 2' });
  expect(await use.radicale.get(name)).toContain('LOCATION:Room 2');

  const merged = (await use.radicale.get(name)) ?? '';
  const moved = (hour: number) => merged.replace(/DTSTART:\w+/, `DTSTART:${inDays(16, hour).ics}`);
  await use.radicale.put(name, moved(9));
  await patch(id, { dueAt: inDays(17, 14).iso });
  const { clashes } = await use.sync();
  expect(clashes).toMatchObject([
    { taskId: id, parts: ['time'], here: { start: inDays(17, 14).iso }, there: { start: inDays(16, 9).iso } },
  ]);
  await use.sync();
  expect(await use.radicale.get(name)).toContain(`DTSTART:${inDays(16, 9).ics}`);
  expect(await must('Contract, second reading')).toMatchObject({ start: inDays(17, 14).iso });
  const decide = (keep: 'here' | 'there') =>
    use.pell.call('POST /api/tasks/:id/calendar', { params: { id }, body: { keep } });
  expect((await decide('there')).status).toBe(200);
  expect((await use.sync()).clashes).toEqual([]);
  expect(await must('Contract, second reading')).toMatchObject({ start: inDays(16, 9).iso });
  expect((await decide('here')).status).toBe(409);

  await use.radicale.put(name, moved(8));
  await patch(id, { dueAt: inDays(18, 14).iso });
  await use.sync();
  await decide('here');
  await use.sync();
  expect(await use.radicale.get(name)).toContain(`DTSTART:${inDays(18, 14).ics}`);
});

it('one removed there and changed here is asked, one removed here and changed there comes back', async () => {
  const { id } = await add('Hand-over', inDays(19, 10));
  await use.sync();
  await use.radicale.remove(`meeting.${id}@127.0.0.1.ics`);
  await patch(id, { place: 'Yard' });
  expect((await use.sync()).clashes).toMatchObject([{ taskId: id, there: null }]);
  await use.pell.call('POST /api/tasks/:id/calendar', { params: { id }, body: { keep: 'here' } });
  await use.sync();
  expect(await fileOf(id)).toContain('LOCATION:Yard');

  await use.radicale.put(
    'g.ics',
    eventAt('g@phone.example', 'Garage', inDays(21, 9).ics, inDays(21, 10).ics),
  );
  await use.sync();
  await use.pell.call('DELETE /api/tasks/:id', { params: { id: (await must('Garage')).taskId } });
  await use.radicale.put(
    'g.ics',
    eventAt('g@phone.example', 'Garage', inDays(22, 9).ics, inDays(22, 10).ics),
  );
  await use.sync();
  expect(await must('Garage')).toMatchObject({ start: inDays(22, 9).iso });
});

it('a meeting that another installation named is no meeting of ours', async () => {
  const uid = `meeting.${crypto.randomUUID()}@elsewhere.example`;
  await use.radicale.put('i.ics', eventAt(uid, 'Their talk', inDays(23, 9).ics, inDays(23, 10).ics));
  await use.sync();
  await use.sync();
  expect(await must('Their talk')).toMatchObject({ start: inDays(23, 9).iso });
  expect(await use.radicale.get('i.ics')).toContain('Their talk');
});

it('given up and taken on again, nothing comes twice', async () => {
  const before = (await calendar()).map(({ title, start }) => [title, start]);
  const files = await use.radicale.files();
  const { id, url } = await use.sync();
  expect((await use.pell.call('DELETE /api/calendar/links/:id', { params: { id } })).status).toBe(200);
  expect((await use.pell.call('GET /api/calendar/links')).body.items).toEqual([]);
  await use.link(url);
  await use.sync();
  expect((await calendar()).map(({ title, start }) => [title, start])).toEqual(before);
  expect(await use.radicale.files()).toEqual(files);
});

it('people with a number go into the address book that is chosen, and go again', async () => {
  const { id, version } = await use.sync();
  const at = { params: { id } };
  const wrong = await use.pell.call('PATCH /api/calendar/links/:id', {
    ...at,
    body: { version, addressBookUrl: 'http://127.0.0.1:1/else/' },
  });
  expect(wrong.status).toBe(422);
  const { body } = await use.pell.call('POST /api/people', {
    body: {
      fullName: 'Bea Lund',
      email: 'bea@lund.example',
      phone: '+44 20 7946 0123',
      ownerId: await pellId(),
    },
  });
  await use.pell.call('PATCH /api/calendar/links/:id', {
    ...at,
    body: { version, addressBookUrl: use.radicale.book },
  });
  expect(await use.sync()).toMatchObject({ cards: 1, addressBookUrl: use.radicale.book });
  const name = `person.${body.person.id}.vcf`;
  expect(await use.radicale.files(use.radicale.book)).toEqual([name]);
  const card = await (await use.radicale.ask('GET', `${use.radicale.book}${name}`)).text();
  expect(card).toContain('FN:Bea Lund');
  expect(card).toContain('+442079460123');
  const { body: dossier } = await use.pell.call('GET /api/people/:id', { params: { id: body.person.id } });
  await use.pell.call('PATCH /api/people/:id', {
    params: { id: body.person.id },
    body: { version: dossier.version, active: false },
  });
  expect(await use.sync()).toMatchObject({ cards: 0 });
  expect(await use.radicale.files(use.radicale.book)).toEqual([]);
});
