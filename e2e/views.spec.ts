import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';
import { meter } from './meter';

const words = (page: Page) => page.getByLabel('Add a condition in words');
const rows = (page: Page) => page.locator('tbody tr[data-index]');
const strip = (page: Page) => page.getByRole('group', { name: 'Conditions' });
const cell = (page: Page, text: string | RegExp) => strip(page).getByRole('button', { name: text });
const count = (page: Page) => page.locator('.tools .count');

/** Writes a question and takes it as it is read. */
async function write(page: Page, question: string): Promise<void> {
  await words(page).fill(question);
  await words(page).press('Enter');
}

test('a question in words is shown as it is read, applies, is saved, shared, and found by a colleague', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/people/views/new');
  await expect(rows(page).first()).toBeVisible();
  await expect(count(page)).toHaveText(/^\d+ people/);
  const all = await count(page).textContent();
  await words(page).pressSequentially('prospects or customers, by country then owner, sparkling');
  const read = page.locator('.words .read');
  await expect(read).toContainText('Standing: prospect or customer');
  await expect(read).toContainText('Grouped by country, then owner');
  await expect(read).toContainText('Not understood, and left out: “sparkling”');
  // Nothing applies before it is taken.
  await expect(count(page)).toHaveText(all ?? '');
  const measured = await meter(page);
  await words(page).press('Enter');
  await expect(cell(page, 'Standing prospect or customer')).toBeVisible();
  await expect(words(page)).toHaveValue('sparkling');
  await expect(page.locator('tr.heading').first()).toContainText(/\d+ people/);
  // What the headings say adds up to what the head says.
  const total = Number(/[\d,]+/.exec((await count(page).textContent()) ?? '')?.[0].replace(',', ''));
  expect(total).toBeGreaterThan(5);
  await page.getByRole('button', { name: 'Save as …' }).click();
  const name = `Team prospects ${Date.now()}`;
  await page.getByRole('dialog').getByLabel(/^Name/).fill(name);
  await choose(page.getByRole('combobox', { name: 'Who sees it' }), 'Everybody');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await expect(page.getByText('changed', { exact: true })).toBeHidden();
  // Grouped, filtered, saved and shared within ten seconds of effort, the typing of its words and name aside.
  expect((await measured()).seconds).toBeLessThan(10);
  const address = page.url();

  const ines = await signIn(browser, 'ines');
  await ines.goto('/people/views');
  await ines.getByRole('button', { name: 'All views …' }).click();
  await ines
    .getByRole('listitem')
    .filter({ hasText: name })
    .or(ines.getByRole('link', { name }))
    .first()
    .click();
  await expect(ines).toHaveURL(address);
  await expect(count(ines)).toHaveText((await count(page).textContent()) ?? '');
  // The last used comes back.
  await ines.goto('/people');
  await ines.getByRole('link', { name: 'Views', exact: true }).click();
  await expect(ines.getByRole('heading', { name })).toBeVisible();
  // It is not hers to change; she can keep her own.
  await write(ines, 'in portugal');
  await expect(ines.getByText('changed', { exact: true })).toBeVisible();
  await expect(ines.getByRole('button', { name: 'Save', exact: true })).toBeHidden();
  await expect(ines.getByRole('button', { name: 'Save as …' })).toBeVisible();
});

test('“spoken to today” is two presses away', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/people/views/new');
  const measured = await meter(page);
  await page.getByRole('link', { name: 'Spoken to today' }).click();
  await expect(page.getByRole('heading', { name: 'Spoken to today' })).toBeVisible();
  await expect(cell(page, 'Last spoken to today')).toBeVisible();
  expect((await measured()).seconds).toBeLessThan(2);
});

