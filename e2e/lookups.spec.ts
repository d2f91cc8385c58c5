import { expect, test, type Page } from './test';
import { signIn } from './pages';

const FAULTS = (): string => `${process.env.E2E_LOOKUPS_URL ?? ''}/faults`;

/** Somebody with a name and a company alone, by the API. */
async function nameAlone(page: Page, fullName: string, companyName: string): Promise<string> {
  const response = await page.request.post('/api/people', { data: { fullName, companyName } });
  return ((await response.json()) as { person: { id: string } }).person.id;
}

test('from a name and a company: the order and its cost are shown, the answers fill the card, and each says where it comes from', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const id = await nameAlone(page, 'Odile Merchant', 'Moonbakery');
  await page.goto(`/people/${id}`);
  await expect(page.locator('.gaps')).toContainText('of 100 complete; next email');
  await page.getByRole('button', { name: 'Look up' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('listitem').first()).toContainText('Company register');
  await expect(dialog).toContainText('worth €');
  await expect(dialog).toContainText('that are left this month');
  await dialog.getByRole('button', { name: 'Look up' }).click();
  await expect(dialog).toContainText('filled in', { timeout: 30_000 });
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: 'Moonbakery' }).first().click();
  const industry = page.locator('[data-fact=industry]');
  await expect(industry).toContainText('Bakeries');
  await industry.getByRole('button', { name: /comes from: Company register/ }).click();
  await expect(page.getByRole('dialog').getByText(/It answered/)).toBeVisible();
  await expect(page.getByRole('dialog').getByText('Legal name')).toBeVisible();
});

test('a value of a hand stays; what a source says is beside it, taken with one click and taken back', async ({
  browser,
}) => {
  const page = await signIn(browser, 'ines');
  const made = await page.request.post('/api/companies', {
    data: { name: 'Breadandbutter', domain: 'breadandbutter.example' },
  });
  const { company } = (await made.json()) as { company: { id: string } };
  await page.goto(`/companies/${company.id}`);
  await page.getByRole('button', { name: 'Industry: Add, change' }).click();
  await page.getByRole('textbox', { name: 'Industry' }).fill('Puppet theatres');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-fact=industry]')).toContainText('Puppet theatres');
  await page.getByRole('button', { name: 'Look up' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Look up' }).click();
  await expect(page.getByRole('dialog').getByText(/suggested/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: /^\d+ suggestions?$/ }).click();
  await expect(page.locator('.gaps')).toContainText('now “Puppet theatres”, entered by hand');
  await page.getByRole('button', { name: 'Use Bakeries' }).click();
  await expect(page.locator('[data-fact=industry]')).toContainText('Bakeries');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-fact=industry]')).toContainText('Puppet theatres');
});

test('several are looked up at once with the cost shown before, while one source is down', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  await page.request.post(FAULTS(), { data: { source: 'finder', mode: 'down' } });
  try {
    for (const name of ['Anna', 'Bela', 'Cleo'])
      await nameAlone(page, `${name} Lookatme`, `${name} Catering`);
    await page.goto('/people');
    await page.getByLabel('Narrow by name').fill('lookatme');
    await expect(page.getByRole('row')).toHaveCount(4);
    for (const name of ['Anna', 'Bela', 'Cleo']) await page.getByLabel(`Select ${name} Lookatme`).check();
    await page.getByRole('button', { name: 'Look up …' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('that are left this month');
    await dialog.getByRole('button', { name: 'Look up' }).click();
    await expect(dialog.getByText(/filled in|Nothing new was found/)).toBeVisible({ timeout: 40_000 });
    await dialog.getByRole('link', { name: 'Sources and allowance' }).click();
    await expect(page.getByLabel(/^Allowance per month/)).toBeVisible();
    await page.goto('/people/look-ups');
    await expect(page.getByRole('heading', { name: 'Look-up history' })).toBeVisible();
    await expect(page.getByRole('cell', { name: 'Mara Quill' }).first()).toBeVisible();
  } finally {
    await page.request.post(FAULTS(), { data: { source: 'finder', mode: 'well' } });
  }
});
