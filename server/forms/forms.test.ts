import { useHouse } from '../testing/harness';
import { HONEYPOT } from './page';

const { house, pell, mara } = useHouse();

const FIELDS = [
  { name: 'name', label: 'Your name', field: 'fullName', kind: 'line', required: true },
  { name: 'email', label: 'Your email', field: 'email', kind: 'line', required: true },
  { name: 'what', label: 'What do you need?', field: null, kind: 'text' },
  { name: 'size', label: 'How many?', field: null, kind: 'choice', options: ['1', '2 to 5'] },
];
let serial = 0;
const design = async (over: object = {}) =>
  (
    await mara.call('POST /api/forms', {
      body: { name: 'Ask us', slug: `ask-${++serial}`, kind: 'public', fields: FIELDS, ...over },
    })
  ).body.form;
const send = (slug: string, answers: Record<string, string>, ip = `10.1.1.${++serial % 250}`) =>
  house.app.inject({
    method: 'POST',
    url: `/f/${slug}`,
    remoteAddress: ip,
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
    payload: new URLSearchParams(answers).toString(),
  });
const waiting = async () => (await pell.call('GET /api/captures')).body.items;

describe('a public form', () => {
  it('is a page without script, refuses what is wrong beside the field, and thanks', async () => {
    const form = await design({ thanks: 'We answer soon.' });
    const page = await house.app.inject({ url: `/f/${form.slug}` });
    expect(page.body).toContain('name="email"');
    expect(page.body).not.toContain('<script');
    expect(page.headers['content-security-policy']).toContain('frame-ancestors *');
    const wrong = await send(form.slug, { name: 'Tom <b>Bell</b>', email: 'nowhere', size: '99' });
    expect([
      wrong.statusCode,
      wrong.body.includes('Your email is not an email address'),
      wrong.body.includes('How many? is not one of the choices'),
    ]).toEqual([422, true, true]);
    expect(wrong.body).not.toContain('<b>Bell');
    const sent = await send(form.slug, {
      name: 'Tom Bell',
      email: 'tom@bell.example',
      what: 'Could you send a quote for four long bikes?',
    });
    expect([sent.statusCode, sent.body.includes('We answer soon.')]).toEqual([200, true]);
    expect((await waiting())[0]).toMatchObject({ kind: 'form', from: 'Tom Bell' });
  });
  it('thanks a program that falls for the trap, and keeps nothing', async () => {
    const form = await design();
    const before = await house.count('captures');
    expect(
      (await send(form.slug, { name: 'Bot', email: 'bot@spam.example', [HONEYPOT]: 'http://spam.example' }))
        .statusCode,
    ).toBe(200);
    expect(await house.count('captures')).toBe(before);
  });
  it('slows down whoever sends too much', async () => {
    const form = await design();
    const codes: number[] = [];
    for (let count = 0; count < 12; count++)
      codes.push(
        (await send(form.slug, { name: 'A B', email: `a${count}@b.example` }, '10.9.9.9')).statusCode,
      );
    expect(codes.slice(0, 10)).toEqual(Array(10).fill(200));
    expect(codes.at(-1)).toBe(429);
  });
  it('asks by mail before an address counts as agreed', async () => {
    const form = await design({
      consent: 'You may write to me.',
      filesItself: true,
      tags: ['web'],
      source: 'website',
    });
    await send(form.slug, { name: 'Uma Reed', email: 'uma@reed.example', agreed: 'yes' });
    const { body } = await pell.call('GET /api/people', { query: { q: 'Uma Reed' } });
    const id = body.items[0]?.id ?? '';
    const consent = async () =>
      (await pell.call('GET /api/people/:id', { params: { id } })).body.consents.find(
        ({ purpose }) => purpose === 'News',
      )?.state;
    expect(await consent()).toBe('unconfirmed');
    await house.work();
    const mail = house.mails.find((mail) => mail.to === 'uma@reed.example');
    const link = /http:\/\/\S+(\/f\/confirm\/\S+)/.exec(mail?.text ?? '')?.[1] ?? '';
    expect((await house.app.inject({ url: '/f/confirm/not-a-token' })).statusCode).toBe(404);
    // A program that looks through mail opens the link; only the button on its page agrees.
    const page = await house.app.inject({ url: link });
    expect([page.statusCode, page.body]).toEqual([200, expect.stringContaining('<button type="submit">')]);
    expect(await consent()).toBe('unconfirmed');
    expect((await house.app.inject({ method: 'POST', url: link })).statusCode).toBe(200);
    expect(await consent()).toBe('agreed');
    const { body: leads } = await pell.call('GET /api/leads');
    expect(leads.items.find((lead) => lead.person.id === id)).toMatchObject({ source: 'website' });
    expect(
      (await pell.call('GET /api/people', { query: { tag: 'web' } })).body.items.map((item) => item.fullName),
    ).toEqual(['Uma Reed']);
  });
  it('files by itself only when it is sure', async () => {
    const form = await design({ filesItself: true });
    await pell.call('POST /api/people', { body: { fullName: 'Vera Lund', companyName: 'Lund' } });
    await send(form.slug, { name: 'Vera Lund', email: 'vera@elsewhere.example' });
    expect((await waiting())[0]).toMatchObject({ from: 'Vera Lund', state: 'waiting' });
    const asks = await design({ filesItself: true, recognise: 'ask' });
    await send(asks.slug, { name: 'Wim Oost', email: 'wim@oost.example' });
    expect((await waiting())[0]).toMatchObject({ from: 'Wim Oost' });
  });
  it('is gone when it is retired, and its snippet with it', async () => {
    const form = await design();
    const snippet = await house.app.inject({ url: `/f/${form.slug}/embed.js` });
    expect([snippet.headers['content-type'], snippet.body.includes(`/f/${form.slug}`)]).toEqual([
      'text/javascript; charset=utf-8',
      true,
    ]);
    await mara.call('PATCH /api/forms/:id', {
      params: { id: form.id },
      body: { version: form.version, active: false },
    });
    expect((await house.app.inject({ url: `/f/${form.slug}` })).statusCode).toBe(404);
    expect((await house.app.inject({ url: `/f/${form.slug}/embed.js` })).statusCode).toBe(404);
  });
});