test('column heads filter, sort, group and hide; what was changed stands in the address and is discarded', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/people/views');
  await page.getByRole('link', { name: 'Going quiet' }).click();
  await expect(page.getByRole('heading', { name: 'Going quiet' })).toBeVisible();
  // Until its own are there, the rows of the view before stay.
  await page.reload();
  await expect(rows(page).first()).toBeVisible();
  await expect(count(page)).toHaveText(/^\d+ people/);
  const before = await count(page).textContent();
  const menu = async (head: string, action: string) => {
    await page.getByRole('columnheader', { name: head }).getByRole('button').click();
    await page.locator('.v-overlay--active .choices').getByText(action, { exact: true }).click();
  };
  await menu('Owner', 'Only mine');
  await expect(cell(page, 'Owner me')).toBeVisible();
  await expect(count(page)).not.toHaveText(before ?? '');
  await expect
    .poll(async () => new Set(await rows(page).locator('td:last-child').allTextContents()))
    .toEqual(new Set(['Pell Garrick']));
  await menu('Name', 'Group by first letter');
  await expect(page.locator('tr.heading').first()).toContainText(/^\s*[A-Z#]/);
  await menu('Job title', 'Hide column');
  await expect(page.getByRole('columnheader', { name: 'Job title' })).toBeHidden();
  // A right click opens the same menu.
  await page.getByRole('columnheader', { name: 'Company' }).getByRole('button').click({ button: 'right' });
  await expect(page.locator('.v-overlay--active .choices')).toContainText('Sort, A to Z');
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(cell(page, 'Owner me')).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Job title' })).toBeHidden();
  await page.getByRole('button', { name: 'Discard changes' }).click();
  await expect(cell(page, 'Owner me')).toBeHidden();
  await expect(count(page)).toHaveText(before ?? '');
  expect(page.url()).not.toContain('changed');
});

test('a table has numbers at its foot, and goes where letters are typed', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/deals/views/new');
  await expect(count(page)).toHaveText(/^\d+ deals/);
  const foot = page.locator('tfoot');
  await expect(foot).toContainText(/\d+ deals/);
  await foot.getByRole('button', { name: 'Total …' }).first().click();
  await page.locator('.v-overlay--active .choices').getByText('Sum', { exact: true }).click();
  await expect(foot).toContainText(/Sum\s*€[\d,.]+/);
  const sum = /€[\d,.]+/.exec(await foot.innerText())?.[0] ?? '';
  await expect(count(page)).toContainText(sum);
  await expect(foot.locator('td').nth(1)).toBeInViewport();
  await page.goto('/people/views/new');
  await expect(rows(page).first()).toBeVisible();
  await expect(count(page)).toHaveText(/^\d+ people/);
  await rows(page).first().focus();
  await page.keyboard.type('br');
  await expect(page.getByText('from “br” on')).toBeVisible();
  await expect(rows(page).first().locator('td.name')).toHaveText(/^\s*Br/);
  const names = await rows(page).locator('td.name').allInnerTexts();
  expect(names.every((name) => name.trim() >= 'Br')).toBe(true);
  await page.getByRole('button', { name: 'Back to the top' }).click();
  await expect(rows(page).first().locator('td.name')).toHaveText(/^\s*A/);
});

test('a view stands in a calendar by a date, a month at a time, and a full day opens as a table', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mark = `c${Date.now() % 1_000_000}`;
  for (const name of ['Ann', 'Ben', 'Cleo', 'Dan', 'Eva', 'Finn'])
    await page.request.post('/api/people', {
      data: { fullName: `${name} ${mark}`, tags: [mark] },
    });
  await page.goto('/people/views/new');
  await write(page, `tagged ${mark}`);
  await expect(count(page)).toHaveText('6 people');
  await cell(page, /^Shown as/).click();
  await page.locator('.v-overlay--active .choices').getByText('Calendar by added', { exact: true }).click();
  const today = page.locator('td.today');
  await expect(today.getByRole('link')).toHaveCount(4);
  await expect(today.getByRole('button', { name: /^2 more on/ })).toBeVisible();
  // The weeks of the next month may begin with today.
  for (let month = 0; month < 2; month++) await page.getByRole('button', { name: 'Later' }).click();
  await expect(page.getByRole('link', { name: mark })).toHaveCount(0);
  await page.getByRole('button', { name: 'Today' }).click();
  await page.getByRole('button', { name: /^2 more on/ }).click();
  await expect(cell(page, /^Shown as table/)).toBeVisible();
  await expect(count(page)).toHaveText('6 people');
});

test('a condition is edited in place, added by field, and removed', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/deals/views/new');
  await expect(rows(page).first()).toBeVisible();
  await expect(count(page)).toHaveText(/^\d+ deals/);
  const all = (await count(page).textContent()) ?? '';
  await strip(page).getByRole('button', { name: 'By field …' }).click();
  await page.getByRole('combobox', { name: 'Field' }).fill('Value');
  await page.getByRole('option', { name: 'Value', exact: true }).click();
  const editor = page.getByRole('form', { name: 'Value' });
  await expect(editor).toBeVisible();
  await choose(editor.getByRole('combobox', { name: 'Comparison' }), 'is at least');
  await editor.getByLabel('Value').fill('5000');
  await editor.getByRole('button', { name: 'Done' }).click();
  await expect(cell(page, /Value at least €5,000/)).toBeVisible();
  await expect(page.locator('tbody tr.heading')).toHaveCount(0);
  await expect(count(page)).not.toHaveText(all);
  await expect(count(page)).toHaveText(/^[1-9]/);
  await cell(page, /Value at least/).click();
  await page.getByRole('form', { name: 'Value' }).getByRole('button', { name: 'Remove condition' }).click();
  await expect(cell(page, /Value at least/)).toBeHidden();
  await expect(count(page)).toHaveText(all);
});

