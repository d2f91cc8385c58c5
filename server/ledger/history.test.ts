import { DateTime } from 'luxon';
import { useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const { pell, ines, mara } = useHouse();
const { person, company, enter, ledger, headlines } = saying(pell);
const versionOf = async (id: string): Promise<number> =>
  (await pell.call('GET /api/people/:id', { params: { id } })).body.version;

describe('what is said with a person', () => {
  it('stands on their company and their deals once, and stays with the company they leave', async () => {
    const [sol, mar] = [await company('Padaria Sol'), await company('Padaria Mar')];
    const id = await person('Ana Silva', sol);
    const deal = await pell.call('POST /api/deals', { body: { title: 'Four bikes', personId: id } });
    const dealId = deal.body.deal.id;
    await enter(pell, { headline: 'Likes the long bike' }, { personId: id });
    for (const about of [{ personId: id }, { companyId: sol }, { dealId }] as Record<string, string>[])
      expect((await headlines(about)).filter((one) => one === 'Likes the long bike')).toHaveLength(1);
    const { people } = (await ledger({ companyId: sol })).items.find(
      (entry) => entry.headline === 'Likes the long bike',
    ) ?? { people: [] };
    expect(people.map((one) => one.name)).toEqual(['Ana Silva']);

    await pell.call('PATCH /api/people/:id', {
      params: { id },
      body: { version: await versionOf(id), companyId: mar },
    });
    await enter(pell, { headline: 'Now buys for Mar' }, { personId: id });
    expect(await headlines({ companyId: sol })).toContain('Likes the long bike');
    expect(await headlines({ companyId: mar })).not.toContain('Likes the long bike');
    expect(await headlines({ companyId: mar })).toContain('Now buys for Mar');
    expect(await headlines({ companyId: sol })).not.toContain('Now buys for Mar');
  });

  it('about one deal does not stand on another', async () => {
    const id = await person('Rui Duarte');
    const make = async (title: string) =>
      (await pell.call('POST /api/deals', { body: { title, personId: id } })).body.deal.id;
    const [bikes, boxes] = [await make('Bikes'), await make('Boxes')];
    await enter(pell, { headline: 'Boxes are too small' }, { dealId: boxes, personId: id });
    expect(await headlines({ dealId: boxes })).toContain('Boxes are too small');
    expect(await headlines({ dealId: bikes })).not.toContain('Boxes are too small');
  });
});

describe('a ledger', () => {
  it('is narrowed by kind, colleague, person, period and words, and knows its months', async () => {
    const firm = await company('Tide Bakery');
    const [ada, bo] = [await person('Ada Tide', firm), await person('Bo Tide', firm)];
    await enter(
      pell,
      { kind: 'visit', side: 'ours', headline: 'Saw the bakehouse', at: '2026-03-31T23:30:00Z' },
      { personId: ada },
    );
    await enter(
      ines,
      { kind: 'call', side: 'ours', headline: 'Rang about crème boxes', at: '2026-08-05T09:00:00Z' },
      { personId: bo },
    );
    await enter(ines, { headline: 'Pays late, 100% sure', at: '2026-09-05T09:00:00Z' }, { companyId: firm });
    const of = (query: Record<string, string>) => headlines({ companyId: firm, ...query });
    expect(await of({})).toEqual(['Pays late, 100% sure', 'Rang about crème boxes', 'Saw the bakehouse']);
    expect(await of({ kind: 'visit' })).toEqual(['Saw the bakehouse']);
    expect(await of({ with: bo })).toEqual(['Rang about crème boxes']);
    const team = (await pell.call('GET /api/users')).body.items as unknown as { id: string; name: string }[];
    const inesId = team.find((one) => one.name === 'Ines Tolland')?.id ?? '';
    expect(await of({ by: inesId })).toEqual(['Pays late, 100% sure', 'Rang about crème boxes']);
    expect(await of({ from: '2026-08-01T00:00:00Z', until: '2026-09-01T00:00:00Z' })).toEqual([
      'Rang about crème boxes',
    ]);
    expect(await of({ q: 'CREME rang' })).toEqual(['Rang about crème boxes']);
    expect(await of({ q: '100%' })).toEqual(['Pays late, 100% sure']);
    expect(await of({ q: '1_0' })).toEqual([]);
    expect(await of({ upTo: '2026-03' })).toEqual([]);
    expect(await of({ upTo: '2026-04' })).toEqual(['Saw the bakehouse']);
    const months = async (query: Record<string, string>) =>
      (await pell.call('GET /api/ledger/months', { query: { companyId: firm, ...query } })).body.items.map(
        ({ month, count }) => `${month} ${count}`,
      );
    // The months are those of the reader’s clock: it is April in London already.
    expect(await months({})).toEqual(['2026-09 1', '2026-08 1', '2026-04 1']);
    expect(await months({ kind: 'visit', with: ada, until: '2026-09-01T00:00:00Z', fold: 'no' })).toEqual([
      '2026-04 1',
    ]);
    expect(await months({ by: inesId, from: '2026-08-01T00:00:00Z', upTo: '2026-08' })).toEqual([
      '2026-08 1',
    ]);
    expect(await months({ q: 'pays', newSince: '2026-01-01T00:00:00Z' })).toEqual(['2026-09 1']);
    expect(await months({ thread: 'none of these' })).toEqual([]);
    for (const about of [{ personId: ada }, { leadId: ada }, { dealId: ada }] as Record<string, string>[])
      expect((await pell.call('GET /api/ledger/months', { query: about })).status).toBe(200);
  });

  it('folds an exchange of mails into its newest, with how many there are', async () => {
    const raw = (at: number, subject: string) =>
      `From: Ida Falk <ida@falk.example>\nTo: pell@wharfside.example\nMessage-ID: <f${at}@falk.example>\n${
        at > 1 ? `References: <f1@falk.example>\nIn-Reply-To: <f1@falk.example>\n` : ''
      }Date: Mon, ${at + 1} Nov 2026 09:00:00 +0000\nSubject: ${subject}\n\nLetter ${at} about the boxes.\n`;
    const file = async (at: number, subject: string, to: Record<string, unknown>) => {
      const { body } = await pell.call('POST /api/captures', { raw: raw(at, subject) });
      return pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: to });
    };
    const filed = await file(1, 'Boxes', { person: 'new' });
    const personId = filed.body.person?.id ?? '';
    for (const at of [2, 3]) await file(at, 'Re: Boxes', { person: personId });
    await enter(pell, { headline: 'Wants three boxes', at: '2026-11-02T12:00:00Z' }, { personId });
    const { items } = await ledger({ personId });
    const mails = items.filter((entry) => entry.kind === 'mail');
    expect(mails.map((entry) => [entry.headline, entry.thread?.count])).toEqual([['Re: Boxes', 3]]);
    const thread = mails[0]?.thread?.id ?? '';
    expect(await headlines({ personId, thread })).toEqual(['Re: Boxes', 'Re: Boxes', 'Boxes']);
    expect(await headlines({ personId, q: 'letter 1' })).toEqual(['Boxes']);
  });

  it('marks what colleagues entered since one looked last, and not what one entered oneself', async () => {
    const id = await person('Vera Novak');
    const look = async (by: typeof pell) =>
      (await by.call('POST /api/looks', { body: { recordId: id } })).body.before;
    expect(await look(pell)).toBeNull();
    await enter(ines, { headline: 'Met her at the fair', at: '2026-10-01T09:00:00Z' }, { personId: id });
    await enter(pell, { headline: 'My own note' }, { personId: id });
    const before = (await look(pell)) ?? '';
    const { items } = await ledger({ personId: id, newSince: before });
    expect(items.map((entry) => [entry.headline, entry.isNew])).toEqual([
      ['My own note', false],
      ['Met her at the fair', true],
    ]);
    const now = (await look(pell)) ?? '';
    expect((await ledger({ personId: id, newSince: now })).items.some((entry) => entry.isNew)).toBe(false);
    expect(await look(ines)).toBeNull();
  });
});

