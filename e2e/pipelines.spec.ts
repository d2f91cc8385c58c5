import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';

const post = async <T>(page: Page, path: string, data: object): Promise<T> =>
  (await (await page.request.post(path, { data })).json()) as T;
const stagesOf = async (page: Page): Promise<{ id: string; name: string }[]> =>
  ((await (await page.request.get('/api/stages')).json()) as { items: { id: string; name: string }[] }).items;

test('a manager makes a pipeline, a deal goes through it, and a stage in use is not lost', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  await page.goto('/settings/pipelines');
  await page.getByRole('button', { name: 'Add a pipeline' }).click();
  await page.getByLabel('New pipeline').fill('Rentals');
  await page.getByRole('button', { name: 'Add the pipeline' }).click();
  await expect(page.getByRole('button', { name: /Rentals, 0 open/ })).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('New stage').fill('Looked at');
  await page.getByRole('button', { name: 'Add a stage' }).click();
  await expect(page.getByRole('button', { name: 'Name of the stage Looked at' })).toBeVisible();
  const looked = (await stagesOf(page)).find((stage) => stage.name === 'Looked at');
  const { deal } = await post<{ deal: { id: string } }>(page, '/api/deals', {
    title: 'Rent two bikes',
    stageId: looked?.id,
  });
  await page.getByRole('button', { name: 'Remove Looked at' }).click();
  await expect(page.getByLabel('Move the deals in Looked at to')).toBeVisible();
  await page.getByRole('button', { name: 'Remove the stage' }).click();
  await expect(page.getByRole('button', { name: 'Name of the stage Looked at' })).toBeHidden();
  await page.goto(`/deals/${deal.id}`);
  await expect(page.getByLabel('Stage', { exact: true })).toHaveValue('First');
});

test('the board is filtered, a deal that is won is asked why, and what a stage wants known is told', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const next = new Date(Date.now() + 400 * 86_400_000).toISOString().slice(0, 10);
  await post(page, '/api/deals', {
    title: 'Filtered, 1 bike',
    amountMinor: 450_000,
    tags: ['sifted'],
    expectedClose: next,
  });
  await page.goto('/deals');
  await choose(page.getByLabel('Tag'), 'sifted');
  await expect(page.locator('[data-deal]')).toHaveCount(1);
  await expect(page.getByText('1 open ·')).toBeVisible();
  await choose(page.getByLabel('When expected'), 'This month');
  await expect(page.locator('[data-deal]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Show all deals' }).click();
  await choose(page.getByLabel('Tag'), 'sifted');
  await page.keyboard.press('Escape');
  const card = page.getByRole('link', { name: 'Filtered, 1 bike' });
  await card.focus();
  await page.keyboard.press('Shift+ArrowDown');
  const about = page.getByRole('group', { name: 'About Filtered, 1 bike' });
  await expect(about).toContainText('which company it is with, who decides');
  await expect(page.locator('[data-lane="Tried out"]')).toContainText('Filtered, 1 bike');
  await card.hover();
  await choose(page.getByLabel('Move Filtered, 1 bike to'), 'Signed');
  await expect(about).toContainText(/Why was\s+Filtered, 1 bike\s+won/);
  // Moved back, it is asked nothing; moved once more by the keys, it is asked again.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(about).toBeHidden();
  await expect(page.locator('[data-lane="Tried out"]')).toContainText('Filtered, 1 bike');
  await card.focus();
  for (const stage of ['Proposal', 'Terms', 'Signed']) {
    await page.keyboard.press('Shift+ArrowDown');
    await expect(page.locator(`[data-lane="${stage}"]`)).toContainText('Filtered, 1 bike');
  }
  await expect(about).toContainText(/Why was\s+Filtered, 1 bike\s+won/);
  await page.getByRole('button', { name: 'they know us' }).click();
  await expect(page.getByText('Filtered, 1 bike won: they know us.')).toBeVisible();
  await page.keyboard.press('t');
  await choose(page.getByRole('combobox', { name: 'Open or closed' }), 'Won');
  await expect(page.getByRole('cell', { name: 'Filtered, 1 bike' })).toBeVisible();
});

