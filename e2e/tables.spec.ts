import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';

const rows = (page: Page) => page.locator('tbody tr[data-index]');
const heads = (page: Page) =>
  page
    .locator('th[data-column]')
    .evaluateAll((all) => all.map((head) => (head as HTMLElement).dataset.column));
const names = (page: Page) => rows(page).locator('td.name').locator('a').allTextContents();

test('a list is sorted by its columns, narrowed, and stays so over the way back', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/people');
  const head = (name: string) => page.getByRole('columnheader', { name: new RegExp(name) });
  await expect(head('Name')).toHaveAttribute('aria-sort', 'ascending');
  await head('Name').getByRole('button').click();
  await expect(head('Name')).toHaveAttribute('aria-sort', 'descending');
  await expect(async () => {
    const shown = await names(page);
    expect(shown.length).toBeGreaterThan(10);
    expect(shown).toEqual([...shown].sort((a, b) => (a < b ? 1 : a > b ? -1 : 0)));
  }).toPass();
  await head('Job title').getByRole('button').click();
  await expect(page).toHaveURL(/sort=jobTitle/);
  await page.getByLabel('Narrow by name').fill('acker');
  await expect(page).toHaveURL(/q=acker/);
  await expect(async () => {
    const shown = await names(page);
    expect(shown.length).toBeGreaterThan(0);
    expect(shown.filter((name) => !/acker/i.test(name))).toEqual([]);
  }).toPass();
  const narrowed = page.url();
  await rows(page).first().getByRole('link').first().click();
  await expect(page).toHaveURL(/\/people\/[0-9a-f-]{36}/);
  await page.goBack();
  await expect(page).toHaveURL(narrowed);
  await expect(head('Job title')).toHaveAttribute('aria-sort', 'ascending');
});

test('rows are gone through, chosen and opened by keys alone, over more pages than one', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/people');
  await rows(page).first().focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await expect(page.getByRole('region', { name: 'Selected' })).toContainText('2 people selected');
  const at = () => page.evaluate(() => Number(document.activeElement?.getAttribute('data-index') ?? -1));
  expect(await at()).toBe(1);
  // As long as there are further pages, the end moves on.
  await expect(async () => {
    await page.keyboard.press('End');
    await expect.poll(at).toBeGreaterThan(60);
  }).toPass();
  expect(await rows(page).count()).toBeLessThan(90);
  await page.keyboard.press('Space');
  await expect(page.getByRole('region', { name: 'Selected' })).toContainText('3 people selected');
  await page.keyboard.press('Home');
  await expect.poll(at).toBe(0);
  const [first = ''] = await names(page);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: first })).toBeVisible();
});

test('on a phone a list is sorted and narrowed too, and says how many filters are set', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 390, height: 844 }, isMobile: true });
  await page.goto('/people');
  await expect(rows(page).first()).toBeVisible();
  const [first = ''] = await names(page);
  await choose(page.getByLabel('Sort by'), 'Name ↓');
  await expect.poll(async () => (await names(page))[0]).not.toBe(first);
  await expect(async () => {
    const shown = await names(page);
    expect(shown.length).toBeGreaterThan(3);
    expect(shown).toEqual([...shown].sort((a, b) => b.localeCompare(a, 'en')));
  }).toPass();
  await page.getByRole('button', { name: 'Filters' }).click();
  await choose(page.getByLabel('Active or inactive'), 'Inactive');
  await expect(page.getByRole('button', { name: 'Filters (1)' })).toBeVisible();
  await expect(page).toHaveURL(/direction=desc/);
});

test('every list is gone through and opened by keys alone', async ({ browser }) => {
  const page = await signIn(browser);
  for (const name of ['keys-a.csv', 'keys-b.csv'])
    await page.request.post(`/api/imports?name=${name}`, {
      headers: { 'content-type': 'text/csv' },
      data: 'Name\nKeyed In\n',
    });
  for (const path of ['/people', '/companies', '/leads', '/deals/table', '/imports']) {
    await page.goto(path);
    await expect(rows(page).nth(1)).toBeVisible();
    // From the head of the table one Tab leads to its rows, however many columns can be sorted.
    await page.locator('thead').getByRole('button').last().focus();
    await page.keyboard.press('Tab');
    await expect(rows(page).first()).toBeFocused();
    await page.keyboard.press('ArrowDown');
    await expect(rows(page).nth(1)).toBeFocused();
    const opened = await rows(page).nth(1).locator('a').first().getAttribute('href');
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL((url) => url.pathname === opened);
    await page.goBack();
    await expect(rows(page).nth(1)).toBeVisible();
  }
});

