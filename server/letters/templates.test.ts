import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);
const { begin, change, sent } = lettering(house);

const add = (by: typeof pell, more: object = {}) =>
  by.call('POST /api/letter-templates', {
    body: {
      name: 'Thank you',
      subject: 'Thank you, {{ person.first_name }}',
      html: '<p>Dear {{ person.first_name }},</p><p>thank you for {{ person.background | default: "your visit" }}.</p><p>{{ me.first_name }}</p>',
      ...more,
    },
  });
const list = async (by: typeof pell) => (await by.call('GET /api/letter-templates', {})).body.items;
const useIt = (letter: { id: string; version: number }, templateId: string) =>
  pell.call('POST /api/letters/:id/template', {
    params: { id: letter.id },
    body: { version: letter.version, templateId },
  });

it('fills a template in for whom the letter is to, above what is quoted and below what was written', async () => {
  const { id } = (await add(pell)).body;
  const personId = await person('Ana Leça');
  const letter = await begin(pell, { about: { personId }, templateId: id });
  expect(letter).toMatchObject({
    subject: 'Thank you, Ana',
    html: '<p>Dear Ana,</p><p>thank you for your visit.</p><p>Pell</p>',
    gaps: [],
    templateId: id,
  });
  const written = await change(pell, await begin(pell, { about: { personId } }), {
    subject: 'My own',
    html: '<p>Before.</p><p>Ana wrote on Monday:</p><blockquote><p>Hi</p></blockquote>',
  });
  expect((await useIt(written, id)).body.letter).toMatchObject({
    subject: 'My own',
    html: expect.stringMatching(/^<p>Before\.<\/p><p>Dear Ana,.*<p>Pell<\/p><p>Ana wrote on Monday:<\/p>/),
  });
});

it('names what is missing for this person, and fills in no field of anybody else', async () => {
  const { id } = (await add(pell, { html: '<p>{{ company.name }} {{ deal.title }}</p>', subject: '' })).body;
  const personId = await person('<b>Bold</b> Bob');
  const letter = await begin(pell, { about: { personId }, templateId: id });
  expect(letter.gaps).toEqual(['Company name', 'Deal title']);
  const named = (await add(pell, { html: '<p>{{ person.name }}</p>', subject: '' })).body;
  expect((await begin(pell, { about: { personId }, templateId: named.id })).html).toBe(
    '<p>&lt;b&gt;Bold&lt;/b&gt; Bob</p>',
  );
});

it('shows a template as it reads for one person, or what is wrong with it', async () => {
  const personId = await person('Cleo Check');
  const check = async (html: string, about = { personId }) =>
    (
      await pell.call('POST /api/letter-templates/check', {
        body: { subject: 'Hi {{ person.first_name }}', html, about },
      })
    ).body;
  expect(await check('<p>{{ person.first_name }}, {{ person.job_title }}</p>')).toEqual({
    problems: [],
    subject: 'Hi Cleo',
    html: '<p>Cleo, {{ person.job_title }}</p>',
    missing: ['Job title'],
  });
  expect((await check('<p>{% for a in b %}x{% endfor %}{{ nothing.here }}</p>')).problems).toEqual([
    '“{% for %}” cannot be used in a letter.',
  ]);
  expect((await check('<p>{{ nothing.here }}</p>')).problems).toEqual(['There is no field “nothing.here”.']);
  expect((await add(pell, { html: '<p>{{ nothing.here }}</p>' })).body.fields).toEqual({
    html: 'There is no field “nothing.here”.',
  });
});

it('offers the fields of all kinds of records', async () => {
  const { items } = (await pell.call('GET /api/letter-fields', {})).body;
  expect(items).toContainEqual({ path: 'deal.value', label: 'Deal value', kind: 'deal' });
  expect(items).toContainEqual({ path: 'me.first_name', label: 'Your first name', kind: 'me' });
});

it('own templates are one’s own, those of the team are everybody’s', async () => {
  const own = (await add(pell, { name: 'Own', shortcut: 'own' })).body.id;
  const team = (await add(pell, { name: 'Team', shared: true, shortcut: 'team' })).body.id;
  expect((await list(ines)).map(({ name }) => name)).toEqual(['Team']);
  const patch = (by: typeof pell, id: string, body: object) =>
    by.call('PATCH /api/letter-templates/:id', { params: { id }, body });
  expect((await patch(ines, own, { version: 1, name: 'Taken' })).status).toBe(404);
  expect((await patch(ines, team, { version: 1, name: 'Team, better' })).status).toBe(200);
  expect((await patch(pell, team, { version: 1, name: 'Older' })).status).toBe(409);
  expect((await patch(ines, team, { version: 2, shared: false })).status).toBe(403);
  expect((await ines.call('DELETE /api/letter-templates/:id', { params: { id: team } })).status).toBe(409);
  expect((await ines.call('DELETE /api/letter-templates/:id', { params: { id: own } })).status).toBe(404);
  const { body } = await mara.call('DELETE /api/letter-templates/:id', { params: { id: team } });
  await mara.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect((await list(ines)).map(({ name }) => name)).toEqual(['Team, better']);
});

it('a shortcut brings one template only; one’s own and the team’s may be the same word', async () => {
  await add(pell, { name: 'One', shortcut: 'bye' });
  expect((await add(pell, { name: 'Two', shortcut: 'BYE' })).body.fields).toEqual({ shortcut: 'is taken' });
  expect((await add(pell, { name: 'Two', shortcut: 'bye', shared: true })).status).toBe(201);
  expect((await add(ines, { name: 'Three', shortcut: 'bye', shared: true })).status).toBe(422);
  expect((await add(ines, { name: 'Four', shortcut: 'bye' })).status).toBe(201);
  expect((await add(ines, { name: 'Five', shortcut: 'two words' })).status).toBe(422);
});

it('counts how often letters made from a template were answered, of the whole team, with the interval', async () => {
  const { id } = (await add(pell, { name: 'Counted', shared: true, html: '<p>Hi</p>', subject: 'Hi' })).body;
  for (let count = 0; count < 5; count++)
    await sent(count % 2 ? pell : ines, {
      templateId: id,
      recipients: [{ way: 'to', address: `reader${count}@counted.example` }],
    });
  await house.sequelize.query(
    "UPDATE letter_recipients SET answered_at = now() WHERE address IN ('reader1@counted.example', 'reader2@counted.example')",
  );
  const found = (await list(pell)).find((one) => one.id === id);
  // Wilson for 2 of 5, worked by hand: 0.118 to 0.769.
  expect(found?.answered).toMatchObject({ sent: 5, answered: 2 });
  expect([found?.answered.low, found?.answered.high].map((share) => share?.toFixed(3))).toEqual([
    '0.118',
    '0.769',
  ]);
  await ines.call('PATCH /api/letter-templates/:id', {
    params: { id },
    body: { version: 1, html: '<p>Changed</p>' },
  });
  const { body } = await pell.call('DELETE /api/letter-templates/:id', { params: { id } });
  expect(body.eventId).toBeTruthy();
  expect(await house.count("letters WHERE subject = 'Hello' AND state = 'sent'")).toBe(5);
});
