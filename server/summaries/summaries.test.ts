import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();

/** The text of each page, read by another package than the one that wrote it. */
const pagesOf = (bytes: Buffer): string[] =>
  JSON.parse(
    execFileSync('node', [join(__dirname, '../testing/pdfText.mjs')], { input: bytes }).toString(),
  ) as string[];
const sheet = (path: string, by = pell) => by.raw('GET', `/api/${path}/summary.pdf`);
const LONG = 'They asked about winter tyres, a second battery and the price of the service plan. '.repeat(30);

describe('one page', () => {
  let [personId, companyId, dealId] = ['', '', ''];
  beforeAll(async () => {
    const { company } = (await pell.call('POST /api/companies', { body: { name: 'Ćma i Synowie' } })).body;
    companyId = company.id;
    const { person } = (
      await pell.call('POST /api/people', {
        body: { fullName: 'Łucja Zielińska', jobTitle: 'Buyer', companyId, email: 'lucja@cma.example' },
      })
    ).body;
    personId = person.id;
    const made = await pell.call('POST /api/deals', {
      body: { title: 'Six bikes', companyId, amountMinor: 1_234_500, currency: 'EUR' } as never,
    });
    dealId = made.body.deal.id;
    await pell.call('PUT /api/deals/:id/people', {
      params: { id: dealId },
      body: { people: [{ personId, role: 'decides' }] },
    });
    await pell.call('POST /api/tasks', {
      body: { title: 'Send the offer for six', personId, dealId, dueAt: '2026-12-03T09:00:00Z' } as never,
    });
    for (let at = 1; at <= 12; at++)
      await pell.call('POST /api/ledger/entries', {
        body: {
          kind: 'call',
          side: 'theirs',
          headline: `Talk ${at}`,
          body: LONG,
          about: [{ personId, dealId }],
        } as never,
      });
  });

  it('has the card of a person, what is open, what was said last and what is next, on one page', async () => {
    await pell.call('POST /api/cases', { body: { title: 'A broken spoke', personId } as never });
    const { status, bytes } = await sheet(`people/${personId}`);
    expect(status).toBe(200);
    const pages = pagesOf(bytes);
    expect(pages).toHaveLength(1);
    for (const words of [
      'Łucja Zielińska',
      'Buyer, Ćma i Synowie',
      'lucja@cma.example',
      'Send the offer for six',
      'A broken spoke',
      'Last words',
      'Pell Garrick, ',
    ])
      expect(pages[0]).toContain(words);
  });
  it('has that of a company and of a deal', async () => {
    const company = pagesOf((await sheet(`companies/${companyId}`)).bytes);
    expect([company.length, company[0]]).toEqual([1, expect.stringContaining('Łucja Zielińska (Buyer)')]);
    expect(company[0]).toContain('€12,345.00');
    const deal = pagesOf((await sheet(`deals/${dealId}`)).bytes);
    expect([deal.length, deal[0]]).toEqual([1, expect.stringContaining('Six bikes')]);
    expect(deal[0]).toMatch(/€12,345\.00[\s\S]*Send the offer for six/);
  });
  it('stays one page however much there is, and says how much was left out', async () => {
    const { company } = (
      await pell.call('POST /api/companies', { body: { name: `Long ${'x '.repeat(90)}` } })
    ).body;
    for (let at = 1; at <= 30; at++)
      await pell.call('POST /api/people', {
        body: { fullName: `Person Number ${at}`, companyId: company.id, jobTitle: LONG.slice(0, 190) },
      });
    for (let at = 1; at <= 25; at++)
      await pell.call('POST /api/tasks', {
        body: {
          title: `Move ${at}: ${LONG.slice(0, 250)}`,
          companyId: company.id,
          dueAt: '2026-12-03T09:00:00Z',
        } as never,
      });
    const pages = pagesOf((await sheet(`companies/${company.id}`)).bytes);
    expect(pages).toHaveLength(1);
    expect(pages[0]).toMatch(/and \d+ more/);
    expect(pages[0]).toContain('Pell Garrick, ');
  });
  it('is written as its reader writes days and sums', async () => {
    await mara.call('PATCH /api/session', { body: { locale: 'de-DE' } });
    const [page] = pagesOf((await sheet(`deals/${dealId}`, mara)).bytes);
    expect(page).toContain('12.345,00 €');
  });
  it('is of what its reader may see', async () => {
    await house.sequelize.query(`UPDATE people SET visibility = 'owner' WHERE id = '${personId}'`);
    expect((await sheet(`people/${personId}`, ines)).status).toBe(404);
    expect((await sheet(`people/${personId}`)).status).toBe(200);
    expect(pagesOf((await sheet(`companies/${companyId}`, ines)).bytes)[0]).not.toContain('Zielińska');
    expect((await sheet(`deals/${crypto.randomUUID()}`)).status).toBe(404);
  });
});