describe('an entry', () => {
  it('is changed by who wrote it, with what it said before, and by nobody else', async () => {
    const id = await person('Kai Lund');
    const entry = (
      await enter(
        pell,
        { kind: 'call', side: 'ours', headline: 'Talked about six bikes', at: '2026-11-02T09:00:00Z' },
        { personId: id },
      )
    ).body.id;
    const change = (by: typeof pell, body: object) =>
      by.call('PATCH /api/ledger/:id', { params: { id: entry }, body });
    expect((await change(ines, { headline: 'Wants sixty bikes' })).status).toBe(403);
    expect((await change(mara, { headline: 'Wants sixty bikes' })).status).toBe(403);
    expect(
      (await change(pell, { headline: 'Wants eight bikes. Will send the quote.', version: 9 })).status,
    ).toBe(409);
    const future = DateTime.now().plus({ days: 1 }).toISO();
    expect((await change(pell, { at: future })).status).toBe(422);
    const done = await change(pell, {
      version: 1,
      headline: 'Wants eight bikes. I will send the quote.',
      at: '2026-11-01T09:00:00Z',
    });
    expect(done.status).toBe(200);
    const { body } = await ines.call('GET /api/ledger/:id', { params: { id: entry } });
    expect(body).toMatchObject({
      headline: 'Wants eight bikes. I will send the quote.',
      isMine: false,
      revisions: [{ headline: 'Talked about six bikes', at: '2026-11-02T09:00:00.000Z' }],
    });
    expect(body.editedAt).not.toBeNull();
    expect((await ledger({ personId: id })).turn).toMatchObject({ turn: 'ours' });
    await pell.call('POST /api/events/:id/undo', { params: { id: done.body.eventId ?? '' } });
    const back = (await pell.call('GET /api/ledger/:id', { params: { id: entry } })).body;
    expect([back.headline, back.revisions, back.editedAt]).toEqual(['Talked about six bikes', [], null]);
    expect((await ledger({ personId: id })).turn.turn).toBe('nobody');
  });

  it('is pinned above the others and linked to more records, by anybody', async () => {
    const [kai, lou] = [await person('Kai Berg'), await person('Lou Berg')];
    const entry = (await enter(pell, { headline: 'Closed in August' }, { personId: kai })).body.id;
    const change = (body: object) => ines.call('PATCH /api/ledger/:id', { params: { id: entry }, body });
    expect((await change({ isPinned: true, link: { personId: lou } })).status).toBe(200);
    expect((await ledger({ personId: kai })).pinned.map((one) => one.headline)).toEqual(['Closed in August']);
    expect(await headlines({ personId: lou })).toEqual(['Closed in August']);
    await change({ unlink: { personId: lou } });
    expect(await headlines({ personId: lou })).toEqual([]);
    expect((await change({ unlink: { personId: kai } })).status).toBe(422);
    await change({ isPinned: false });
    expect((await ledger({ personId: kai })).pinned).toEqual([]);
  });

  it('is removed by who wrote it, and comes back with all it had', async () => {
    const id = await person('Mia Dorn');
    const entry = (await enter(pell, { headline: 'Wrong person' }, { personId: id })).body.id;
    await pell.call('PATCH /api/ledger/:id', {
      params: { id: entry },
      body: { headline: 'Wrong person, sorry' },
    });
    expect((await ines.call('DELETE /api/ledger/:id', { params: { id: entry } })).status).toBe(403);
    const gone = await pell.call('DELETE /api/ledger/:id', { params: { id: entry } });
    expect(await headlines({ personId: id })).toEqual([]);
    expect((await pell.call('GET /api/ledger/:id', { params: { id: entry } })).status).toBe(404);
    await pell.call('POST /api/events/:id/undo', { params: { id: gone.body.eventId ?? '' } });
    expect(await headlines({ personId: id })).toEqual(['Wrong person, sorry']);
    expect((await pell.call('GET /api/ledger/:id', { params: { id: entry } })).body.revisions).toHaveLength(
      1,
    );
  });
});

