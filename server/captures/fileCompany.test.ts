import { useHouse } from '../testing/harness';

const { house, pell, ines } = useHouse();

const pageOf = (name: string, over: object = {}): string =>
  `<title>${name} | Rollcall</title><script type="application/ld+json">${JSON.stringify({
    '@context': 'https://schema.org',
    '@type': 'Organization',
    name,
    url: `https://www.${name.toLowerCase().replace(/\W/g, '')}.example`,
    telephone: '+46 8 465 00 12',
    address: { '@type': 'PostalAddress', addressLocality: 'Norrhamn' },
    ...over,
  })}</script><h1>${name}</h1>`;
let count = 0;
const clip = async (html: string) =>
  (
    await pell.call('POST /api/captures', {
      raw: html,
      type: 'text/html',
      query: { by: 'clipper', url: `https://rollcall.example/companies/${++count}` },
    })
  ).body;
const file = (id: string, body: object = {}) =>
  pell.call('POST /api/captures/:id/company', { params: { id }, body });
const peopleCount = async (): Promise<number> =>
  ((await house.sequelize.query('SELECT count(*)::int AS n FROM people'))[0] as { n: number }[])[0]?.n ?? 0;

it('a company page makes the company with its facts, and nobody; one undo takes it back', async () => {
  const before = await peopleCount();
  const capture = await clip(pageOf('Norrhamn Bud'));
  expect(capture.page?.kind).toBe('company');
  const { status, body } = await file(capture.id);
  expect([status, body.company.name]).toEqual([200, 'Norrhamn Bud']);
  const { body: company } = await pell.call('GET /api/companies/:id', { params: { id: body.company.id } });
  expect(company).toMatchObject({
    domain: 'norrhamnbud.example',
    url: 'https://www.norrhamnbud.example',
    phone: '+4684650012',
    people: [],
  });
  expect(company.claims.map((claim) => claim.field).sort()).toEqual(
    expect.arrayContaining(['companyName', 'phone', 'url']),
  );
  expect(await peopleCount()).toBe(before);
  const { body: ledger } = await pell.call('GET /api/ledger', { query: { companyId: body.company.id } });
  expect(ledger.items.map((entry) => entry.captureId)).toEqual([capture.id]);
  expect((await file(capture.id)).status).toBe(409);
  await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect((await pell.call('GET /api/companies/:id', { params: { id: body.company.id } })).status).toBe(404);
});

it('a second page of the same company fills what is blank and overwrites nothing', async () => {
  const first = await file((await clip(pageOf('Kvist Florists', { telephone: undefined }))).id);
  const second = await file((await clip(pageOf('Kvist Florists', { url: undefined }))).id, {
    company: first.body.company.id,
  });
  expect(second.body.company.id).toBe(first.body.company.id);
  const { body } = await pell.call('GET /api/companies/:id', { params: { id: first.body.company.id } });
  expect([body.url, body.phone]).toEqual(['https://www.kvistflorists.example', '+4684650012']);
});

it('is given to the owner who was chosen, and not to somebody who is none', async () => {
  const { id } = (await ines.call('GET /api/session')).body;
  const { body } = await file((await clip(pageOf('Brygga Kaffe'))).id, { ownerId: id });
  const { body: company } = await pell.call('GET /api/companies/:id', { params: { id: body.company.id } });
  expect(company.owner?.id).toBe(id);
  const other = await clip(pageOf('Tjärn Bageri'));
  expect((await file(other.id, { ownerId: other.id })).status).toBe(422);
});

it('a page that names no company says what is missing, and takes a name that is given', async () => {
  const nameless = await clip('<h1></h1><p>Something about bread.</p>');
  const refused = await file(nameless.id);
  expect([refused.status, JSON.stringify(refused.body)]).toEqual([
    422,
    expect.stringContaining('Add its name'),
  ]);
  expect((await file(nameless.id, { companyName: 'Bread & Co' })).body.company.name).toBe('Bread & Co');
});
