import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';

const mark = (): string => `q${Date.now() % 1_000_000}`;
async function makePerson(page: Page, fullName: string, more: object = {}): Promise<string> {
  const answer = await page.request.post('/api/people', { data: { fullName, ...more } });
  return ((await answer.json()) as { person: { id: string } }).person.id;
}
const bar = (page: Page) => page.getByRole('region', { name: 'Selected' });
async function openData(page: Page, id: string): Promise<void> {
  await page.goto(`/people/${id}`);
  await page.getByRole('button', { name: 'More…' }).click();
  await page.getByText('Data about them…').click();
}

test('a manager hands somebody all that is known of them, and erases them for good; a rep is offered neither', async ({
  browser,
}) => {
  const [mara, pell] = [await signIn(browser, 'mara'), await signIn(browser)];
  const name = `Tobias ${mark()}`;
  const id = await makePerson(pell, name, { email: `${mark()}@harbour.example` });
  await pell.request.post('/api/leads', { data: { title: `${name}: two trailers`, personId: id } });
  await pell.goto(`/people/${id}`);
  await pell.getByRole('button', { name: 'More…' }).click();
  await expect(pell.getByText('Set inactive')).toBeVisible();
  await expect(pell.getByText('Data about them…')).toBeHidden();

  await openData(mara, id);
  const dialog = mara.getByRole('dialog', { name: `Data about ${name}` });
  const waiting = mara.waitForEvent('download');
  await dialog.getByRole('link', { name: 'Download everything' }).click();
  const parts = unzipSync(new Uint8Array(readFileSync(await (await waiting).path())));
  expect(strFromU8(parts['person.json'] ?? new Uint8Array())).toContain(name);
  await expect(dialog.getByText(/^\d contact details?$/)).toBeVisible();
  await expect(dialog.getByText('1 lead', { exact: true })).toBeVisible();
  const erase = dialog.getByRole('button', { name: 'Erase for good' });
  await dialog.getByLabel(/^Type/).fill('Somebody else');
  await expect(erase).toBeDisabled();
  await dialog.getByLabel(/^Why/).fill('Asked by phone');
  await dialog.getByLabel(/^Type/).fill(name.toLowerCase());
  await erase.click();
  await expect(mara.getByText('Erased. Leads, deals and dates are kept without the person.')).toBeVisible();
  // Whoever has the page open is told, without loading it again.
  await expect(pell.getByText(/This person was erased on/)).toBeVisible();
  await mara.goto('/settings/privacy');
  await expect(mara.getByRole('row').nth(1)).toContainText('Mara Quill');
  await expect(mara.getByRole('row').nth(1)).toContainText('Asked by phone');
  await expect(mara.getByText(name)).toBeHidden();
});

test('several people are erased from a list once their number is typed, with no way back offered', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  const word = mark();
  for (const first of ['Ada', 'Ben']) await makePerson(page, `${first} ${word}`);
  await page.goto(`/people?q=${word}`);
  await page.getByLabel('Select all').first().check();
  await bar(page).getByRole('button', { name: 'Erase …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Erase 2 people' });
  await expect(dialog).toContainText(`Ada ${word}`);
  await dialog.getByLabel('Type 2 to erase them').fill('2');
  await dialog.getByRole('button', { name: 'Erase for good' }).click();
  await expect(page.getByText('Erased 2 people')).toBeVisible();
  await page.goto('/settings/bulk');
  const change = page.getByRole('region', { name: 'erased for good' }).first();
  await expect(change).toContainText('2 people erased');
  await expect(change.getByRole('button', { name: 'Undo' })).toBeHidden();
});

test('two selected people are merged from the list, and who would no longer see them is said before', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const word = mark();
  for (const first of ['Cai', 'Caj']) await makePerson(page, `${first} ${word}`);
  await page.goto(`/people?q=${word}`);
  await page.getByLabel('Select all').first().check();
  await bar(page).getByRole('button', { name: 'More' }).click();
  await choose(
    page.getByRole('dialog').getByRole('combobox', { name: 'Visible to' }),
    'The owner and their managers',
  );
  await expect(page.getByRole('dialog')).toContainText(/No longer seen by\s[^]*Ines Tolland \(2\)/);
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
  await bar(page).getByRole('link', { name: 'Merge into one …' }).click();
  await expect(page.getByText(`Cai ${word}`).first()).toBeVisible();
  await expect(page.getByText(`Caj ${word}`).first()).toBeVisible();
});

test('an admin sees what a keeping time would take before it is saved', async ({ browser }) => {
  const page = await signIn(browser, 'joss');
  await page.goto('/settings/privacy');
  const field = page.getByRole('combobox', { name: 'Imported files' });
  await choose(field, 'After 10 years');
  await expect(page.getByText('Nothing is that old now.')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Keeping time saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('After 10 years')).toBeVisible();
  await choose(page.getByRole('combobox', { name: 'Imported files' }), 'Keep');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('After 10 years')).toBeHidden();
});
