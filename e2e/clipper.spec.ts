import { expect, test, type BrowserContext, type FrameLocator, type Page } from './test';
import { Meter } from './meter';
import { openWithClipper, signIn, urlOf } from './pages';

/** What the clipper's own worker has; the tests run its code there. */
declare const chrome: {
  storage: {
    local: { set(values: object): Promise<void>; get(key: string): Promise<Record<string, unknown>> };
  };
};

const ROLLCALL = process.env.E2E_ROLLCALL_URL ?? '';
let browserContext: BrowserContext;
let token = '';

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  const rep = await signIn(browser);
  const made = await rep.request.post('/api/tokens', { data: { name: 'clipper' } });
  ({ token } = (await made.json()) as { token: string });
  await rep.context().close();
  browserContext = await openWithClipper(token);
});
test.afterAll(() => browserContext.close());

async function open(path: string): Promise<{ page: Page; sheet: FrameLocator }> {
  const page = await browserContext.newPage();
  await page.goto(ROLLCALL + path);
  await page.keyboard.press('Alt+Shift+E');
  return { page, sheet: page.frameLocator('#emporikon-clipper') };
}

const api = async (path: string): Promise<{ items: Record<string, unknown>[] }> => {
  const response = await fetch(urlOf() + path, { headers: { authorization: `Bearer ${token}` } });
  return (await response.json()) as { items: Record<string, unknown>[] };
};

test('a profile is read beside the page and filed as a lead with company, note and next move', async () => {
  const page = await browserContext.newPage();
  await page.goto(`${ROLLCALL}/people/odile-marchetti`);
  const meter = new Meter(page);
  await meter.press('Alt+Shift+E');
  const sheet = page.frameLocator('#emporikon-clipper');
  await expect(sheet.getByRole('heading', { name: 'Odile Marchetti' })).toBeVisible();
  await expect(sheet.getByText('Not in your records yet.')).toBeVisible();
  await expect(sheet.getByLabel('Company', { exact: true }).first()).toHaveValue('Boulangeries Lisière');
  await meter.type('met at fair');
  await meter.press('Tab');
  await meter.type('call Thu');
  await meter.press('Enter');
  await expect(sheet.getByRole('heading', { name: 'Filed' })).toBeVisible();
  await expect(sheet.getByText('Boulangeries Lisière')).toBeVisible();
  expect(page.url()).toBe(`${ROLLCALL}/people/odile-marchetti`);
  expect(meter.seconds).toBeLessThanOrEqual(12);
  const { items } = await api('/api/leads');
  expect(items[0]).toMatchObject({
    person: { name: 'Odile Marchetti' },
    company: { name: 'Boulangeries Lisière' },
    source: 'web profile',
    nextMove: { title: 'Call' },
  });
  console.log(
    `effort: profile to filed lead with company, note and next move: ${meter.seconds.toFixed(1)} s`,
  );
  // The sheet that hears the key goes away with it, so that nobody is left to say that it was let go.
  page.keyboard.press('Escape').catch(() => null);
  await expect(page.locator('#emporikon-clipper')).toHaveCount(0);
  await page.close();
});

test('a claim is corrected, a company is named, and the page is known when it is seen again', async () => {
  const { page, sheet } = await open('/people/wiebke-harms');
  await expect(sheet.getByLabel('Job title')).toHaveValue('Einkaufsleiterin');
  await sheet.getByLabel('Job title').fill('Leiterin Einkauf');
  await sheet.getByLabel('Job title').press('Tab');
  await sheet.getByLabel('Company', { exact: true }).first().fill('Harms Feinkost');
  await sheet.getByLabel('File as').selectOption('person');
  await sheet.getByLabel('Tags').fill('Bremen, fair');
  await sheet.getByRole('button', { name: 'File it' }).click();
  await expect(sheet.getByRole('heading', { name: 'Filed' })).toBeVisible();
  await page.reload();
  await page.keyboard.press('Alt+Shift+E');
  await expect(sheet.getByText('This page is already filed.')).toBeVisible();
  const record = sheet.getByRole('region', { name: 'In your records' });
  await expect(record.getByRole('link', { name: 'Wiebke Harms' })).toBeVisible();
  await record.getByLabel('Add a note, task or next move').fill('call Thursday 11 about the trailers');
  await record.getByLabel('Add a note, task or next move').press('Enter');
  await expect(record).toContainText('Next move Call about the trailers');
  const { items } = await api('/api/people?tag=Bremen');
  expect(items).toMatchObject([
    { fullName: 'Wiebke Harms', jobTitle: 'Leiterin Einkauf', company: { name: 'Harms Feinkost' } },
  ]);
  await page.close();
});

test('a list says whom we know, and several are filed in one go, each with its result', async () => {
  const { page, sheet } = await open('/people');
  await expect(sheet.getByRole('heading', { name: '12 people' })).toBeVisible();
  await expect(page.locator('[data-emporikon]').first()).toBeVisible();
  await expect(page.getByText('in your records').first()).toBeVisible();
  await sheet.getByLabel('Choose Ilse van Dorp').check();
  await sheet.getByLabel('Choose Greta Solheim').check();
  await sheet.getByLabel('Tags').fill('Rollcall');
  await sheet.getByRole('button', { name: 'File the chosen' }).click();
  await expect(sheet.getByRole('status')).toHaveText(/\d of 2 filed\./);
  await expect(sheet.getByRole('listitem').filter({ hasText: 'Ilse van Dorp' })).toContainText('filed');
  await expect(page.locator('a', { hasText: 'Ilse van Dorp' }).locator('+ [data-emporikon]')).toHaveText(
    ' in your records',
  );
  expect((await api('/api/people?tag=Rollcall')).items.map((item) => item.fullName)).toContain(
    'Ilse van Dorp',
  );
  await page.close();
});

