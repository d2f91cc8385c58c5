import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';

const strip = (page: Page) => page.getByRole('group', { name: 'Conditions' });
const count = async (page: Page): Promise<number> =>
  Number(/[\d,]+/.exec((await page.locator('.tools .count').textContent()) ?? '')?.[0].replace(',', ''));
const marks = (page: Page) => page.locator('.map [role=button]');
const list = (page: Page) => page.getByRole('region', { name: 'Records on the map' });
const query = { kind: 'company', columns: ['companyName'] };

/** A view of companies as a map, once the worker has placed those of the demo. */
async function openMap(page: Page): Promise<void> {
  await expect
    .poll(
      async () => {
        const body = { query, box: [-180, -85, 180, 85], across: 4 };
        const found = (await (await page.request.post('/api/queries/map', { data: body })).json()) as {
          placed: number;
        };
        return found.placed;
      },
      { timeout: 60_000 },
    )
    .toBeGreaterThan(80);
  await page.goto('/companies/views/new');
  await strip(page)
    .getByRole('button', { name: /^Shown as/ })
    .click();
  await page.getByText('Map', { exact: true }).click();
  await expect(marks(page).first()).toBeVisible();
  await expect(list(page).getByRole('link').first()).toBeVisible();
}
async function goTo(page: Page, typed: string, town: string): Promise<void> {
  const field = page.getByRole('combobox', { name: 'Go to a town' });
  await field.fill(typed);
  await page.getByRole('option', { name: town }).click();
}

test('an area drawn on the map is a condition of the view, in the table as on the map, and is saved with it', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await openMap(page);
  const all = await count(page);
  // Portugal, by the name its people give to a town.
  await goTo(page, 'coimbra', 'Coimbra, Portugal');
  await expect(page).toHaveURL(/at=40\.\d+/);
  for (let times = 0; times < 3; times++) await page.getByRole('button', { name: 'Zoom out' }).click();
  await expect(page).toHaveURL(/at=40\.\d+.*%2C6|at=40\.[\d,.-]+,6/);
  const map = page.getByRole('region', { name: 'Map of the records' });
  await page.getByRole('button', { name: 'Draw an area' }).click();
  await map.click({ position: { x: 40, y: 40 }, force: true });
  await expect(page.getByText('1 corner so far')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Draw an area' }).click();
  const use = page.getByRole('button', { name: 'Use this area' });
  await expect(use).toBeDisabled();
  await page.keyboard.press('Enter');
  await expect(use).toBeVisible();
  const box = await map.boundingBox();
  const [middle, half] = [{ x: (box?.width ?? 0) / 2, y: (box?.height ?? 0) / 2 }, 100];
  for (const [x, y] of [
    [-half, -2 * half],
    [half, -2 * half],
    [half, 2 * half],
    [-half, 2 * half],
  ] as const)
    // Beside the marks, which a press would open.
    await map.click({ position: { x: middle.x + x + 3, y: middle.y + y }, force: true });
  await expect(page.getByText('4 corners so far')).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByText('3 corners so far')).toBeVisible();
  await map.click({ position: { x: middle.x - half + 3, y: middle.y + 2 * half }, force: true });
  await expect(page.getByText('4 corners so far')).toBeVisible();
  await page.keyboard.press('Enter');
  const condition = strip(page).getByRole('button', { name: 'Location the area drawn on the map' });
  await expect(condition).toBeVisible();
  await expect.poll(() => count(page)).toBeLessThan(all);
  const within = await count(page);
  expect(within).toBeGreaterThan(3);

  await page.getByRole('button', { name: 'Save as …' }).click();
  const name = `Around Coimbra ${Date.now()}`;
  await page.getByRole('dialog').getByLabel(/^Name/).fill(name);
  await choose(page.getByRole('combobox', { name: 'Who sees it' }), 'Everybody');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await page.reload();
  await expect(marks(page).first()).toBeVisible();
  expect(await count(page)).toBe(within);
  // Everything in it is Portuguese, or next door.
  await strip(page)
    .getByRole('button', { name: /^Shown as/ })
    .click();
  await page.getByText('Table', { exact: true }).click();
  await expect(page.locator('tbody tr[data-index]').first()).toBeVisible();
  expect(await count(page)).toBe(within);
});

test('a group opens into its records, by key as by press, and the nearest to me are listed with how far they are', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.context().grantPermissions(['geolocation']);
  await page.context().setGeolocation({ latitude: 53.8, longitude: -1.55 });
  await openMap(page);
  const before = page.url();
  await marks(page).filter({ hasText: /^\d\d/ }).first().press('Enter');
  await expect.poll(() => page.url()).not.toBe(before);
  await page.getByRole('button', { name: 'Near me' }).click();
  await expect(list(page).getByRole('heading', { name: 'Nearest to you' })).toBeVisible();
  // Leeds is where I am; what is there comes first.
  await expect(list(page).locator('.record').first()).toContainText(/\d (?:km|m)/);
  const far = await list(page).locator('.record .num').allTextContents();
  const kilometres = far.map((text) => Number(text.replace(/[^\d.]/g, '')));
  expect(kilometres.length).toBeGreaterThan(2);
  expect(kilometres).toEqual([...kilometres].sort((a, b) => a - b));
  await page.getByRole('button', { name: 'Back to all of this part' }).click();
  await expect(list(page).getByRole('heading', { name: 'In this part of the map' })).toBeVisible();
  // Without drawing: what is shown is the area.
  await page.getByRole('button', { name: 'Only what is shown' }).click();
  await expect(strip(page).getByRole('button', { name: 'Location the area drawn on the map' })).toBeVisible();
});

test('where the browser does not say where it is, the page says so; a town is gone to instead', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await openMap(page);
  await page.getByRole('button', { name: 'Near me' }).click();
  await expect(page.getByRole('alert')).toContainText('did not give your location');
  await goTo(page, 'wien', 'Vienna, Austria');
  await expect(page).toHaveURL(/at=48\.\d+/);
});

test('an address opens in the map of the device, and what a view shows is handed over as GeoJSON', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await openMap(page);
  await page.getByRole('button', { name: 'Export' }).click();
  const coming = page.waitForEvent('download');
  await page.getByText('Map (GeoJSON)').click();
  expect((await coming).suggestedFilename()).toMatch(/\.geojson$/);
  await list(page).getByRole('link', { name: 'Liffey Linens' }).click();
  const link = page.getByRole('link', { name: 'Open in maps' });
  await expect(link).toHaveAttribute('href', /^geo:53\.3\d*,-6\.2\d*\?q=14%20Forge%20Lane/);
  await expect(page.locator('.place')).toHaveText('Open in maps · by town');
});
