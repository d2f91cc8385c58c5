import { saying } from '../testing/saying';
import { useHouse, mail, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person, company, enter, headlines } = saying(pell);
const undo = (id: string | null | undefined, by = pell) =>
  by.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const detail = async (id: string, by = pell) =>
  (await by.call('GET /api/cases/:id', { params: { id } })).body;
const change = async (id: string, body: Record<string, unknown>, by: Client = pell) =>
  by.call('PATCH /api/cases/:id', { params: { id }, body: { version: (await detail(id)).version, ...body } });
const open = (body: Record<string, unknown>, by = pell) => by.call('POST /api/cases', { body });
const list = async (query: Record<string, string>, by = pell) =>
  (await by.call('GET /api/cases', { query })).body.items;

beforeEach(() => {
  house.tools.now = () => new Date('2026-11-26T10:00:00Z');
});
const at = (iso: string): void => {
  house.tools.now = () => new Date(iso);
};
const said = { kind: 'mail', side: 'ours' };

it('a case has what was promised by its urgency, in working hours, and stands where the last word leaves it', async () => {
  const ana = await person('Ana Flat', await company('Flat Tyres'));
  const { id } = (await open({ title: 'Two flat tyres', personId: ana, urgency: 'urgent' })).body;
  expect(await detail(id)).toMatchObject({
    state: 'new',
    dueAt: '2026-11-26T12:00:00.000Z',
    solveBy: '2026-11-27T09:30:00.000Z',
    late: null,
    company: { name: 'Flat Tyres' },
    cameBy: 'other',
    owner: { name: 'Pell Garrick' },
  });
  at('2026-11-26T12:30:00Z');
  expect(await detail(id)).toMatchObject({ state: 'new', late: 'answer' });
  await enter(
    pell,
    { kind: 'call', side: 'ours', outcome: 'voicemail', headline: 'Tried her' },
    { caseId: id },
  );
  await enter(pell, { headline: 'Tyres are in store' }, { caseId: id });
  expect((await detail(id)).state).toBe('new');
  await enter(pell, { ...said, headline: 'Can the mechanic come tomorrow at nine?' }, { caseId: id });
  expect(await detail(id)).toMatchObject({
    state: 'theirs',
    answeredAt: '2026-11-26T12:30:00.000Z',
    dueAt: '2026-11-27T09:30:00.000Z',
  });
  at('2026-11-26T14:00:00Z');
  await enter(
    pell,
    { kind: 'mail', side: 'theirs', headline: 'Could you tell me when exactly?' },
    { caseId: id },
  );
  expect((await detail(id)).state).toBe('ours');
  const turn = async () => (await pell.call('GET /api/ledger', { query: { caseId: id } })).body.turn.turn;
  expect(await turn()).toBe('ours');
  // What happens at one moment has no order.
  at('2026-11-26T14:05:00Z');
  await pell.call('POST /api/ledger/answered', { body: { caseId: id } });
  expect([await turn(), (await detail(id)).state]).toEqual(['nobody', 'answered']);
  expect(await headlines({ personId: ana })).toEqual(
    expect.arrayContaining([
      'Case opened: Two flat tyres',
      'Could you tell me when exactly?',
      'Can the mechanic come tomorrow at nine?',
    ]),
  );
});

it('it is solved with how, opened again, and each stands in the ledger and is undone', async () => {
  const ana = await person('Ana Solved');
  const { id } = (await open({ title: 'A loose chain', personId: ana })).body;
  const solved = await change(id, { solved: true, solution: 'New link' });
  expect(await detail(id)).toMatchObject({ state: 'solved', late: null, solution: 'New link' });
  expect(await headlines({ caseId: id })).toContain('Case solved: A loose chain');
  expect((await list({ personId: ana })).length).toBe(0);
  expect((await list({ personId: ana, state: 'solved' })).length).toBe(1);
  await undo(solved.body.eventId);
  expect((await detail(id)).state).toBe('new');
  await change(id, { solved: true });
  await change(id, { solved: false, because: 'It fell off again' });
  const { items } = (await pell.call('GET /api/ledger', { query: { caseId: id } })).body;
  expect(items.find(({ headline }) => headline.startsWith('Case open again'))).toMatchObject({
    body: 'It fell off again',
  });
});