test('a thread goes into the ledger, and when it went on only what is new', async () => {
  const first = await open('/messages/siobhan-lacey');
  await expect(first.sheet.getByText('3 messages, 0 in the ledger already.')).toBeVisible();
  await first.page.keyboard.press('Enter');
  await expect(first.sheet.getByText('3 messages are in the ledger of Siobhán Lacey.')).toBeVisible();
  await first.page.close();
  await fetch(`${ROLLCALL}/messages/siobhan-lacey`, {
    method: 'POST',
    body: new URLSearchParams({ from: 'Siobhán Lacey', text: 'Thank you, it is here.' }),
  });
  const again = await open('/messages/siobhan-lacey');
  await expect(again.sheet.getByText('4 messages, 3 in the ledger already.')).toBeVisible();
  await again.sheet.getByRole('button', { name: 'File 1 message' }).click();
  await expect(again.sheet.getByText('The message is in the ledger of Siobhán Lacey.')).toBeVisible();
  const { items } = await api('/api/people?q=Siobh%C3%A1n');
  const ledger = await api(`/api/ledger?fold=no&personId=${String(items[0]?.id)}`);
  expect(ledger.items).toHaveLength(4);
  await again.page.close();
});

test('what is clipped while the program is down is kept, and sent when it is back', async () => {
  const worker = browserContext.serviceWorkers()[0] ?? (await browserContext.waitForEvent('serviceworker'));
  await worker.evaluate(() => chrome.storage.local.set({ server: 'http://127.0.0.1:9' }));
  const { page, sheet } = await open('/people/bram-okonkwo');
  await expect(sheet.getByText('Emporikon does not answer.')).toBeVisible();
  await sheet.getByLabel('Note').fill('rode the long bike');
  await sheet.getByRole('button', { name: 'Keep it' }).click();
  await expect(sheet.getByRole('status')).toContainText('Kept.');
  await page.close();
  expect((await api('/api/people?q=Bram')).items).toEqual([]);
  await worker.evaluate((server) => chrome.storage.local.set({ server }), urlOf());
  const back = await open('/people/tamsin-vale');
  await expect(back.sheet.getByRole('heading', { name: 'Tamsin Vale' })).toBeVisible();
  await expect
    .poll(async () => (await api('/api/people?q=Bram')).items.map((item) => item.fullName))
    .toEqual(['Bram Okonkwo']);
  expect(await worker.evaluate(async () => (await chrome.storage.local.get('waiting')).waiting)).toEqual([]);
  await back.page.close();
});

test('a company page makes the company, and nobody in it', async () => {
  const { page, sheet } = await open('/companies/Petal%20%26%20Stem');
  await expect(sheet.getByText('Not in your records yet.')).toBeVisible();
  await sheet.getByRole('button', { name: 'Save the company' }).click();
  await expect(sheet.getByRole('heading', { name: 'Filed' })).toBeVisible();
  expect((await api('/api/companies?q=Petal')).items).toHaveLength(1);
  expect((await api('/api/people?q=Petal')).items).toEqual([]);
  await page.close();
});

test('what was filed from a page is taken back from the page', async () => {
  const { page, sheet } = await open('/people/niccolo-ferraris');
  await sheet.getByRole('button', { name: 'File it' }).click();
  await expect(sheet.getByRole('heading', { name: 'Filed' })).toBeVisible();
  expect((await api('/api/people?q=Ferraris')).items).toHaveLength(1);
  await sheet.getByRole('button', { name: 'Undo' }).click();
  await expect(sheet.getByRole('button', { name: 'File it' })).toBeVisible();
  expect((await api('/api/people?q=Ferraris')).items).toEqual([]);
  await page.close();
});

test('a filing that meets a dead program is kept as it was decided', async () => {
  const { page, sheet } = await open('/people/mateo-arribas');
  await sheet.getByLabel('Tags').fill('kept');
  await browserContext.route('**/filing', (route) => route.abort());
  await sheet.getByRole('button', { name: 'File it' }).click();
  await expect(sheet.getByRole('heading', { name: 'Kept' })).toBeVisible();
  await browserContext.unroute('**/filing');
  await page.close();
  const back = await open('/people/tamsin-vale');
  await expect
    .poll(async () => (await api('/api/people?tag=kept')).items.map((item) => item.fullName), {
      timeout: 45_000,
    })
    .toEqual(['Mateo Arribas']);
  await back.page.close();
});

test('a page that is closed without filing it leaves nothing in Arrivals', async () => {
  const waiting = async () => (await api('/api/captures')).items.map((item) => item.from);
  const { page, sheet } = await open('/people/greta-solheim');
  await expect(sheet.getByRole('button', { name: 'File it' })).toBeVisible();
  const before = await waiting();
  await sheet.getByRole('button', { name: 'Close' }).click();
  await expect(page.locator('#emporikon-clipper')).toHaveCount(0);
  await expect.poll(async () => (await waiting()).length).toBe(before.length - 1);
  await page.close();
});
