import { expect, test } from './test';
import { choose, signIn, urlOf } from './pages';

test('a table is looked through, imported, and taken back as a whole', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/imports');
  await page.locator('input[type=file]').setInputFiles({
    name: 'fair.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Name;Firma;E-Mail;Handy\nJörg Bühler;Bühler GmbH;joerg@buehler.example;+49 171 3920012\n;;;\nkein Name;;nichts;\n;Ohne;;\n',
      'latin1',
    ),
  });
  await page.waitForURL('**/imports/*');
  await expect(page.getByText('windows-1252', { exact: false })).toBeVisible();
  await expect(page.getByLabel('What Firma holds')).toHaveValue('Company');
  await page.getByRole('button', { name: 'Preview' }).click();
  await expect(page.getByLabel('What will change')).toContainText('2 new');
  await expect(page.getByText('it names a company and no person', { exact: false }).first()).toBeVisible();
  await page.getByRole('button', { name: /^Import / }).click();
  await expect(page.getByText('· done')).toBeVisible();
  await page.getByRole('link', { name: 'See the people' }).click();
  await page.getByLabel('Narrow by name').fill('bühler');
  await expect(page.getByRole('link', { name: 'Jörg Bühler' })).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Undo the import' }).click();
  await expect(page.getByText('· undone')).toBeVisible();
  const found = await page.request.get('/api/people?q=B%C3%BChler');
  expect(((await found.json()) as { items: unknown[] }).items).toEqual([]);
});

test('a form is designed, filled in on the shop window, and what was sent is filed', async ({ browser }) => {
  const mara = await signIn(browser, 'mara');
  await mara.goto('/forms');
  await mara.getByRole('link', { name: 'Ask us about a bike' }).click();
  await mara.getByRole('button', { name: 'Add a question' }).click();
  await mara.getByLabel('Question 6', { exact: true }).fill('Where are you?');
  await choose(mara.getByLabel('What question 6 stands for'), 'Address');
  await mara.getByRole('button', { name: 'Save the form' }).click();
  await expect(mara.getByText('Saved the form Ask us about a bike.')).toBeVisible();
  const visitor = await (await browser.newContext()).newPage();
  await visitor.goto(process.env.E2E_SHOP_URL ?? '');
  const form = visitor.frameLocator('iframe');
  await form.getByLabel('Your name').fill('Theo Marsh');
  await form.getByLabel('Your email').fill('theo@marshflowers.example');
  await form.getByLabel('Your company').fill('Marsh Flowers');
  await form
    .getByLabel('What do you want to carry?')
    .fill('Flowers. Could you send a price for three long bikes?');
  await form.getByLabel('You may write to me').check();
  await form.getByLabel('Where are you?').fill('4 Dock Road, Cardiff CF10 4AA');
  await form.getByRole('button', { name: 'Send' }).click();
  await expect(form.getByText('We answer within a working day.')).toBeVisible();
  await mara.goto('/arrivals');
  await expect(mara.getByText('Theo Marsh').first()).toBeVisible();
  await mara.getByText('Theo Marsh').first().click();
  await expect(mara.getByText('3 long bikes').first()).toBeVisible();
  await mara.getByRole('button', { name: /File it/ }).click();
  await expect(mara.getByText('Filed: Theo Marsh, Marsh Flowers.')).toBeVisible();
  await visitor.goto(process.env.E2E_OUTBOX_URL ?? '');
  await expect(visitor.getByText('theo@marshflowers.example')).toBeVisible();
  await visitor.getByRole('link', { name: /confirm/ }).click();
  await visitor.getByRole('button', { name: 'Yes, you may write to me' }).click();
  await expect(visitor.getByText(/Thank you|confirmed/i).first()).toBeVisible();
  await mara.getByRole('link', { name: 'Open the dossier' }).click();
  await expect(mara.getByText(/agreed/).first()).toBeVisible();
});

test('a desk form saves and goes on to the next, prefilled for somebody we know', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/forms');
  await page.getByRole('link', { name: 'Fill in' }).click();
  await page.getByLabel('Existing person').fill('Ines Dua');
  await page
    .getByRole('button', { name: /Ines Duarte/ })
    .first()
    .click();
  await expect(page.getByLabel('Name (required)')).toHaveValue('Ines Duarte');
  await choose(page.getByRole('combobox', { name: 'Rode which bike?' }), 'Long bike');
  await page.getByRole('button', { name: 'Save and next' }).click();
  await expect(page.getByText('Saved on Ines Duarte.')).toBeVisible();
  await expect(page.getByText('1 saved')).toBeVisible();
  await expect(page.getByLabel('Name (required)')).toHaveValue('');
});

test('an address is fetched, a saved page is dropped, and what must not be fetched is refused in words', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.getByRole('button', { name: 'Capture' }).click();
  await page.getByLabel(/Or paste a message/).fill('http://169.254.169.254/latest/');
  await page.getByRole('button', { name: /Read it/ }).click();
  await expect(page.getByText(/is not on the open internet/)).toBeVisible();
  await page
    .getByLabel(/Or paste a message/)
    .fill(`${process.env.E2E_ROLLCALL_URL ?? ''}/people/callum-redfern`);
  await page.getByRole('button', { name: /Read it/ }).click();
  await expect(page.getByText('Operations Director').first()).toBeVisible();
  await page.getByRole('button', { name: 'Capture' }).click();
  await page.locator('[role=dialog] input[type=file]').setInputFiles({
    name: 'saved.html',
    mimeType: 'text/html',
    buffer: Buffer.from('<h1>Gwen Saved</h1><h2>Buyer at Saved Bakery</h2>'),
  });
  await expect(page.getByText('Saved Bakery').first()).toBeVisible();
  expect(urlOf()).not.toBe('');
});
