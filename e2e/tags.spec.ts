import { choose, signIn } from './pages';
import { expect, test } from './test';

test('a tag is given on a card, coloured by what it means, renamed with what asks for it, and merged', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  const now = Date.now();
  const [old, next] = [`bakers ${now}`, `bakeries ${now}`];
  const add = async (fullName: string, tags: string[]): Promise<string> => {
    const made = await page.request.post('/api/people', { data: { fullName, tags } });
    return ((await made.json()) as { person: { id: string } }).person.id;
  };
  const [first, second] = [await add(`Tagged One ${now}`, []), await add(`Tagged Two ${now}`, [next])];

  await page.goto(`/people/${first}`);
  const field = page.getByRole('combobox', { name: 'Tags' });
  await field.fill(`${old},`);
  await expect(page.locator('.v-chip', { hasText: old })).toBeVisible();

  await page.goto('/settings/tags');
  const table = page.getByRole('table', { name: 'Tags' });
  const mine = table.getByRole('row').filter({ hasText: String(now) });
  await expect(mine).toHaveCount(2);
  await choose(page.getByRole('combobox', { name: `What ${old} means` }), 'Waiting');
  await expect(page.getByText(`Changed the colour of “${old}”.`)).toBeVisible();

  await page.getByRole('button', { name: `Change ${old}` }).click();
  const panel = page.getByRole('complementary', { name: old });
  await expect(panel).toContainText('1 record has it');
  await panel.getByLabel('Name').fill(`Bakers ${now}`);
  await panel.getByRole('button', { name: 'Rename' }).click();
  await expect(page.getByText(`“${old}” is now “Bakers ${now}”.`)).toBeVisible();
  await expect(table).toContainText(`Bakers ${now}`);

  await page.getByRole('button', { name: `Change Bakers ${now}` }).click();
  const renamed = page.getByRole('complementary', { name: `Bakers ${now}` });
  await renamed.getByLabel('Name').fill(next);
  await expect(renamed).toContainText('exists already: both become one');
  await renamed.getByRole('button', { name: 'Merge' }).click();
  await expect(mine).toHaveCount(1);
  await expect(mine).toContainText('2');
  await page.goto(`/people/${first}`);
  // The meaning goes with the tag.
  await expect(page.locator('.v-chip', { hasText: next })).toHaveClass(/waiting/);
  await expect(page.locator('.v-chip', { hasText: next })).toContainText('Waiting');

  await page.goto('/settings/bulk');
  await expect(page.getByText(`tag “Bakers ${now}” to “${next}”`).first()).toBeVisible();
  await page.goto(`/people/${second}`);
  await expect(page.locator('.v-chip', { hasText: next })).toBeVisible();
});

test('a list is renamed, emptied into another, and removed; a rep looks but changes nothing', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  const now = Date.now();
  for (const name of [`Autumn ${now}`, `Winter ${now}`])
    await page.request.post('/api/lists', { data: { name } });
  await page.goto('/settings/tags');
  await page.getByRole('tab', { name: 'Lists' }).click();
  const table = page.getByRole('table', { name: 'Lists' });
  await page.getByRole('button', { name: `Change Autumn ${now}` }).click();
  const panel = page.getByRole('complementary', { name: `Autumn ${now}` });
  await panel.getByLabel('Name').fill(`Winter ${now}`);
  await panel.getByRole('button', { name: 'Rename' }).click();
  await expect(panel.getByRole('alert')).toContainText(`There is a list “Winter ${now}” already.`);
  await panel.getByLabel('Name').fill(`Fall ${now}`);
  await panel.getByRole('button', { name: 'Rename' }).click();
  await page.getByRole('button', { name: `Change Fall ${now}` }).click();
  await page
    .getByRole('complementary', { name: `Fall ${now}` })
    .getByRole('button', { name: 'Remove' })
    .click();
  await expect(table).not.toContainText(`Fall ${now}`);
  await page.getByRole('tab', { name: 'Sources of leads' }).click();
  await expect(page.getByRole('table', { name: 'Sources of leads' }).getByRole('row').nth(1)).toBeVisible();

  const rep = await signIn(browser, 'pell');
  await rep.goto('/settings/tags');
  await expect(rep.getByRole('table', { name: 'Tags' }).getByRole('row').nth(1)).toBeVisible();
  await expect(rep.getByRole('button', { name: /^Change / })).toHaveCount(0);
});
