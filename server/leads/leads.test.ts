import { mail, type Client, useHouse } from '../testing/harness';

const { pell, ines } = useHouse();

let serial = 0;
async function newLead(): Promise<{ id: string; personId: string }> {
  const name = `Person Number${'abcdefghijklmnop'[++serial] ?? ''}`;
  const { body } = await pell.call('POST /api/captures', {
    raw: mail({
      from: `${name} <p${serial}@firm${serial}.example>`,
      sign: `${name}\nBuyer\nFirm${serial} Bakery`,
    }),
  });
  const filed = (
    await pell.call('POST /api/captures/:id/filing', {
      params: { id: body.id },
      body: { nextMove: body.proposedMove, person: 'new' },
    })
  ).body;
  return { id: filed.lead?.id ?? '', personId: filed.person.id };
}
const lead = async (id: string) => (await pell.call('GET /api/leads/:id', { params: { id } })).body;
const convert = (id: string, body?: object) =>
  pell.call('POST /api/leads/:id/conversion', { params: { id }, ...(body ? { body } : {}) });
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });

describe('a lead', () => {
  it('proposes the deal from what was read', async () => {
    const { proposal, nextMove } = await lead((await newLead()).id);
    expect(proposal).toMatchObject({ amountMinor: 4_000_000, currency: 'EUR', expectedClose: '2026-11-26' });
    expect(proposal.title).toMatch(/Bakery, 8 long bikes$/);
    expect(nextMove?.title).toBe('Send the quote');
  });

  it('is rated by hand; leads are narrowed and sorted by it, the unrated last', async () => {
    const ids = [(await newLead()).id, (await newLead()).id, (await newLead()).id];
    const rate = async (id: string, rating: string | null) =>
      pell.call('PATCH /api/leads/:id', {
        params: { id },
        body: { version: (await lead(id)).version, rating },
      });
    const rated = await rate(ids[0] ?? '', 'cold');
    await rate(ids[1] ?? '', 'hot');
    const list = async (query: Record<string, string>): Promise<(string | null)[]> =>
      (await pell.call('GET /api/leads', { query })).body.items
        .filter((item) => ids.includes(item.id))
        .map((item) => item.rating);
    expect(await list({ sort: 'rating', direction: 'desc' })).toEqual(['hot', 'cold', null]);
    expect(await list({ sort: 'rating', direction: 'asc' })).toEqual(['cold', 'hot', null]);
    expect(await list({ rating: 'hot' })).toEqual(['hot']);
    expect((await rate(ids[2] ?? '', 'boiling')).status).toBe(422);
    await undo(rated.body.eventId);
    expect((await lead(ids[0] ?? '')).rating).toBeNull();
  });

  it('moves through its statuses, each with what it needs', async () => {
    const { id } = await newLead();
    const set = async (body: object) =>
      pell.call('PATCH /api/leads/:id', {
        params: { id },
        body: { version: (await lead(id)).version, ...body },
      });
    expect((await set({ status: 'parked' })).status).toBe(422);
    expect((await set({ status: 'parked', parkedUntil: '2027-01-15' })).status).toBe(200);
    expect((await set({ status: 'dropped' })).status).toBe(422);
    expect((await set({ status: 'dropped', dropReason: 'too far' })).status).toBe(200);
    expect((await set({ status: 'converted' })).status).toBe(422);
    expect((await convert(id)).status).toBe(409);
  });

  it('says another source when somebody knows better, once, over the version that was seen', async () => {
    const { id } = await newLead();
    const patch = { params: { id }, body: { version: (await lead(id)).version, source: 'autumn fair' } };
    expect((await pell.call('PATCH /api/leads/:id', patch)).status).toBe(200);
    expect((await pell.call('PATCH /api/leads/:id', patch)).status).toBe(409);
    expect((await lead(id)).source).toBe('autumn fair');
    const found = await pell.call('GET /api/leads', { query: { source: 'autumn fair' } });
    expect(found.body.items.map((item) => item.id)).toEqual([id]);
  });
  it('keeps both answers when two reps answer one question', async () => {
    const { id } = await newLead();
    const [question] = (await lead(id)).answers;
    const put = (client: Client, answer: string, version: number | null) =>
      client.call('PUT /api/leads/:id/answers/:questionId', {
        params: { id, questionId: question?.questionId ?? '' },
        body: { answer, version },
      });
    expect((await put(pell, 'eight bikes', null)).status).toBe(200);
    const clash = await put(ines, 'ten bikes', null);
    expect([clash.status, clash.body.current]).toMatchObject([409, { answer: 'eight bikes', version: 1 }]);
    expect((await put(ines, 'ten bikes', 1)).status).toBe(200);
  });
});

