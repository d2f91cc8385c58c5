import { ReadingFitRow } from '../db/models/captures';
import { mail, useHouse } from '../testing/harness';

const { pell, mara, house } = useHouse();
type Decide = (of: (field: string) => string) => Promise<unknown>;

let serial = 0;
/** A mail of somebody new, decided about and filed. */
async function file(decide: Decide = async () => undefined): Promise<void> {
  const name = `Ada Crumb${'abcdefghijklmnopqrstuvwxyz'[serial % 26]}${'abcdefghijklmnopqrstuvwxyz'[Math.floor(serial / 26)]}`;
  serial++;
  const raw = mail({
    from: `${name} <ada${serial}@crumb${serial}.example>`,
    sign: `${name}\nBuyer\n020 7946 0${String(100 + serial)}`,
  });
  const { body } = await pell.call('POST /api/captures', { raw });
  await decide((field) => body.claims.find((claim) => claim.field === field)?.id ?? '');
  const filed = await pell.call('POST /api/captures/:id/filing', {
    params: { id: body.id },
    body: { person: 'new' },
  });
  expect(filed.status).toBe(201);
}
const refuse =
  (field: string): Decide =>
  (of) =>
    pell.call('PATCH /api/claims/:id', { params: { id: of(field) }, body: { fate: 'rejected' } });
const correct =
  (field: string, value: string): Decide =>
  (of) =>
    pell.call('PATCH /api/claims/:id', { params: { id: of(field) }, body: { value } });

const accuracy = async () => (await mara.call('GET /api/reading-accuracy')).body;
const count = async () => {
  expect((await mara.call('POST /api/reading-accuracy/fitting')).status).toBe(201);
  await house.work();
  return accuracy();
};

it('is for those who may change the scoring', async () => {
  expect((await pell.call('GET /api/reading-accuracy')).status).toBe(403);
  expect((await pell.call('POST /api/reading-accuracy/fitting')).status).toBe(403);
});

it('says nothing before anything was counted', async () => {
  expect(await accuracy()).toEqual({ madeAt: null, captures: 0, items: [] });
});

it('counts what was filed as read, corrected, refused and added by hand', async () => {
  await file();
  await file(refuse('phone'));
  await file(correct('jobTitle', 'Head of Buying'));
  await file(async (of) => {
    const { body } = await pell.call('GET /api/captures', { query: { limit: '1' } });
    await pell.call('POST /api/captures/:id/claims', {
      params: { id: body.items[0]?.id ?? '' },
      body: { field: 'companyName', value: 'Crumb & Co' },
    });
    return of('fullName');
  });
  const { captures, items, madeAt } = await count();
  expect([captures, madeAt]).toEqual([4, expect.any(String)]);
  const of = (field: string) => items.find((one) => one.kind === 'email' && one.field === field);
  expect(of('phone')).toMatchObject({ right: 3, wrong: 1, missed: 0, isFitted: false });
  expect(of('jobTitle')).toMatchObject({ right: 3, wrong: 1 });
  expect(of('companyName')).toMatchObject({ missed: 1 });
  expect(of('phone')?.bins.reduce((sum, bin) => sum + bin.decided, 0)).toBe(4);
});

it('does not count what waits, though it is read', async () => {
  await pell.call('POST /api/captures', { raw: mail({ from: 'Bo Reed <bo@reed.example>' }) });
  expect((await count()).captures).toBe(4);
});

it('makes the next claims as sure as such were right, and keeps what the reader itself gave', async () => {
  for (let made = 0; made < 24; made++) await file(made % 2 ? refuse('phone') : undefined);
  const phones = (await count()).items.find((one) => one.field === 'phone');
  expect(phones).toMatchObject({ isFitted: true });
  const raw = mail({ from: 'Cy Lane <cy@lane.example>', sign: 'Cy Lane\n020 7946 0999' });
  const { body } = await pell.call('POST /api/captures', { raw });
  const phone = body.claims.find((claim) => claim.field === 'phone');
  expect(phone?.confidence).toBeLessThan(0.8);
  expect(phone?.confidence).toBeGreaterThan(0.5);
  // Counted again, the fit rests on what the reader gave, and not on what was made of it.
  await pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: { person: 'new' } });
  const again = (await count()).items.find((one) => one.field === 'phone');
  const [newest] = await ReadingFitRow.findAll({ order: [['madeAt', 'DESC']], limit: 1 });
  const steps = newest?.fits.find((fit) => fit.field === 'phone')?.steps ?? [];
  expect(steps.every(([from]) => from >= 0.8)).toBe(true);
  expect((again?.right ?? 0) + (again?.wrong ?? 0)).toBe(29);
});