test('a deal is added by hand where the board is', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/deals');
  await page.getByRole('button', { name: 'New deal' }).click();
  const form = page.getByRole('dialog', { name: 'New deal' });
  await form.getByLabel('Value').fill('nine');
  await form.getByRole('button', { name: 'Add the deal' }).click();
  await expect(form.getByText('“nine” is not a sum.').first()).toBeVisible();
  await form.getByLabel('Value').fill('9k');
  await form.getByRole('button', { name: 'Add the deal' }).click();
  await expect(form.getByText('What it is about is missing.')).toBeVisible();
  await form.getByLabel('What it is about').fill('By hand, 2 bikes');
  await form.getByRole('combobox', { name: 'Company' }).fill('Coral Crumb');
  await page.getByRole('option', { name: /^Coral Crumb/ }).click();
  await form.getByLabel('Expected by').fill('in 3 working days');
  // What is typed is kept over a closed dialog, and over a reload.
  await page.keyboard.press('Escape');
  await form.getByRole('button', { name: 'Keep the draft' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'New deal' }).click();
  await expect(form.getByLabel('What it is about')).toHaveValue('By hand, 2 bikes');
  await form.getByRole('button', { name: 'Add the deal' }).click();
  await expect(page.getByRole('heading', { name: 'By hand, 2 bikes' })).toBeVisible();
  await expect(page.locator('[data-fact=amountMinor]')).toContainText('€9,000');
  await expect(page.getByLabel('Stage', { exact: true })).toHaveValue('Heard out');
  await expect(page.getByRole('link', { name: 'Coral Crumb' }).first()).toBeVisible();
});

test('lines of products make the amount and a quote, which is printed and kept in the ledger', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { person } = await post<{ person: { id: string } }>(page, '/api/people', { fullName: 'Quenby Lark' });
  const { deal } = await post<{ deal: { id: string } }>(page, '/api/deals', {
    title: 'Quenby, 3 bikes',
    personId: person.id,
  });
  await page.goto(`/deals/${deal.id}`);
  await page.getByRole('button', { name: 'Products and quotes', exact: true }).click();
  await page.getByRole('button', { name: 'Add a line' }).click();
  await choose(page.getByLabel('Product of line 1'), 'Long bike, two boxes');
  await expect(page.getByLabel('Price of line 1')).toHaveValue('4500');
  await page.getByLabel('Quantity of line 1').fill('3');
  await page.getByLabel('Discount of line 1, per cent').fill('10');
  await page.getByRole('button', { name: 'Add a line' }).click();
  await choose(page.getByLabel('Product of line 2'), 'Service plan, monthly');
  await expect(page.getByLabel('For how many months line 2')).toHaveValue('12');
  await expect(page.getByRole('status').filter({ hasText: 'net' })).toContainText(
    'net €12,618 · tax 20% €2,523.60 · with tax €15,141.60 · €39 a month',
  );
  await page.getByRole('button', { name: 'Save lines' }).click();
  await expect(page.locator('[data-fact=amountMinor]')).toContainText('€12,618');
  await page.getByRole('button', { name: 'Make a quote from these lines' }).click();
  const quote = page.getByRole('link', { name: /^Q-\d{4}-\d{4}$/ });
  await expect(quote).toBeVisible();
  const number = await quote.innerText();
  const printed = await page.request.get((await quote.getAttribute('href')) ?? '');
  expect(printed.headers()['content-type']).toBe('application/pdf');
  expect((await printed.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: `${number}: Mark as sent` }).click();
  await expect(page.locator('li.ours[data-entry]')).toContainText(`Quote ${number} sent`);
  await expect(page.getByText(/Their turn/)).toBeVisible();
  await page.getByRole('button', { name: `${number}: Mark as accepted` }).click();
  await expect(page.locator('li.theirs[data-entry]')).toContainText(`Quote ${number} accepted by them`);
});

test('the forecast says what will come by month and owner, drawn and in figures, and what past ones were worth', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  const problems: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });
  await page.goto('/deals/forecast');
  await expect(page.getByText(/in 8 of 10 runs between/)).toBeVisible();
  await expect(page.locator('.chart .main-svg').first()).toBeVisible();
  const months = page.getByRole('table').first().locator('tbody tr');
  await expect(months).toHaveCount(6);
  const { months: known } = (await (await page.request.get('/api/forecast')).json()) as {
    months: { weightedMinor: number }[];
  };
  const words = new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency: 'EUR',
    maximumFractionDigits: 0,
  });
  for (const [at, month] of known.entries())
    await expect(months.nth(at)).toContainText(words.format(Math.round(month.weightedMinor / 100)));
  await expect(page.getByText(/of 6 came within its range/)).toBeVisible();
  await choose(page.getByLabel('Owner', { exact: true }), 'Ines Tolland');
  const owners = page
    .getByRole('table')
    .filter({ has: page.getByRole('columnheader', { name: 'Owner', exact: true }) })
    .locator('tbody tr');
  await expect(owners).toHaveCount(1);
  await expect(owners).toContainText('Ines Tolland');
  await choose(page.getByLabel('By which chances'), 'By win chance');
  await expect(page.getByText(/in 8 of 10 runs between/)).toBeVisible();
  expect(problems).toEqual([]);
});