it('a mail is filed as a case; what follows in its exchange goes on it, and opens it again', async () => {
  const thread = (n: number, body: string): string =>
    mail({
      from: 'Bea Broken <bea@broken.example>',
      subject: n > 1 ? 'Re: Broken cold box' : 'Broken cold box',
      body,
    }).replace(
      /Message-ID: <[^>]*>/,
      `Message-ID: <box-${n}@broken.example>${n > 1 ? `\r\nIn-Reply-To: <box-1@broken.example>\r\nReferences: <box-1@broken.example>` : ''}`,
    );
  const file = async (raw: string, body: Record<string, unknown>) => {
    const capture = (await pell.call('POST /api/captures', { raw })).body;
    return (await pell.call('POST /api/captures/:id/filing', { params: { id: capture.id }, body })).body;
  };
  const first = await file(thread(1, 'The cold box no longer cools. Please help us today.'), {
    person: 'new',
    as: 'case',
    urgency: 'urgent',
  });
  expect(first).toMatchObject({ lead: null, deal: null, case: { name: 'Broken cold box' } });
  const id = first.case?.id ?? '';
  expect(await detail(id)).toMatchObject({
    cameBy: 'mail',
    openedAt: '2026-11-23T16:40:00.000Z',
    state: 'new',
    person: { name: 'Bea Broken' },
    words: expect.stringContaining('no longer cools') as string,
  });
  await change(id, { solved: true, solution: 'A fuse' });
  const away = thread(3, 'I am out of the office until Monday.').replace(
    'Subject:',
    'Auto-Submitted: auto-replied\r\nSubject:',
  );
  expect(await file(away, {})).toMatchObject({ lead: null, case: { id } });
  expect((await detail(id)).solvedAt).not.toBeNull();
  const second = await file(thread(2, 'It is broken again, could you look at it?'), {});
  expect(second).toMatchObject({ lead: null, case: { id } });
  expect((await detail(id)).solvedAt).toBeNull();
  expect(await headlines({ caseId: id, fold: 'no' })).toEqual(
    expect.arrayContaining(['Re: Broken cold box']),
  );
  await undo(second.eventId);
  expect((await detail(id)).solvedAt).not.toBeNull();
  await undo(first.eventId).then(({ status }) => expect(status).toBe(409));
});

it('a capture goes on a case or a project by name, and a person with a case can still bring a lead', async () => {
  const ana = await person('Ana Both');
  const { id } = (await open({ title: 'A squeak', personId: ana })).body;
  const project = (await pell.call('POST /api/projects', { body: { title: 'Racks for Ana' } })).body.id;
  const file = async (body: Record<string, unknown>) => {
    const raw = mail({ from: 'Ana Both <ana@both.example>', subject: `About it ${Math.random()}` });
    const capture = (await pell.call('POST /api/captures', { raw })).body;
    return pell.call('POST /api/captures/:id/filing', { params: { id: capture.id }, body });
  };
  expect((await file({ person: ana, case: id, project })).body).toMatchObject({
    case: { id },
    project: { id: project },
    lead: null,
  });
  expect((await file({ person: ana, case: id, lead: 'new' })).body).toMatchObject({
    case: { id },
    lead: { name: expect.any(String) as string },
  });
  expect((await file({ person: ana, case: crypto.randomUUID() })).status).toBe(422);
  expect((await file({ person: ana, project: crypto.randomUUID() })).status).toBe(422);
});

it('a case opened from a call or a form says so, and counts from when it was told', async () => {
  const ana = await person('Ana Rang');
  const entry = await enter(
    pell,
    { kind: 'call', side: 'theirs', outcome: 'spoke', headline: 'The lock jams', at: '2026-11-26T09:00:00Z' },
    { personId: ana },
  );
  const { id } = (
    await open({ title: 'The lock jams', personId: ana, entryId: entry.body.id, urgency: 'urgent' })
  ).body;
  expect(await detail(id)).toMatchObject({ cameBy: 'call', dueAt: '2026-11-26T11:00:00.000Z', state: 'new' });
  expect(await headlines({ caseId: id })).toEqual(['The lock jams']);
});

