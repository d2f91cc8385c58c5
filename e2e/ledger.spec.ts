import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';

/** Somebody new, with what is said of them entered through the API. */
async function makePerson(page: Page, name: string): Promise<string> {
  const made = await page.request.post('/api/people', { data: { fullName: name } });
  return ((await made.json()) as { person: { id: string } }).person.id;
}
const enter = (page: Page, personId: string, data: Record<string, unknown>) =>
  page.request.post('/api/ledger/entries', {
    data: { kind: 'note', side: 'within', about: [{ personId }], ...data },
  });
const entries = (page: Page) => page.locator('li[data-entry]');
const panel = (page: Page) => page.getByRole('complementary', { name: 'Entry' });
async function open(page: Page, headline: string): Promise<void> {
  const entry = entries(page).filter({ hasText: headline }).first();
  await entry.hover();
  await entry.getByRole('button', { name: `Details: ${headline}` }).click();
  await expect(panel(page)).toContainText('Belongs to');
}

test('what happened is narrowed by kind, words, colleague and month', async ({ browser }) => {
  const [page, ines] = [await signIn(browser), await signIn(browser, 'ines')];
  const id = await makePerson(page, `Ledger Narrow${Date.now()}`);
  await enter(page, id, { headline: 'Likes the cold boxes', at: '2026-03-05T10:00:00Z' });
  await enter(ines, id, {
    kind: 'call',
    side: 'ours',
    headline: 'Asked about the invoice',
    at: '2026-05-05T10:00:00Z',
  });
  await enter(page, id, {
    kind: 'visit',
    side: 'ours',
    headline: 'Saw the yard',
    at: '2026-06-05T10:00:00Z',
  });
  await page.goto(`/people/${id}`);
  await expect(entries(page)).toHaveCount(3);
  await expect(page.getByText('Mar 2026', { exact: true })).toBeVisible();
  const kinds = page.getByRole('region', { name: 'What happened' });
  await kinds.getByRole('button', { name: 'Calls' }).click();
  await expect(entries(page)).toHaveCount(1);
  await kinds.getByRole('button', { name: 'All', exact: true }).click();
  await kinds.getByRole('button', { name: 'Search' }).click();
  const search = page.getByRole('search', { name: 'Search what happened' });
  await search.getByRole('textbox', { name: 'Words' }).fill('boxes cold');
  await expect(entries(page)).toHaveText([/Likes the cold boxes/]);
  await search.getByRole('textbox', { name: 'Words' }).fill('nothing of the kind');
  await expect(page.getByText('Nothing here matches.')).toBeVisible();
  await search.getByRole('textbox', { name: 'Words' }).fill('');
  await choose(search.getByRole('combobox', { name: 'Colleague' }), 'Ines Tolland');
  await expect(entries(page)).toHaveText([/Asked about the invoice/]);
  await kinds.getByRole('button', { name: 'Close search' }).click();
  await expect(entries(page)).toHaveCount(3);
  await kinds.getByRole('button', { name: 'Search' }).click();
  // The field for words takes the focus when it is there; a list that was opened before would close.
  await expect(search.getByRole('textbox', { name: 'Words' })).toBeFocused();
  await choose(search.getByRole('combobox', { name: 'Go to' }), /^May 2026/);
  await expect(entries(page)).toHaveText([/Asked about the invoice/, /Likes the cold boxes/]);
});

test('an entry is mended, pinned, annotated in private, shared and removed; what it said before stays', async ({
  browser,
}) => {
  const [page, ines] = [await signIn(browser), await signIn(browser, 'ines')];
  const id = await makePerson(page, `Ledger Mend${Date.now()}`);
  await page.goto(`/people/${id}`);
  await page
    .getByLabel('Write what happened or what comes next')
    .fill('visited yesterday at 3, wants six bikes');
  await expect(page.locator('[data-part=entry]')).toContainText(/Visit/);
  await page.keyboard.press('Enter');
  await expect(entries(page)).toContainText(['Visit']);
  await open(page, 'Visited yesterday at 3, wants six bikes');
  await panel(page)
    .getByRole('button', { name: /What happened/ })
    .click();
  await panel(page).getByLabel('What happened').fill('Wants eight bikes');
  await page.keyboard.press('Enter');
  await expect(panel(page)).toContainText('What it said before');
  // Three is three in the afternoon.
  await expect(entries(page).getByRole('time')).toHaveText(/15:00/);
  await panel(page)
    .getByRole('button', { name: /Private note/ })
    .click();
  await panel(page).getByLabel('Private note').fill('Bring the price list');
  await panel(page).getByRole('button', { name: 'Save' }).click();
  await expect(entries(page)).toContainText(['Your private note']);
  await panel(page).getByRole('button', { name: 'Pin', exact: true }).click();
  await expect(page.getByRole('region', { name: '1 pinned entry' })).toContainText('Wants eight bikes');
  await ines.goto(`/people/${id}`);
  await expect(entries(ines)).toContainText(['Wants eight bikes']);
  await expect(ines.getByText('Your private note')).toHaveCount(0);
  await expect(ines.getByText('Bring the price list')).toHaveCount(0);
  await panel(page).getByRole('button', { name: 'Share as a note' }).click();
  await expect(ines.getByText('Bring the price list')).toBeVisible();
  await open(ines, 'Wants eight bikes');
  await expect(panel(ines).getByRole('button', { name: 'Remove' })).toHaveCount(0);
  await panel(page).getByRole('button', { name: 'Remove' }).click();
  await expect(entries(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(entries(page)).toHaveCount(2);
});

test('what a colleague entered stands out once, and “Not our turn” closes what is open', async ({
  browser,
}) => {
  const [page, ines] = [await signIn(browser), await signIn(browser, 'ines')];
  const id = await makePerson(page, `Ledger News${Date.now()}`);
  await page.goto(`/people/${id}`);
  await expect(page.getByText('Nothing logged yet.')).toBeVisible();
  await enter(ines, id, { kind: 'mail', side: 'theirs', headline: 'Could you send the quote?' });
  await expect(entries(page).getByText('New', { exact: true })).toHaveCount(0);
  await page.goto('/people');
  await enter(ines, id, { headline: 'Rang twice' });
  await page.goto(`/people/${id}`);
  await expect(
    entries(page).filter({ hasText: 'Rang twice' }).getByText('New', { exact: true }),
  ).toBeVisible();
  await page.reload();
  await expect(entries(page).filter({ hasText: 'Rang twice' })).toBeVisible();
  await expect(entries(page).getByText('New', { exact: true })).toHaveCount(0);
  await expect(page.getByText(/Our turn: they asked: Could you send the quote/)).toBeVisible();
  await page.getByRole('button', { name: 'Not our turn' }).click();
  await expect(page.getByText(/Nobody’s turn: Pell Garrick marked it as answered/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/Our turn/)).toBeVisible();
});