describe('conversion', () => {
  it('links person, company and deal, and carries the ledger and the next move along', async () => {
    const { id, personId } = await newLead();
    const { status, body } = await convert(id, { role: 'pays', title: 'Eight for them' });
    expect(status).toBe(201);
    const deal = (await pell.call('GET /api/deals/:id', { params: { id: body.deal.id } })).body;
    expect(deal).toMatchObject({
      title: 'Eight for them',
      leadId: id,
      amountMinor: 4_000_000,
      probability: 15,
      people: [{ id: personId, role: 'pays' }],
      nextMove: { title: 'Send the quote' },
    });
    const { items } = (await pell.call('GET /api/ledger', { query: { dealId: body.deal.id } })).body;
    expect(items.map((entry) => [entry.kind, entry.headline])).toEqual([
      ['change', 'Status: new → converted'],
      ['mail', 'Eight bikes'],
    ]);
    expect(await lead(id)).toMatchObject({ status: 'converted', deal: { id: body.deal.id } });
  });

  it('done twice, or by two at once, makes no second deal', async () => {
    const { id } = await newLead();
    const answers = await Promise.all([convert(id), convert(id), convert(id)]);
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 200, 201]);
    expect(new Set(answers.map((answer) => answer.body.deal.id)).size).toBe(1);
    expect((await convert(id)).body.created).toBe(false);
  });

  it('can be taken back, and done again', async () => {
    const { id } = await newLead();
    const { body } = await convert(id);
    expect((await undo(body.eventId)).status).toBe(200);
    expect(await lead(id)).toMatchObject({ status: 'new', deal: null, nextMove: { deal: null } });
    expect((await pell.call('GET /api/deals/:id', { params: { id: body.deal.id } })).status).toBe(404);
    expect((await convert(id)).status).toBe(201);
  });

  it.each([
    [
      'the deal was moved',
      async (deal: { id: string; version: number }, stageId: string) =>
        pell.call('PATCH /api/deals/:id', {
          params: { id: deal.id },
          body: { version: deal.version, stageId },
        }),
      /the deal “.*” was changed since/,
    ],
    [
      'a next move was set on it',
      async (deal: { id: string }) =>
        pell.call('POST /api/ledger', {
          body: { line: 'call tomorrow about the price', about: { dealId: deal.id } },
        }),
      /the next move “Call about the price” depends on the deal/,
    ],
    [
      'something was written on it',
      async (deal: { id: string }) =>
        pell.call('POST /api/ledger', { body: { line: 'They have nine vans', about: { dealId: deal.id } } }),
      /the deal “.*” depends on|ledger entry/,
    ],
  ])('cannot be taken back when %s, and says so', async (_, build, words) => {
    const { id } = await newLead();
    const { body } = await convert(id);
    const deal = (await pell.call('GET /api/deals/:id', { params: { id: body.deal.id } })).body;
    const stages = (await pell.call('GET /api/stages')).body.items;
    expect((await build(deal, stages[1]?.id ?? '')).status).toBeLessThan(300);
    const refused = await undo(body.eventId);
    expect([refused.status, refused.body.type]).toEqual([409, 'urn:emporikon:problem:cannot-undo']);
    expect(String(refused.body.reasons)).toMatch(words);
    expect((await lead(id)).deal?.id).toBe(body.deal.id);
  });
});

describe('a deal', () => {
  it('takes the usual probability of its stage along, unless somebody set their own', async () => {
    const { deal } = (await convert((await newLead()).id)).body;
    const stages = (await pell.call('GET /api/stages')).body.items;
    const patch = async (body: object) => {
      const { version } = (await pell.call('GET /api/deals/:id', { params: { id: deal.id } })).body;
      await pell.call('PATCH /api/deals/:id', { params: { id: deal.id }, body: { version, ...body } });
      const { probability, probabilityByHand } = (
        await pell.call('GET /api/deals/:id', { params: { id: deal.id } })
      ).body;
      return [probability, probabilityByHand];
    };
    expect(await patch({ stageId: stages[1]?.id })).toEqual([55, false]);
    expect(await patch({ probability: 70 })).toEqual([70, true]);
    expect(await patch({ stageId: stages[0]?.id })).toEqual([70, true]);
    expect(await patch({ probability: null })).toEqual([15, false]);
    expect(await patch({ stageId: stages[2]?.id })).toEqual([100, false]);
  });
});