describe('a change', () => {
  it('of stage, status, standing or owner stands in the ledger with its sentence, and goes when it is taken back', async () => {
    const firm = await company('Locks Workshop');
    const id = await person('Jan Vries', firm);
    const deal = (await pell.call('POST /api/deals', { body: { title: 'A trailer', personId: id } })).body
      .deal;
    const stages = (await pell.call('GET /api/stages')).body.items;
    const to = stages.find((stage) => stage.name === 'Proposal')?.id;
    const { version } = (await pell.call('GET /api/deals/:id', { params: { id: deal.id } })).body;
    const moved = await pell.call('PATCH /api/deals/:id', {
      params: { id: deal.id },
      body: { version, stageId: to, because: 'They asked for it in writing' },
    });
    const changes = async (query: Record<string, string>) =>
      (await ledger({ ...query, kind: 'change' })).items.map((one) => [one.headline, one.body, one.actor]);
    const line = ['Stage: Heard out → Proposal', 'They asked for it in writing', 'Pell Garrick'];
    expect(await changes({ dealId: deal.id })).toEqual([line]);
    await pell.call('POST /api/events/:id/undo', { params: { id: moved.body.eventId ?? '' } });
    expect(await changes({ dealId: deal.id })).toEqual([]);
    await pell.call('PATCH /api/people/:id', {
      params: { id },
      body: { version: await versionOf(id), standing: 'partner', because: 'Signed today' },
    });
    expect((await changes({ personId: id }))[0]?.slice(0, 2)).toEqual([
      expect.stringMatching(/^Standing: \w+ → partner$/),
      'Signed today',
    ]);
  });
});

