import { choose, signIn } from './pages';
import { expect, test } from './test';

test('a team adds terms of its own, uses them on a person, a lead and a company, and retires one', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  const now = Date.now();
  const [regular, demo, council] = [`Regular ${now}`, `Demo booked ${now}`, `Council ${now}`];
  const made = async (path: string, data: object): Promise<Record<string, { id: string }>> =>
    (await (await page.request.post(path, { data })).json()) as Record<string, { id: string }>;
  const person = (await made('/api/people', { fullName: `Termed ${now}` })).person?.id ?? '';
  const company =
    (await made('/api/companies', { name: `Town Hall ${now}`, domain: null })).company?.id ?? '';
  const lead = (await made('/api/leads', { title: `Bikes ${now}`, personId: person })).lead?.id ?? '';

  await page.goto('/settings/terms');
  const add = async (tab: string, label: string, name: string, countsAs: string): Promise<void> => {
    await page.getByRole('tab', { name: tab }).click();
    await page.getByLabel(label).fill(name);
    await choose(page.getByRole('combobox', { name: 'Counts as' }), countsAs);
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByRole('row').filter({ hasText: name })).toContainText(countsAs);
  };
  await add('Standings of people', 'Another standing', regular, 'customer');
  await add('Statuses of leads', 'Another status', demo, 'working');
  await add('Kinds of companies', 'Another kind', council, 'company');

  await page.goto(`/people/${person}`);
  await page.getByRole('button', { name: /^Standing: .*, change$/ }).click();
  await choose(page.getByRole('combobox', { name: 'Standing' }).first(), regular);
  await expect(page.getByText(`Standing: ${regular}.`)).toBeVisible();
  await expect(page.getByText(`Standing: prospect → ${regular}`)).toBeVisible();

  await page.goto(`/leads/${lead}`);
  await page.getByRole('button', { name: demo }).click();
  await expect(page.locator('.status b')).toHaveText(demo);
  await page.goto(`/companies/${company}`);
  await page.getByRole('button', { name: 'Kind: company, change' }).click();
  await choose(page.getByRole('combobox', { name: 'Kind' }).first(), council);
  await expect(page.getByText(`Kind: ${council}.`)).toBeVisible();

  await page.goto('/settings/terms');
  await page.getByRole('button', { name: `Retire ${regular}` }).click();
  const panel = page.getByRole('complementary', { name: `Retire “${regular}”` });
  await expect(panel).toContainText('1 record has it');
  await choose(panel.getByRole('combobox', { name: 'Records that have it' }), 'Change to customer');
  await panel.getByRole('button', { name: 'Retire', exact: true }).click();
  await expect(page.getByText(`Retired “${regular}”.`)).toBeVisible();
  await page.goto(`/people/${person}`);
  await expect(page.getByText(`Standing: ${regular} → customer`)).toBeVisible();

  // Nothing of it is left, for it would stand in the questions of others.
  const read = async (path: string) =>
    (await (await page.request.get(path)).json()) as {
      version: number;
      items: { id: string; name: string }[];
    };
  for (const [path, patch] of [
    [`/api/leads/${lead}`, { status: 'working' }],
    [`/api/companies/${company}`, { kind: 'firm' }],
  ] as const)
    await page.request.patch(path, { data: { version: (await read(path)).version, ...patch } });
  for (const term of (await read('/api/terms')).items.filter(({ name }) =>
    [regular, demo, council].includes(name),
  ))
    expect((await page.request.delete(`/api/terms/${term.id}`)).status()).toBe(200);
});
