import { expect, test, type Page } from './test';
import { Meter } from './meter';
import { signIn } from './pages';

const EXCHANGE = process.env.E2E_EXCHANGE_URL ?? '';
const PELL = '+442079460100';
const ring = async (from: string, to = PELL): Promise<string> => {
  const response = await fetch(`${EXCHANGE}/ring`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ from, to }),
  });
  return ((await response.json()) as { id: string }).id;
};
const tell = (id: string, what: 'answer' | 'end'): Promise<Response> =>
  fetch(`${EXCHANGE}/calls/${id}/${what}`, { method: 'POST' });

async function writeSheet(page: Page, meter: Meter, words: string): Promise<void> {
  await meter.type(words);
  await expect(page.locator('[data-part="move"]').first()).toBeVisible();
  await meter.press('Control+Enter');
  await page.waitForURL('**/people/*');
}

test('a call of somebody we know opens its sheet, and all of it is saved within the effort allowed', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/people');
  const id = await ring('+351910555014');
  const knock = page.getByRole('alert', { name: 'Incoming call' });
  await expect(knock).toContainText('Ines Duarte');
  await expect(knock).toContainText('Padaria Sol');
  await tell(id, 'answer');
  await expect(page.getByRole('heading', { name: /is on the line/ })).toBeVisible();
  const meter = new Meter(page);
  await expect(page.getByLabel('Write the call in plain words')).toBeFocused();
  await meter.type('wants 8 long bikes, budget 40k, decides with her brother. send quote, lunch Thu 11-12');
  await expect(page.locator('[data-part="move"]').first()).toBeVisible();
  await meter.press('Control+Enter');
  // The page beside which it was written is still there.
  await expect(page).toHaveURL(/\/people$/);
  await page.getByRole('link', { name: 'Open the dossier' }).click();
  await tell(id, 'end');
  await expect(page.getByRole('heading', { name: 'Ines Duarte' })).toBeVisible();
  await expect(page.getByText('Decides with her brother.')).toBeVisible();
  await expect(page.getByText('Wants 8 long bikes. Budget 40k.').first()).toBeVisible();
  await expect(page.getByText('8 long bikes').first()).toBeVisible();
  expect(meter.seconds).toBeLessThanOrEqual(45);
  console.log(`effort: call of a known person, all of it: ${meter.seconds.toFixed(1)} s`);
});

test('a call of a stranger becomes a person, company, deal and follow-ups, and is undone in one', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/calls/new');
  await expect(page.getByLabel('Write the call in plain words')).toBeFocused();
  const meter = new Meter(page);
  await meter.type(
    'Rosa Lind, Lind Bageri, +46 70 174 06 44. wants 8 long bikes from March, budget about 40k, decides with her brother. ',
  );
  await expect(page.locator('[data-fact="companyName"] input')).toHaveValue('Lind Bageri');
  await expect(page.locator('[data-fact="phone"] input')).toHaveValue('+46 70 174 06 44');
  await expect(page.getByRole('heading', { name: 'Somebody new' })).toBeVisible();
  await writeSheet(page, meter, 'send quote, lunch Thu 11-12');
  await expect(page.getByRole('heading', { name: 'Rosa Lind' })).toBeVisible();
  expect(meter.seconds).toBeLessThanOrEqual(45);
  console.log(`effort: call of somebody new, all of it: ${meter.seconds.toFixed(1)} s`);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/Undone/)).toBeVisible();
  const found = await page.request.get('/api/people?q=Rosa%20Lind');
  expect(((await found.json()) as { items: unknown[] }).items).toEqual([]);
});

test('a part of a name or the last digits of a number propose who it is, and the likeliest is chosen', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/calls/new');
  await expect(page.getByLabel('Write the call in plain words')).toBeFocused();
  const meter = new Meter(page);
  await meter.type('5014. ');
  await expect(page.getByRole('radio', { name: /Ines Duarte/ })).toBeChecked();
  await page.getByLabel('Write the call in plain words').fill('');
  await page.getByLabel('Write the call in plain words').pressSequentially('duart');
  await expect(page.getByRole('radio', { name: /Duarte/ }).first()).toBeChecked();
  await page
    .getByLabel('Write the call in plain words')
    .pressSequentially('e. wants 8 long bikes, send quote');
  await expect(page.getByRole('radio', { name: /Duarte/ }).first()).toBeChecked();
  await expect(page.getByPlaceholder('Worth asking for')).toHaveCount(0);
  await page.getByRole('radio', { name: 'Somebody new' }).check();
  await page.getByLabel('Write the call in plain words').pressSequentially(' Thu 11');
  await expect(page.getByRole('radio', { name: 'Somebody new' })).toBeChecked();
});

test('the sheet follows what is typed, letter by letter', async ({ browser }) => {
  const page = await signIn(browser);
  await page.goto('/calls/new');
  await page
    .getByLabel('Write the call in plain words')
    .pressSequentially('Ines Duarte, Padaria Sol. wants 8 long bikes', { delay: 15 });
  await expect(page.locator('[data-part="said"] textarea').first()).toHaveValue(/8 long bikes/);
});

test('a missed call lands in Arrivals; a number on a dossier is a button that calls', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  await page.getByLabel('Find a record or type what to do').fill('half a wor');
  const id = await ring('+447700900555', '+442079460102');
  await expect(page.getByRole('alert', { name: 'Incoming call' })).toContainText('Somebody new');
  // Whoever is typing is left alone.
  await expect(page.getByLabel('Find a record or type what to do')).toHaveValue('half a wor');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Not now' }).click();
  await expect(page.getByRole('alert', { name: 'Incoming call' })).toHaveCount(0);
  await tell(id, 'end');
  await page.goto('/arrivals');
  await expect(page.getByText('+44 7700 900555').first()).toBeVisible();
  await page.goto('/people');
  await page
    .getByRole('button', { name: /Call \+/ })
    .first()
    .click();
  await page.waitForURL('**/calls/*');
  await expect(page.getByRole('heading', { name: /The call to/ })).toBeVisible();
});

test('a call of somebody known by part of the name: the surest is chosen, and it is saved within the effort allowed', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/calls/new');
  await expect(page.getByLabel('Write the call in plain words')).toBeFocused();
  const meter = new Meter(page);
  await meter.type('duart. wants 8 long bikes, budget 40k. ');
  await expect(page.getByRole('radio', { name: /Ines Duarte/ })).toBeChecked();
  await writeSheet(page, meter, 'send quote, lunch Thu 11-12');
  await expect(page.getByRole('heading', { name: 'Ines Duarte' })).toBeVisible();
  expect(meter.seconds).toBeLessThanOrEqual(45);
  console.log(`effort: call of somebody known by part of the name: ${meter.seconds.toFixed(1)} s`);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/Undone/)).toBeVisible();
});