it('a version is changed once: the second of two at one time is told what stands there', async () => {
  const form = await design();
  const change = (name: string) =>
    mara.call('PATCH /api/forms/:id', { params: { id: form.id }, body: { version: form.version, name } });
  const answers = await Promise.all([change('One'), change('Two')]);
  expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
});

it('what a form says of its people holds also when a submission is filed from Arrivals, and it warms them', async () => {
  const { list } = (await pell.call('POST /api/lists', { body: { name: 'From the web' } })).body;
  const team = (await pell.call('GET /api/users')).body.items;
  const form = await design({
    tags: ['web'],
    source: 'website',
    listId: list.id,
    ownerId: team.find(({ name }) => name.startsWith('Mara'))?.id,
    leadStatus: 'working',
  });
  await send(form.slug, { name: 'Vic Settings', email: 'vic@settings.example' });
  const capture = (await waiting()).find(({ from }) => from === 'Vic Settings');
  const { body: filed } = await pell.call('POST /api/captures/:id/filing', {
    params: { id: capture?.id ?? '' },
    body: {},
  });
  const { body: lead } = await pell.call('GET /api/leads/:id', { params: { id: filed.lead?.id ?? '' } });
  expect(lead).toMatchObject({ source: 'website', status: 'working', owner: { name: 'Mara Quill' } });
  const { body: person } = await pell.call('GET /api/people/:id', { params: { id: filed.person.id } });
  expect([person.tags, person.lists.map(({ name }) => name)]).toEqual([['web'], ['From the web']]);
  const { body: judged } = await pell.call('GET /api/leads/:id/judgement', { params: { id: lead.id } });
  expect(judged.warmth.score).toBeGreaterThan(0);
  expect(judged.warmth.parts.map(({ kind }) => kind)).toContain('filled in a form');
});

it('is listed and shown as it was designed, with the submissions of it alone', async () => {
  const [asked, other] = [await design({ kind: 'desk', filesItself: true }), await design({ kind: 'desk' })];
  const listed = (await pell.call('GET /api/forms')).body.items;
  expect(listed.map(({ id }) => id)).toEqual(expect.arrayContaining([asked.id, other.id]));
  const { body: shown } = await pell.call('GET /api/forms/:id', { params: { id: asked.id } });
  expect(shown.fields.map(({ name }) => name)).toEqual(FIELDS.map(({ name }) => name));
  await pell.call('POST /api/forms/:id/submissions', {
    params: { id: asked.id },
    body: { answers: { name: 'Gil Asked', email: 'gil@asked.example' } },
  });
  const submissions = async (formId: string) =>
    (await pell.call('GET /api/submissions', { query: { formId } })).body.items.map(({ form }) => form.id);
  expect([await submissions(asked.id), await submissions(other.id)]).toEqual([[asked.id], []]);
});

