import { signIn } from './pages';
import { expect, test, type Page } from './test';

/** Where somebody new is sent, and where they arrive: by one command of the find field, or by two presses. */
const COMMANDS: readonly [task: string, typed: string, arrives: string | RegExp][] = [
  ['see what came in', 'inbox', '/arrivals'],
  ['see the calls', 'calls', '/calls'],
  ['import a table', 'csv', '/imports'],
  ['make a web form', 'forms', '/forms'],
  ['bring back what was set aside', 'set aside', '/arrivals/set-aside'],
  ['see what is due today', 'today', '/round'],
  ['sort strangers', 'triage', /\/triage$/],
  ['merge duplicates', 'duplicates', /\/look-alikes$/],
  ['see what look-ups cost', 'allowance', '/settings/look-ups'],
  ['see the pipeline', 'pipeline board', '/deals'],
  ['see all deals as a table', 'list of deals', '/deals/table'],
  ['see the forecast', 'forecast', '/deals/forecast'],
  ['change my time zone', 'time zone', '/settings/profile'],
  ['set my phone line', 'phone line', '/settings/phone-line'],
  ['add my mailbox', 'imap', '/settings/mailboxes'],
  ['get a token', 'token', '/settings/tokens'],
  ['change my password', 'password', '/settings/sign-in'],
  ['say who sees what', 'private', '/settings/visibility'],
  ['add a field', 'custom field', '/settings/fields'],
  ['change the fit rules', 'fit rules', '/settings/fit'],
  ['say who gets leads', 'assignment', '/settings/lead-owners'],
  ['change the stages', 'stages', '/settings/pipelines'],
  ['change a price', 'prices', '/settings/products'],
  ['set an exchange rate', 'exchange rates', '/settings/currencies'],
];
const MADE: readonly [typed: string, dialog: string][] = [
  ['new person', 'New person'],
  ['new company', 'New company'],
  ['new lead', 'New lead'],
  ['new deal', 'New deal'],
  ['new task', 'New task'],
];
const PRESSES: readonly [links: readonly string[], arrives: string][] = [
  [['People', 'Look-alikes'], '/people/look-alikes'],
  [['Leads', 'Triage'], '/leads/triage'],
  [['Deals', 'Forecast'], '/deals/forecast'],
  [['Settings', 'Products and prices'], '/settings/products'],
  [['Import'], '/imports'],
];

const field = (page: Page) => page.getByLabel('Find a record or type what to do');

async function command(page: Page, typed: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await field(page).fill(typed);
  const listed = page.getByRole('listbox', { name: 'Found' });
  await expect(listed.getByRole('option').first()).toBeVisible();
  // Records of that name come first; a place or command is taken where it stands.
  await listed
    .getByRole('option')
    .filter({ hasText: /Arrivals|Round|Leads|People|Companies|Deals|Settings|Make|Theme/ })
    .first()
    .click();
}

test('a newcomer reaches thirty things by one command or two presses', async ({ browser }) => {
  test.setTimeout(180_000);
  const page = await signIn(browser, 'mara');
  expect(COMMANDS.length + MADE.length + PRESSES.length).toBeGreaterThanOrEqual(30);
  for (const [task, typed, arrives] of COMMANDS) {
    await page.goto('/round');
    await command(page, typed);
    await expect(page, task).toHaveURL(
      typeof arrives === 'string' ? (url) => url.pathname === arrives : arrives,
    );
  }
  for (const [typed, dialog] of MADE) {
    await page.goto('/round');
    await command(page, typed);
    await expect(page.getByRole('dialog', { name: dialog })).toBeVisible();
  }
  for (const [links, arrives] of PRESSES) {
    await page.goto('/arrivals');
    for (const name of links)
      await page
        .getByRole('navigation')
        .getByRole('link', { name: new RegExp(`^${name}`) })
        .first()
        .click();
    await expect(page).toHaveURL((url) => url.pathname === arrives);
  }
});

test('plain words set a next move for a colleague, from a page without a record', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  await page.goto('/round');
  await page.keyboard.press('Control+k');
  await field(page).fill('task for Joss: price list, Friday');
  const option = page.getByRole('option').filter({ hasText: 'Next move' });
  await expect(option).toContainText(/Price list.*Joss Ferrow/);
  await option.click();
  await expect(page.getByText(/^Next move for Joss Ferrow: Price list/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone/)).toBeVisible();
  // Three words that are a name still find who it is.
  await page.keyboard.press('Control+k');
  await field(page).fill('ines duarte padaria');
  await expect(page.getByRole('option').filter({ hasText: 'Ines Duarte' }).first()).toBeVisible();
});

test('a tag leads to everybody who has it, over a reload too, and ? shows the keys', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  await page.goto('/round');
  const made = await page.request.post('/api/people', {
    data: { fullName: 'Tilda Tagged', tags: ['newcomer fair'] },
  });
  expect(made.status()).toBe(201);
  await page.keyboard.press('Control+k');
  await field(page).fill('tag:newcomer');
  await page.getByRole('option', { name: /newcomer fair/ }).click();
  await expect(page.getByRole('link', { name: 'Tilda Tagged' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('link', { name: 'Tilda Tagged' })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys of this page' })).toContainText('Ctrl K');
});
