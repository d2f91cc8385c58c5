import { signIn, urlOf } from './pages';
import { allowTrouble, expect, test, type Page } from './test';

/** Makes somebody over the API and opens their dossier. */
async function dossier(page: Page, fullName: string): Promise<string> {
  const made = await page.request.post('/api/people', { data: { fullName, jobTitle: 'Baker' } });
  const { person } = (await made.json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  await expect(page.getByRole('heading', { name: fullName })).toBeVisible();
  return person.id;
}
const fact = (page: Page, name: string) => page.locator(`[data-fact="${name}"]`);

test('two edit one field with live refresh on: nothing is overwritten, both are there to choose from', async ({
  browser,
}) => {
  const [pell, ines] = [await signIn(browser, 'pell'), await signIn(browser, 'ines')];
  const id = await dossier(pell, `Both Edit ${Date.now()}`);
  await ines.goto(`/people/${id}`);
  await fact(pell, 'jobTitle').getByRole('button').first().click();
  await pell.getByRole('textbox', { name: 'Job title' }).fill('Head baker');
  await fact(ines, 'jobTitle').getByRole('button').first().click();
  await ines.getByRole('textbox', { name: 'Job title' }).fill('Owner');
  await ines.getByRole('textbox', { name: 'Job title' }).press('Enter');
  await expect(fact(ines, 'jobTitle')).toContainText('Owner');
  // The live refresh has brought the other value by now; what is being typed keeps the version it began from.
  await expect(pell.getByText('Owner', { exact: true }).first()).toBeVisible();
  await pell.getByRole('textbox', { name: 'Job title' }).press('Enter');
  const clash = fact(pell, 'jobTitle').getByRole('alert');
  await expect(clash).toContainText('Owner');
  await expect(clash).toContainText('Head baker');
  const stored = async () =>
    ((await (await pell.request.get(`/api/people/${id}`)).json()) as { jobTitle: { value: string } }).jobTitle
      .value;
  expect(await stored()).toBe('Owner');
  await clash.getByRole('button', { name: 'Use mine' }).click();
  await expect(clash).toBeHidden();
  expect(await stored()).toBe('Head baker');
  await Promise.all([pell, ines].map((page) => page.context().close()));
});

test('colleagues at one record are named at its head within two seconds, and at the field that they edit', async ({
  browser,
}) => {
  const [pell, ines] = [await signIn(browser, 'pell'), await signIn(browser, 'ines')];
  const id = await dossier(pell, `Both Here ${Date.now()}`);
  const card = pell.getByRole('region', { name: 'Card' });
  await ines.goto(`/people/${id}`);
  const soon = { timeout: 2000 };
  await expect(fact(ines, 'jobTitle')).toBeVisible();
  await expect(card).toContainText('Ines Tolland is here', soon);
  await fact(ines, 'jobTitle').getByRole('button').first().click();
  await expect(fact(pell, 'jobTitle')).toContainText('Ines Tolland is editing this', soon);
  await expect(card).toContainText('Ines Tolland is editing “Job title”');
  await expect(fact(pell, 'address')).not.toContainText('is editing this');
  await ines.getByRole('textbox', { name: 'Job title' }).press('Escape');
  await expect(fact(pell, 'jobTitle')).not.toContainText('is editing this', soon);
  await ines.goto('/people');
  await expect(card).not.toContainText('Ines Tolland is here', soon);
  await Promise.all([pell, ines].map((page) => page.context().close()));
});

test('two edit different fields of one record: both are kept and nobody is asked', async ({ browser }) => {
  const [pell, ines] = [await signIn(browser, 'pell'), await signIn(browser, 'ines')];
  const id = await dossier(pell, `Other Field ${Date.now()}`);
  await ines.goto(`/people/${id}`);
  await fact(pell, 'jobTitle').getByRole('button').first().click();
  await pell.getByRole('textbox', { name: 'Job title' }).fill('Head baker');
  await fact(ines, 'address').getByRole('button').first().click();
  await ines.getByRole('textbox', { name: 'Address' }).fill('1 Quay');
  await ines.getByRole('textbox', { name: 'Address' }).press('Enter');
  await expect(fact(pell, 'address')).toContainText('1 Quay');
  await pell.getByRole('textbox', { name: 'Job title' }).press('Enter');
  await expect(fact(pell, 'jobTitle')).toContainText('Head baker');
  await expect(fact(pell, 'jobTitle').getByRole('alert')).toBeHidden();
  await Promise.all([pell, ines].map((page) => page.context().close()));
});

test('eight tabs share one stream, all of them are told, and one takes over when the first closes', async ({
  browser,
}) => {
  const first = await signIn(browser, 'pell');
  const context = first.context();
  let open = 0;
  context.on('request', (request) => {
    if (new URL(request.url()).pathname === '/api/events') open++;
  });
  const id = await dossier(first, `Many Tabs ${Date.now()}`);
  const tabs: Page[] = [];
  for (let count = 0; count < 7; count++) {
    const tab = await context.newPage();
    await tab.goto(`/people/${id}`);
    await expect(fact(tab, 'jobTitle')).toContainText('Baker');
    tabs.push(tab);
  }
  expect(open).toBeLessThanOrEqual(1);
  const change = async (jobTitle: string) => {
    const now = (await (await first.request.get(`/api/people/${id}`)).json()) as { version: number };
    await context.request.patch(`/api/people/${id}`, { data: { version: now.version, jobTitle } });
  };
  const get = await context.request.get(`${urlOf()}/api/people/${id}`);
  expect(get.status()).toBe(200);
  await change('Told everywhere');
  for (const tab of tabs) await expect(fact(tab, 'jobTitle')).toContainText('Told everywhere');
  await first.close();
  const now = (await (await context.request.get(`/api/people/${id}`)).json()) as { version: number };
  await context.request.patch(`/api/people/${id}`, {
    data: { version: now.version, jobTitle: 'Told again' },
  });
  for (const tab of tabs) await expect(fact(tab, 'jobTitle')).toContainText('Told again');
  await context.close();
});

test('signing out in one tab ends the stream and shows the door in the others', async ({ browser }) => {
  const page = await signIn(browser, 'ines');
  const other = await page.context().newPage();
  await other.goto('/people');
  await expect(other.getByRole('heading', { name: 'People', exact: true })).toBeVisible();
  await page.request.delete('/api/session', { headers: { origin: urlOf() } });
  await other.waitForURL('**/sign-in*');
  await page.context().close();
});

test('a tab from before an upgrade says so and reloads with what was typed', async ({ browser }) => {
  allowTrouble(/never/);
  const page = await signIn(browser, 'pell');
  await page.route('**/people', async (route) => {
    if (route.request().resourceType() !== 'document') return route.continue();
    const response = await route.fetch();
    const body = (await response.text()).replace(
      /(name="emporikon-build" content=")[^"]*/,
      '$1an-older-build',
    );
    return route.fulfill({ response, body });
  });
  await page.goto('/people');
  await expect(page.getByText('A new version of Emporikon is here.')).toBeVisible();
  const box = page.locator('main input:visible').first();
  await box.fill('half a name');
  await page.unroute('**/people');
  await page.getByRole('button', { name: 'Reload; what you typed stays' }).click();
  await expect(page.locator('main input:visible').first()).toHaveValue('half a name');
  await expect(page.getByText('A new version of Emporikon is here.')).toBeHidden();
  await page.context().close();
});

test('leaving lines that are not saved asks first', async ({ browser }) => {
  const page = await signIn(browser, 'pell');
  const made = await page.request.post('/api/deals', { data: { title: `Unsaved ${Date.now()}` } });
  const { deal } = (await made.json()) as { deal: { id: string } };
  await page.goto(`/deals/${deal.id}`);
  await page.getByRole('button', { name: 'Products and quotes', exact: true }).click();
  await page.getByRole('button', { name: 'Add a line' }).click();
  await page.getByLabel('Name of line 1').fill('Long bike');
  await page
    .getByRole('link', { name: /^People/ })
    .first()
    .click();
  await expect(page.getByText('Not saved yet')).toBeVisible();
  await page.getByRole('button', { name: 'Stay here' }).click();
  await expect(page.getByLabel('Name of line 1')).toHaveValue('Long bike');
  await page
    .getByRole('link', { name: /^People/ })
    .first()
    .click();
  // Folded away, they are still there.
  await page.getByRole('button', { name: 'Stay here' }).click();
  await page.getByRole('button', { name: 'Hide products and quotes' }).click();
  await page.getByRole('button', { name: 'Products and quotes', exact: true }).click();
  await expect(page.getByLabel('Name of line 1')).toHaveValue('Long bike');
  await page
    .getByRole('link', { name: /^People/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Leave without saving' }).click();
  await page.waitForURL('**/people');
  await page.context().close();
});
