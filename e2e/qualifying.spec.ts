import { expect, test } from './test';
import { choose, signIn } from './pages';

test('a lead says why it is judged as it is, and its fit moves at once with a fact', async ({ browser }) => {
  const page = await signIn(browser);
  const made = await page.request.post('/api/people', {
    data: { fullName: 'Orla Judged', jobTitle: 'Clerk', companyName: 'Judged Bread' },
  });
  const { person } = (await made.json()) as { person: { id: string } };
  const lead = await page.request.post('/api/leads', {
    data: { title: 'Judged Bread, bikes', personId: person.id },
  });
  const { id } = ((await lead.json()) as { lead: { id: string } }).lead;
  await page.goto(`/leads/${id}`);
  const judged = page.getByRole('region', { name: 'Scores of this lead' });
  const score = async (): Promise<number> =>
    Number(await judged.getByRole('button', { name: /^Fit/ }).locator('b').textContent());
  await judged.getByRole('button', { name: /^Fit/ }).click();
  await expect(judged).toContainText('Job title contains');
  const before = await score();
  // What is looked up by itself may change the record at the same time; then the version is read again.
  await expect(async () => {
    const { version } = (await (await page.request.get(`/api/people/${person.id}`)).json()) as {
      version: number;
    };
    const put = await page.request.patch(`/api/people/${person.id}`, {
      data: { version, jobTitle: 'Head Baker' },
    });
    expect(put.status()).toBe(200);
  }).toPass();
  await expect.poll(score).toBeGreaterThan(before);
  await expect(judged).toContainText('Head Baker');
  await judged.getByRole('button', { name: /^Win chance/ }).click();
  await expect(judged).toContainText(/fit speaks (for|against) it/);
  await judged.getByRole('button', { name: /^Warmth/ }).click();
  await expect(judged).toContainText('They have shown no interest yet');
});

test('the rule sheet is changed with today’s leads ranked beside it, set, and taken back', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  await page.goto('/settings/fit');
  await expect(page.getByRole('heading', { name: 'How today’s leads rank' })).toBeVisible();
  await page.getByRole('button', { name: 'Add a rule' }).click();
  const last = (what: string) => page.getByLabel(new RegExp(`^Rule \\d+: ${what}$`)).last();
  await choose(last('field'), 'Country');
  await last('value').fill('SE');
  await last('points').fill('60');
  await expect(page.getByRole('heading', { name: 'How today’s leads would rank' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Was' })).toBeVisible();
  const rules = await page.getByLabel(/^Rule \d+: field$/).count();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Fit rules saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel(/^Rule \d+: field$/)).toHaveCount(rules - 1);
  await page.getByRole('link', { name: 'Win chance' }).click();
  await expect(page.getByText(/Learned from \d+ closed leads/)).toBeVisible();
  await expect(page.getByText('bought elsewhere')).toBeVisible();
});

test('a rep sees the sheet and cannot change it; leads stand likeliest first', async ({ browser }) => {
  const page = await signIn(browser, 'ines');
  await page.goto('/settings/fit');
  await expect(page.getByLabel('Rule 1: points')).toBeDisabled();
  await page.goto('/leads');
  await expect(page.getByRole('cell', { name: /^\d+%$/ }).first()).toBeVisible();
  const chances = await page.getByRole('cell', { name: /^\d+%$/ }).allTextContents();
  const open = chances.slice(0, 8).map((text) => Number(text.replace('%', '')));
  expect(open).toEqual([...open].sort((a, b) => b - a));
});
