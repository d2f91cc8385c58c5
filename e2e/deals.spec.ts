import { expect, test, type Page } from './test';
import { capture, choose, makeMail, signIn } from './pages';

async function makeLead(
  page: Page,
): Promise<{ name: string; company: string; leadId: string; personId: string }> {
  const mail = makeMail();
  const id = await capture(page, mail.raw);
  const response = await page.request.post(`/api/captures/${id}/filing`, { data: {} });
  const filed = (await response.json()) as { lead: { id: string }; person: { id: string } };
  return { ...mail, leadId: filed.lead.id, personId: filed.person.id };
}

test('a lead is qualified, converted with what was read, and the conversion taken back until something stands on it', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { company, leadId } = await makeLead(page);
  await page.goto(`/leads/${leadId}`);
  await expect(page.getByText('No next move')).toBeVisible();
  await page.getByRole('button', { name: /Answer with “.*six bikes/ }).click();
  await expect(page.getByRole('textbox', { name: /^Need/ })).toHaveValue(/six bikes/);
  await page.getByLabel(/^Who decides/).fill('she does');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Start working' }).click();
  await expect(page.getByLabel('Title')).toHaveValue(`${company}, 6 bikes`);
  await expect(page.getByLabel('Amount')).toHaveValue('30000');
  await page.getByRole('button', { name: 'Convert' }).click();
  await expect(page.getByText('The deal is')).toBeVisible();
  await page.getByRole('button', { name: 'Undo the conversion' }).click();
  await expect(page.getByRole('button', { name: 'Convert' })).toBeVisible();
  await page.getByRole('button', { name: 'Convert' }).click();
  await page.getByRole('link', { name: 'Open the deal' }).click();
  // The lead has a line to write in, too.
  await expect(page.getByRole('heading', { name: `${company}, 6 bikes`, level: 1 })).toBeVisible();
  await page.waitForURL('**/deals/*');
  await page.getByLabel('Write what happened or what comes next').fill('call tomorrow about the price');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-next-move]')).toContainText('Call about the price');
  await page.getByRole('link', { name: 'From the lead' }).click();
  await page.getByRole('button', { name: 'Undo the conversion' }).click();
  await expect(page.getByText(/Other changes depend on this: .*Call about the price/)).toBeVisible();
});

test('the dossier shows where a fact comes from, and the composer what it will save', async ({ browser }) => {
  const page = await signIn(browser);
  const { personId } = await makeLead(page);
  await page.goto(`/people/${personId}`);
  await page
    .locator('[data-fact=jobTitle]')
    .getByRole('button', { name: /Where Job title comes from/ })
    .click();
  await expect(page.getByRole('dialog').locator('mark.lit')).toHaveText('Head Baker');
  await page.getByRole('button', { name: 'Close' }).first().click();
  await page.getByLabel('Write what happened or what comes next').fill('call Thursday 11am about the quote');
  await expect(page.locator('[data-part=nextMove]')).toContainText(/Call about the quote, Thu.*11:00, Pell/);
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-next-move]')).toContainText('Call about the quote');
  await page.getByLabel('Write what happened or what comes next').fill('called her, she wants ten');
  await page.keyboard.press('Enter');
  await expect(page.locator('li.ours[data-entry]')).toContainText('Called her, she wants ten');
});

test('two reps at one field get a choice, not a loss', async ({ browser }) => {
  const [pell, ines] = [await signIn(browser), await signIn(browser, 'ines')];
  const { personId } = await makeLead(pell);
  await Promise.all([pell.goto(`/people/${personId}`), ines.goto(`/people/${personId}`)]);
  await ines.locator('[data-fact=jobTitle] .plain').click();
  await ines.getByLabel('Job title', { exact: true }).fill('Bread Buyer');
  // While Ines types, the live feed is held back, so that her page stays at the version she opened.
  await ines.route('**/api/people/*', async (route) =>
    route.request().method() === 'GET' ? undefined : route.continue(),
  );
  await pell.locator('[data-fact=jobTitle] .plain').click();
  await pell.getByLabel('Job title', { exact: true }).fill('Owner');
  await pell.keyboard.press('Enter');
  await expect(pell.locator('[data-fact=jobTitle]')).toContainText('Owner');
  await ines.getByLabel('Job title', { exact: true }).press('Enter');
  await expect(ines.getByRole('alert')).toContainText(
    'Somebody saved Owner meanwhile; you wrote Bread Buyer',
  );
  await ines.unroute('**/api/people/*');
  await ines.getByRole('button', { name: 'Use mine' }).click();
  await expect(pell.locator('[data-fact=jobTitle]')).toContainText('Bread Buyer');
});

test('a deal is moved by drag, by keyboard and by choosing, and its probability moves with it', async ({
  browser,
}) => {
  const page = await signIn(browser);
  await page.goto('/deals');
  const card = page.locator('[data-deal]', { hasText: 'Coral Crumb' });
  const lane = (name: string) =>
    page.locator(`[data-lane="${name}"] [data-deal]`, { hasText: 'Coral Crumb' });
  await page.locator('[data-draggable=ready]').first().waitFor();
  await card.dragTo(page.locator('[data-lane="Tried out"] .label'));
  await expect(lane('Tried out')).toContainText('€18,000');
  await lane('Tried out').getByRole('link').focus();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(lane('Proposal')).toBeVisible();
  await lane('Proposal').getByRole('link', { name: 'Coral Crumb, 4 bikes' }).hover();
  await choose(lane('Proposal').getByLabel('Move Coral Crumb, 4 bikes to'), 'Terms');
  await expect(lane('Terms')).toBeVisible();
  await lane('Terms').getByRole('link').click();
  await expect(page.locator('[data-fact=probability]')).toContainText('75%');
  await page.locator('[data-fact=probability] .plain').click();
  await page.locator('[data-fact=probability] input').fill('40');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-fact=probability]')).toContainText('by hand');
  await choose(page.getByLabel('Stage', { exact: true }), 'Heard out');
  await expect(page.locator('[data-fact=probability]')).toContainText('40%');
});