it('keeps what a change does not name', async () => {
  const form = await design({ tags: ['fair'], thanks: 'See you soon.', recognise: 'both' });
  const { body } = await mara.call('PATCH /api/forms/:id', {
    params: { id: form.id },
    body: { version: form.version, name: 'Renamed' },
  });
  expect(body.form).toMatchObject({
    name: 'Renamed',
    tags: ['fair'],
    thanks: 'See you soon.',
    recognise: 'both',
  });
});

it('a form that creates a case opens it by itself for somebody it knows, and for its owner, and waits where it does not', async () => {
  const ownerId = (await pell.call('GET /api/session')).body.id;
  const form = await design({ name: 'Something is broken', filesItself: true, leadStatus: 'case', ownerId });
  const { body } = await pell.call('POST /api/people', {
    body: { fullName: 'Rosa Lind', email: 'rosa@lind.example' },
  });
  const what = 'The front wheel came off on the bridge.';
  const leads = await house.count('leads');
  await send(form.slug, { name: 'Rosa Lind', email: 'rosa@lind.example', what });
  const cases = async () =>
    (await pell.call('GET /api/cases', { query: { personId: body.person.id } })).body.items;
  expect(await cases()).toMatchObject([
    { urgency: 'normal', owner: { id: ownerId }, cameBy: 'form', state: 'new' },
  ]);
  const [opened] = await cases();
  const { body: whole } = await pell.call('GET /api/cases/:id', { params: { id: opened?.id ?? '' } });
  expect(whole.words).toContain('front wheel');
  expect(await house.count('leads')).toBe(leads);
  // Where it is to be asked who it is, it waits in Arrivals.
  const before = await house.count('cases');
  await mara.call('PATCH /api/forms/:id', {
    params: { id: form.id },
    body: { version: form.version, recognise: 'ask' },
  });
  await send(form.slug, { name: 'Rosa', email: 'rosa@lind.example', what });
  expect(await house.count('cases')).toBe(before);
  expect((await waiting())[0]).toMatchObject({ kind: 'form', from: 'Rosa' });
});

describe('a desk form', () => {
  it('is kept on the dossier with date and who, for a known person and a new one', async () => {
    const form = await design({ kind: 'desk', filesItself: true, leadStatus: 'none' });
    const { body: made } = await pell.call('POST /api/people', { body: { fullName: 'Known Kim' } });
    const known = await pell.call('POST /api/forms/:id/submissions', {
      params: { id: form.id },
      body: {
        personId: made.person.id,
        answers: { name: 'Known Kim', email: 'kim@known.example', what: 'Rode the long bike.' },
      },
    });
    expect(known.body).toMatchObject({ filed: true, person: { id: made.person.id } });
    const { body: kept } = await pell.call('GET /api/submissions', { query: { personId: made.person.id } });
    expect(kept.items).toMatchObject([
      {
        by: 'Pell Garrick',
        answers: [
          { label: 'Your name', value: 'Known Kim' },
          { label: 'Your email' },
          { value: 'Rode the long bike.' },
        ],
      },
    ]);
    const fresh = await pell.call('POST /api/forms/:id/submissions', {
      params: { id: form.id },
      body: { answers: { name: 'Fresh Finn', email: 'finn@fresh.example' } },
    });
    expect(fresh.body).toMatchObject({ filed: true, person: { name: 'Fresh Finn' } });
  });
  it('says which answers are missing', async () => {
    const form = await design({ kind: 'desk' });
    const answer = await pell.call('POST /api/forms/:id/submissions', {
      params: { id: form.id },
      body: { answers: {} },
    });
    expect([answer.status, answer.body.fields]).toEqual([422, { name: 'is missing', email: 'is missing' }]);
  });
});

it('is designed by managers alone, and not with a name twice or a choice of nothing', async () => {
  const body = { name: 'x', slug: 'x', kind: 'public', fields: FIELDS };
  expect((await pell.call('POST /api/forms', { body })).status).toBe(403);
  expect(
    (await mara.call('POST /api/forms', { body: { ...body, fields: [FIELDS[0], FIELDS[0]] } })).status,
  ).toBe(422);
  expect(
    (await mara.call('POST /api/forms', { body: { ...body, fields: [{ ...FIELDS[3], options: [] }] } }))
      .status,
  ).toBe(422);
  await mara.call('POST /api/forms', { body });
  expect((await mara.call('POST /api/forms', { body })).status).toBe(409);
});
