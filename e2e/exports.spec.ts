import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from './test';
import { signIn } from './pages';

const rows = (page: Page) => page.locator('tbody tr[data-index]');
const count = (page: Page) => page.locator('.tools .count');

test('what a view shows is handed over as files, a large one made while one works on', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/deals/views/new');
  await expect(count(page)).toHaveText(/^\d+ deals/);
  const hand = async (format: string) => {
    await page.getByRole('button', { name: 'Export', exact: true }).click();
    const coming = page.waitForEvent('download');
    await page.locator('.v-overlay--active .choices').getByText(format, { exact: true }).click();
    return coming;
  };
  const book = await hand('Workbook (XLSX)');
  expect(book.suggestedFilename()).toBe('New-view-of-deals.xlsx');
  const calendar = await hand('Calendar (iCalendar)');
  expect(await readFile(await calendar.path(), 'utf8')).toMatch(/BEGIN:VEVENT[\s\S]*expected close/);
  // Deals have no contact cards.
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await expect(page.locator('.v-overlay--active .choices')).not.toContainText('vCard');
  await page.keyboard.press('Escape');

  // A large one: what is counted is said to be many, as it would be of a large house.
  await page.route('**/api/queries/totals', async (route) => {
    const answer = await route.fetch();
    const told = (await answer.json()) as { items: { count: number }[] };
    for (const one of told.items.slice(0, 1)) one.count = 5000;
    await route.fulfill({ response: answer, json: told });
  });
  await page.goto('/people/views/new');
  await expect(count(page)).toHaveText('5,000 people');
  const cards = await hand('Contact cards (vCard)');
  expect(await readFile(await cards.path(), 'utf8')).toContain('BEGIN:VCARD');
  await expect(page.getByText('Contact cards (vCard) of New view of people is ready')).toBeVisible();
  await page.getByRole('link', { name: 'Exports' }).click();
  const kept = page.getByRole('region', { name: 'New view of people' }).first();
  await expect(kept).toContainText(/records, .* kept until/);
  await kept.getByRole('button', { name: 'Delete New view of people' }).click();
  await expect(page.getByText('Nothing yet.')).toBeVisible();
});

test('on paper a view has all its rows and no controls, and a record is one page', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/deals/views/new');
  await expect(count(page)).toHaveText(/^\d+ deals/);
  const deals = Number.parseInt((await count(page).textContent()) ?? '', 10);
  expect(await rows(page).count()).toBeLessThan(deals);
  await page.emulateMedia({ media: 'print' });
  await expect(rows(page)).toHaveCount(deals);
  await expect(page.getByRole('banner')).toBeHidden();
  await expect(page.getByRole('button', { name: 'Export', exact: true })).toBeHidden();
  await expect(page.getByRole('columnheader', { name: 'Value' })).toBeVisible();
  await page.emulateMedia({ media: 'screen' });
  await expect(page.getByRole('banner')).toBeVisible();
  await rows(page).first().locator('td.name').getByRole('link').click();
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'One-page PDF' }).click();
  const paper = await readFile(await (await coming).path());
  expect(paper.subarray(0, 5).toString()).toBe('%PDF-');
});