it('another urgency promises anew; what was promised before stays when the promises change', async () => {
  const ana = await person('Ana Promise');
  const { id } = (await open({ title: 'Paint is off', personId: ana, urgency: 'low' })).body;
  expect((await detail(id)).answerBy).toBe('2026-11-27T17:30:00.000Z');
  const promise = (await mara.call('GET /api/case-promises')).body.items.find(
    ({ urgency }) => urgency === 'urgent',
  );
  const set = (by: Client, body: Record<string, unknown>) =>
    by.call('PATCH /api/case-promises/:id', {
      params: { id: promise?.id ?? '' },
      body: { version: promise?.version, ...body },
    });
  expect((await set(pell, { answerHours: 1 })).status).toBe(403);
  expect((await set(mara, { answerHours: 9 })).status).toBe(422);
  expect((await set(mara, { answerHours: 1 })).status).toBe(200);
  expect((await detail(id)).answerBy).toBe('2026-11-27T17:30:00.000Z');
  await change(id, { urgency: 'urgent' });
  expect((await detail(id)).answerBy).toBe('2026-11-26T11:00:00.000Z');
});

it('it is in the round of who looks after it while they wait, and more so once the promise is broken', async () => {
  const ana = await person('Ana Round');
  const { id } = (await open({ title: 'No lights', personId: ana })).body;
  await change(id, { ownerId: (await ines.call('GET /api/session')).body?.id });
  const line = async (by: Client) =>
    (await by.call('GET /api/round', { query: { kind: 'case' } })).body.items.find(
      (one) => one.case?.id === id,
    );
  expect(await line(pell)).toBeUndefined();
  const fresh = await line(ines);
  expect(fresh).toMatchObject({ kind: 'case', case: { name: 'No lights', late: null }, person: { id: ana } });
  at('2026-11-27T16:00:00Z');
  const late = await line(ines);
  expect(late?.case?.late).toBe('answer');
  expect(late?.points).toBeGreaterThan((fresh?.points ?? 0) + 10);
  await enter(ines, { ...said, headline: 'Lights are ordered' }, { caseId: id });
  expect(await line(ines)).toBeUndefined();
  at('2026-12-04T16:00:00Z');
  expect((await line(ines))?.case?.late).toBe('solution');
  await change(id, { solved: true }, ines);
  expect(await line(ines)).toBeUndefined();
});

it('a case of nobody is refused; one of a record that is hidden is hidden', async () => {
  expect((await open({ title: 'Nobody' })).status).toBe(422);
  expect((await open({ title: 'No', personId: crypto.randomUUID() })).status).toBe(422);
  const ana = await person('Ana Secret');
  const { id } = (await open({ title: 'Quokka trouble', personId: ana })).body;
  expect((await list({ q: 'quokk' }, ines)).length).toBe(1);
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id: ana },
    body: { visibility: 'owner' },
  });
  expect(await list({ q: 'quokk' }, ines)).toEqual([]);
  expect((await ines.call('GET /api/search', { query: { q: 'quokka' } })).body.items).toEqual([]);
  expect((await ines.call('GET /api/cases/:id', { params: { id } })).status).toBe(404);
  expect((await change(id, { personId: null, companyId: null })).status).toBe(422);
});

it('two people who become one keep their cases; pages of cases follow each other', async () => {
  const [one, two] = [await person('Cyd Double'), await person('Cyd Double')];
  await open({ title: 'First trouble', personId: one });
  await open({ title: 'Second trouble', personId: two });
  await pell.call('POST /api/merges', { body: { kind: 'person', survivorId: one, mergedIds: [two] } });
  expect((await list({ personId: one })).map(({ title }) => title).sort()).toEqual([
    'First trouble',
    'Second trouble',
  ]);
  for (const sort of ['dueAt', 'openedAt', 'title']) {
    const seen: string[] = [];
    let cursor: string | undefined;
    do {
      const { body } = await pell.call('GET /api/cases', {
        query: { state: 'all', sort, limit: '3', ...(cursor ? { cursor } : {}) },
      });
      seen.push(...body.items.map(({ id }) => id));
      cursor = body.next ?? undefined;
    } while (cursor);
    expect([sort, seen.length, new Set(seen).size]).toEqual([sort, await house.count('cases'), seen.length]);
  }
});
