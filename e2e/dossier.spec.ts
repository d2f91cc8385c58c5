import { expect, test, type Page } from './test';
import { signIn } from './pages';

/** Somebody of whom so much is known that their card cannot show all of it above the ledger. */
async function makeFullPerson(page: Page): Promise<string> {
  const name = `Full Card${Date.now()}`;
  const made = await page.request.post('/api/people', {
    data: { fullName: name, companyName: `${name} Ltd` },
  });
  const { person } = (await made.json()) as { person: { id: string } };
  for (let at = 0; at < 14; at++)
    await page.request.post(`/api/people/${person.id}/contacts`, {
      data: { kind: 'email', value: `desk${at}@full${Date.now()}.example` },
    });
  for (const title of ['Call about the boxes', 'Send the sheet', 'Ask for a day', 'Write again'])
    await page.request.post('/api/tasks', {
      data: { title, dueAt: new Date(Date.now() + 86_400_000).toISOString(), personId: person.id },
    });
  return person.id;
}

const shareOfLedger = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const ledger = document.querySelector('.ledger')?.getBoundingClientRect();
    const composer = document.querySelector('form.composer, .composer')?.getBoundingClientRect();
    const bottom = Math.min(ledger?.bottom ?? 0, composer?.top ?? innerHeight, innerHeight);
    return (bottom - (ledger?.top ?? innerHeight)) / innerHeight;
  });

test('a phone on its side begins with the ledger, and shows the card when it is unfolded', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 844, height: 390 }, isMobile: true });
  const id = await makeFullPerson(page);
  await page.request.post('/api/ledger', {
    data: { line: 'Likes the long bike', about: { personId: id } },
  });
  await page.goto(`/people/${id}`);
  await expect(page.getByText('Likes the long bike')).toBeInViewport();
  await page.getByRole('button', { name: 'Unfold' }).click();
  await expect(page.getByRole('region', { name: 'Card' }).getByText('Email').first()).toBeInViewport();
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  await expect(page.getByText('Likes the long bike')).toBeInViewport();
  await page.goto('/arrivals');
  await page.getByRole('button', { name: 'File it' }).scrollIntoViewIfNeeded();
  await expect(page.getByRole('heading', { name: 'What came in' })).toBeInViewport();
});

test('the ledger has nearly half of the screen however full the card is; the rest comes when asked for', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 1280, height: 800 } });
  const id = await makeFullPerson(page);
  await page.goto(`/people/${id}`);
  await expect(page.getByRole('button', { name: 'Show all' })).toBeVisible();
  expect(await shareOfLedger(page)).toBeGreaterThanOrEqual(0.45);
  const last = page.getByRole('button', { name: 'Add an address, number or link' });
  await page.getByRole('button', { name: 'Show all' }).click();
  await last.click();
  await expect(page.getByLabel('Detail', { exact: true })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show less' }).click();
  expect(await shareOfLedger(page)).toBeGreaterThanOrEqual(0.45);
  // Nothing is shown of which only a part would be seen.
  await expect(last).toBeHidden();
  await page.getByRole('button', { name: 'Show all' }).click();
  const next = page.locator('[data-next-move]');
  await expect(next.locator('[data-move]')).toHaveCount(2);
  await next.getByRole('button', { name: '2 more' }).click();
  await expect(next.locator('[data-move]')).toHaveCount(4);
});

test('on a phone what is not known yet stays out of the way until all is asked for', async ({ browser }) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 390, height: 844 } });
  const made = await page.request.post('/api/companies', { data: { name: `Bare ${Date.now()}` } });
  const { company } = (await made.json()) as { company: { id: string } };
  await page.goto(`/companies/${company.id}`);
  await expect(page.locator('[data-fact=name]')).toBeVisible();
  await expect(page.locator('[data-fact=industry]')).toBeHidden();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.locator('[data-fact=industry]')).toBeVisible();
});

test('a company is assigned to a colleague, and its org chart says where reporting lines are made', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell');
  const made = await page.request.post('/api/companies', { data: { name: `Given ${Date.now()}` } });
  const { company } = (await made.json()) as { company: { id: string } };
  await page.goto(`/companies/${company.id}`);
  await page.getByRole('button', { name: 'Assign to…' }).click();
  await page.getByText('Ines Tolland', { exact: true }).click();
  await expect(page.getByText('Assigned to Ines Tolland.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Card' })).toContainText('Ines Tolland');
  await page.getByRole('button', { name: 'Org chart' }).click();
  await expect(page.getByText('No reporting lines yet')).toBeVisible();
});