test('a view is renamed, deleted and brought back', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/leads/views/new');
  await write(page, 'by status');
  await page.getByRole('button', { name: 'Save as …' }).click();
  const name = `Leads by status ${Date.now()}`;
  await page.getByRole('dialog').getByLabel(/^Name/).fill(name);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  const address = page.url();
  await page.getByRole('button', { name: 'All views …' }).click();
  await page.getByText('Delete this view').click();
  await expect(page.getByRole('heading', { name })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undone/)).toBeVisible();
  await page.goto(address);
  await expect(page.getByRole('heading', { name })).toBeVisible();
});

test('a view stands in lanes, where a card that is dragged takes the value of its lane, and as cards that answer', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mark = `w${Date.now() % 1_000_000}`;
  for (const name of ['Ann', 'Ben'])
    await page.request.post('/api/people', { data: { fullName: `${name} ${mark}`, tags: [mark] } });
  await page.goto('/people/views/new');
  await write(page, `tagged ${mark}`);
  await expect(count(page)).toHaveText('2 people');
  await cell(page, /^Shown as/).click();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Lanes by standing' })
    .or(page.getByText('Lanes by standing'))
    .first()
    .click();
  const lane = (name: string) => page.getByRole('region', { name, exact: true });
  const ann = (where: string) => lane(where).getByRole('article', { name: `Ann ${mark}` });
  await expect(ann('Stranger')).toBeVisible();
  await expect(lane('Stranger')).toContainText('Stranger 2');
  await page.locator('[data-draggable=ready]').first().waitFor();
  const from = await ann('Stranger').boundingBox();
  const to = await lane('Customer').boundingBox();
  if (!from || !to) throw new Error('nothing to drag');
  await page.mouse.move(from.x + from.width - 12, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width, from.y + 20, { steps: 4 });
  await page.mouse.move(to.x + 60, to.y + 40, { steps: 8 });
  await page.mouse.up();
  await expect(ann('Customer')).toBeVisible();
  await expect(page.getByText('Changed 1 person')).toBeVisible();
  await expect(lane('Stranger')).toContainText('Stranger 1');
  await page.keyboard.press('Control+z');
  await expect(ann('Stranger')).toBeVisible();
  // The same by keyboard.
  await ann('Stranger').getByRole('button', { name: /^Move/ }).press('Enter');
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Partner' })
    .or(page.getByRole('option', { name: 'Partner' }))
    .first()
    .click();
  await expect(ann('Partner')).toBeVisible();

  await cell(page, /^Shown as/).click();
  await page.getByText('Cards', { exact: true }).click();
  const card = page.getByRole('article', { name: `Ben ${mark}` });
  await card.getByRole('button', { name: 'Write …' }).click();
  await page.keyboard.type('call Thursday 11am');
  await page.keyboard.press('Enter');
  await expect(page.getByText(new RegExp(`Ben ${mark}:`))).toBeVisible();
  await expect(card).toContainText('Next move due');
  // Saved with the view, and there again after.
  await page.getByRole('button', { name: 'Save as …' }).click();
  await page.getByRole('dialog').getByLabel(/^Name/).fill(`Cards ${mark}`);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: `Cards ${mark}` })).toBeVisible();
  await page.reload();
  await expect(cell(page, 'Shown as cards')).toBeVisible();
  await expect(card).toBeVisible();
});

test('projects, cases, history and captures have views, each of whose rows leads on', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  await page.goto('/deals/projects/views');
  await expect(page.getByRole('heading', { name: 'Open projects' })).toBeVisible();
  await page.getByRole('link', { name: 'Norrsken Florists' }).first().click();
  await expect(page).toHaveURL(/\/projects\//);

  await page.goto('/deals/cases/views');
  await page.getByRole('link', { name: 'Cold box stays warm' }).click();
  await expect(page).toHaveURL(/\/cases\//);

  await page.goto('/arrivals/views');
  await expect(page.getByRole('heading', { name: 'Waiting' })).toBeVisible();
  await page.getByRole('link', { name: 'The hire plan' }).click();
  await expect(page).toHaveURL(/\/arrivals\//);

  await page.goto('/round/history');
  await expect(page.getByText('this week', { exact: true }).first()).toBeVisible();
  await page.goto('/round/views');
  await page.getByRole('row').nth(1).getByRole('link').first().click();
  await expect(page).toHaveURL(/\/round\/views\/.*task=/);
});