test('columns are moved, resized and hidden, by hand and by keys, and stay so', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/companies');
  await expect(rows(page).first()).toBeVisible();
  expect(await heads(page)).toEqual([
    'name',
    'domain',
    'industry',
    'country',
    'employees',
    'people',
    'openDeals',
  ]);
  await page.locator('[data-draggable=ready]').first().waitFor();
  await page.locator('th[data-column=industry]').dragTo(page.locator('th[data-column=domain]'));
  await expect
    .poll(() => heads(page))
    .toEqual(['name', 'industry', 'domain', 'country', 'employees', 'people', 'openDeals']);
  const width = async (key: string) =>
    (await page.locator(`th[data-column=${key}]`).boundingBox())?.width ?? 0;
  const before = await width('name');
  const grip = await page.locator('th[data-column=name] .grip').boundingBox();
  if (!grip) throw new Error('There is no grip.');
  await page.mouse.move(grip.x + 4, grip.y + 4);
  await page.mouse.down();
  await page.mouse.move(grip.x + 64, grip.y + 4, { steps: 4 });
  await page.mouse.up();
  expect(Math.abs((await width('name')) - before - 60)).toBeLessThan(3);
  const columns = page.getByRole('button', { name: 'Columns' });
  await columns.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('checkbox', { name: 'Country' }).press('Space');
  await page.getByRole('button', { name: 'Move Domain left' }).press('Enter');
  await page.keyboard.press('Escape');
  const arranged = ['name', 'domain', 'industry', 'employees', 'people', 'openDeals'];
  await expect.poll(() => heads(page)).toEqual(arranged);
  await page.reload();
  await expect(rows(page).first()).toBeVisible();
  expect(await heads(page)).toEqual(arranged);
  expect(Math.abs((await width('name')) - before)).toBeGreaterThan(20);
  await columns.click();
  await page.getByRole('button', { name: 'Reset columns' }).click();
  await expect.poll(() => heads(page)).toContain('country');
});

test('a row that cannot be loaded says so and is asked for again', async ({ browser }) => {
  const page = await signIn(browser);
  let isDown = true;
  await page.route('**/api/imports?*', (route) => (isDown ? route.abort() : route.continue()));
  await page.goto('/imports');
  await expect(page.getByRole('alert')).toContainText('The server does not answer');
  isDown = false;
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('a deal is moved by a finger that rests on it first, and the page does not scroll meanwhile', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 390, height: 844 }, hasTouch: true });
  await page.goto('/deals');
  const lane = (name: string) => page.locator(`[data-lane="${name}"]`);
  const card = lane('Heard out').locator('[data-deal]').last();
  await lane('Tried out').locator('[data-deal], .label').first().waitFor();
  await page.evaluate(() =>
    document.querySelector('[data-lane="Tried out"]')?.scrollIntoView({ block: 'center' }),
  );
  const title = (await card.locator('b').textContent()) ?? '';
  const [from, to] = [await card.boundingBox(), await lane('Tried out').locator('.label').boundingBox()];
  if (!from || !to) throw new Error('The lanes are not there.');
  const session = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x = 0, y = 0) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: type === 'touchEnd' ? [] : [{ x, y, id: 1 }],
    });
  await touch('touchStart', from.x + 40, from.y + 14);
  await expect(async () => {
    await touch('touchMove', from.x + 40, from.y + 14);
    await expect(page.locator('.carried')).toBeVisible({ timeout: 200 });
  }).toPass();
  const scrolled = await page.evaluate(() => window.scrollY);
  for (let step = 1; step <= 8; step++)
    await touch('touchMove', from.x + 40, from.y + 14 + ((to.y + 10 - from.y - 14) * step) / 8);
  expect(await page.evaluate(() => window.scrollY)).toBe(scrolled);
  await touch('touchEnd');
  await expect(lane('Tried out').locator('[data-deal]', { hasText: title })).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(lane('Heard out').locator('[data-deal]', { hasText: title })).toBeVisible();
});