describe('what sounds negative', () => {
  const raw = (who: string, at: number, text: string) =>
    `From: ${who} <${who.toLowerCase()}@tone.example>\nTo: pell@wharfside.example\nMessage-ID: <t${at}@tone.example>\nDate: Mon, ${at} Nov 2026 09:00:00 +0000\nSubject: Bikes\n\n${text}\n`;
  it('comes first in Arrivals where one wants it so, page by page, and is said in the ledger', async () => {
    const texts = [
      'Thank you, we love the bikes, they are wonderful.',
      'This is terrible. We are very angry and disappointed, the bike is awful.',
      'The box is 40 cm wide.',
    ];
    const ids: string[] = [];
    for (const [at, text] of texts.entries())
      ids.push((await pell.call('POST /api/captures', { raw: raw(`Tone${at}`, at + 2, text) })).body.id);
    const seen: string[] = [];
    let cursor: string | null = '';
    do {
      const query: Record<string, string> = { first: 'negative', limit: '1', ...(cursor ? { cursor } : {}) };
      const { body } = await pell.call('GET /api/captures', { query });
      seen.push(...body.items.map((one) => one.id));
      cursor = body.next;
    } while (cursor);
    expect(seen[0]).toBe(ids[1]);
    expect(seen.filter((id) => ids.includes(id))).toEqual([ids[1], ids[2], ids[0]]);
    expect(new Set(seen).size).toBe(seen.length);
    const filed = await pell.call('POST /api/captures/:id/filing', {
      params: { id: ids[1] ?? '' },
      body: { person: 'new' },
    });
    const { items } = await ledger({ personId: filed.body.person?.id ?? '' });
    expect(items.find((entry) => entry.kind === 'mail')?.tone).toBe('negative');
  });

  it('people and companies are narrowed to those on which colleagues entered something since', async () => {
    const firm = await company('Newsworthy Mills');
    const [ada, bo] = [await person('Ada Newsworthy', firm), await person('Bo Newsworthy', firm)];
    for (const recordId of [ada, bo, firm]) await pell.call('POST /api/looks', { body: { recordId } });
    const found = async (name: 'GET /api/people' | 'GET /api/companies') =>
      (
        (await pell.call(name, { query: { news: 'mine', q: 'newsworthy' } })).body as unknown as {
          items: { id: string }[];
        }
      ).items.map(({ id }) => id);
    expect([await found('GET /api/people'), await found('GET /api/companies')]).toEqual([[], []]);
    await enter(pell, { headline: 'My own' }, { personId: bo });
    await enter(ines, { headline: 'From a colleague' }, { personId: ada });
    expect([await found('GET /api/people'), await found('GET /api/companies')]).toEqual([[ada], [firm]]);
  });

  it('views ask for what is new, each reader for their own, and deals of theirs that they never looked at', async () => {
    const firm = await company('Fresh Mills');
    const [ada, bo] = [await person('Ada Freshly', firm), await person('Bo Freshly', firm)];
    const deal = await pell.call('POST /api/deals', { body: { title: 'Fresh bikes', personId: ada } });
    const dealId = deal.body.deal.id;
    for (const recordId of [ada, bo, firm]) await pell.call('POST /api/looks', { body: { recordId } });
    const fresh = async (kind: string, name: string, by = pell) => {
      const filter = {
        all: [
          { field: name, op: 'contains', value: 'fresh' },
          { field: 'newForMe', op: 'is', value: true },
        ],
      };
      const query = { kind, filter, columns: ['newForMe'] };
      const { status, body } = await by.call('POST /api/queries', { body: { query } as never });
      expect([status, body.items.every(({ values }) => values.newForMe === true)]).toEqual([200, true]);
      return body.items.map(({ id }) => id);
    };
    const named = { person: 'fullName', company: 'companyName', deal: 'title' };
    const all = (by = pell) =>
      Promise.all(Object.entries(named).map(([kind, name]) => fresh(kind, name, by)));
    expect(await all()).toEqual([[], [], []]);
    await enter(pell, { headline: 'My own' }, { dealId });
    expect(await all()).toEqual([[], [], []]);
    await enter(ines, { headline: 'Ines asked for the box' }, { personId: ada, dealId });
    expect(await all()).toEqual([[ada], [firm], [dealId]]);
    expect(await all(ines)).toEqual([[], [], []]);
    for (const recordId of [ada, dealId]) await pell.call('POST /api/looks', { body: { recordId } });
    expect(await all()).toEqual([[], [firm], []]);
  });
});
