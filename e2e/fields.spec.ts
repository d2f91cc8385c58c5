import { expect, test, type Page } from './test';
import { choose, signIn } from './pages';

const fact = (page: Page, label: string) =>
  page.locator('.fact').filter({ has: page.getByText(label, { exact: true }) });
const saidFor = (page: Page, words: string) =>
  expect(page.getByText(words, { exact: true }).first()).toBeVisible();

test('fields of our own are added in tabs, filled in by their kind, calculated, asked about and retired', async ({
  browser,
}) => {
  const admin = await signIn(browser, 'joss');
  const mark = String(Date.now() % 1_000_000);
  await admin.goto('/settings/fields');
  await choose(admin.getByRole('combobox', { name: 'Fields of' }), 'Companies');
  const add = async (
    label: string,
    kind: string,
    fill: (form: ReturnType<Page['locator']>) => Promise<void>,
  ) => {
    await admin.getByRole('button', { name: 'Add a field' }).first().click();
    const form = admin.locator('form.field');
    await form.getByLabel('Name').fill(label);
    await choose(form.getByRole('combobox', { name: 'Kind' }), kind);
    await form.getByRole('combobox', { name: 'Tab' }).fill(`Yard ${mark}`);
    await admin.keyboard.press('Tab');
    await fill(form);
    await form.getByRole('button', { name: 'Add a field' }).click();
  };
  const [bikes, price, worth] = [`Bikes ${mark}`, `Price ${mark}`, `Worth ${mark}`];
  await add(bikes, 'Number', (form) => form.getByLabel('Help').fill('All of them, old ones too'));
  await saidFor(admin, `Added the field ${bikes}.`);
  await add(price, 'Money', async () => undefined);
  await saidFor(admin, `Added the field ${price}.`);
  await add(worth, 'Formula', (form) => form.getByLabel('Formula').fill('Vans * 2'));
  await expect(admin.locator('form.field')).toContainText('There is no field “Vans”.');
  await admin.locator('form.field').getByLabel('Formula').fill(`'${bikes}' * '${price}'`);
  await admin.locator('form.field').getByRole('button', { name: 'Add a field' }).click();
  await saidFor(admin, `Added the field ${worth}.`);
  await expect(admin.locator('tbody tr').last()).toContainText(worth);
  await admin.getByRole('button', { name: `Up: ${worth}` }).click();
  await expect(admin.locator('tbody tr').last()).toContainText(price);

  const page = await signIn(browser);
  const made = await page.request.post('/api/companies', {
    headers: { 'idempotency-key': crypto.randomUUID() },
    data: { name: `Yard & Sons ${mark}` },
  });
  const { company } = (await made.json()) as { company: { id: string } };
  await page.goto(`/companies/${company.id}`);
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('button', { name: `Yard ${mark}, 0 of 3` }).click();
  const panel = page.getByRole('complementary', { name: 'More fields' });
  await panel.getByRole('button', { name: `${bikes}: Not known, change` }).click();
  await expect(panel).toContainText('All of them, old ones too');
  await panel.getByLabel(bikes).fill('many');
  await page.keyboard.press('Enter');
  await expect(page.getByText(`${bikes} must be a number such as 12.5`)).toBeVisible();
  // What was typed is still there, to be put right.
  await expect(panel.getByRole('textbox', { name: bikes })).toHaveValue('many');
  await panel.getByRole('textbox', { name: bikes }).fill('12');
  await page.keyboard.press('Enter');
  await expect(fact(page, bikes)).toContainText('12');
  await panel.getByRole('button', { name: `${price}: Not known, change` }).click();
  await panel.getByLabel(price).fill('4,500');
  await page.keyboard.press('Enter');
  await expect(fact(page, worth)).toContainText('54,000');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(fact(page, worth)).not.toContainText('54,000');
  await expect(panel.getByRole('button', { name: `${price}: Not known, change` })).toBeVisible();

  // Retired, it keeps its value where it has one, and is asked of no other.
  const row = admin.locator('tbody tr').filter({ hasText: bikes });
  await row.getByRole('button', { name: 'Retire' }).click();
  await expect(row).toContainText('retired');
  await expect(fact(page, bikes)).toContainText('12');
  const other = await page.request.post('/api/companies', {
    headers: { 'idempotency-key': crypto.randomUUID() },
    data: { name: `Without ${mark}` },
  });
  const { company: without } = (await other.json()) as { company: { id: string } };
  await page.goto(`/companies/${without.id}`);
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('button', { name: `Yard ${mark}, 0 of 2` }).click();
  await expect(fact(page, worth)).toBeVisible();
  await expect(fact(page, bikes)).toHaveCount(0);
});

test('a birthday without a year is shown, and does not keep a page from opening', async ({ browser }) => {
  const page = await signIn(browser);
  const made = await page.request.post('/api/captures', {
    headers: { 'content-type': 'text/vcard', 'idempotency-key': crypto.randomUUID() },
    data: `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Yola Yearless\r\nBDAY:--0305\r\nEMAIL:yola${Date.now()}@yearless.example\r\nEND:VCARD\r\n`,
  });
  const { id } = (await made.json()) as { id: string };
  const filed = await page.request.post(`/api/captures/${id}/filing`, {
    headers: { 'idempotency-key': crypto.randomUUID() },
    data: {},
  });
  const { person } = (await filed.json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  await page.getByRole('button', { name: 'born 5 Mar' }).click();
  await expect(fact(page, 'Birthday')).toContainText('5 Mar');
});

test('two who edit the same field of our own choose between both values; two of two fields are both kept', async ({
  browser,
}) => {
  const [mine, theirs] = [await signIn(browser), await signIn(browser, 'ines')];
  const made = await mine.request.post('/api/companies', {
    headers: { 'idempotency-key': crypto.randomUUID() },
    data: { name: `Both at once ${Date.now()}` },
  });
  const { company } = (await made.json()) as { company: { id: string } };
  for (const page of [mine, theirs]) {
    await page.goto(`/companies/${company.id}`);
    await page.getByRole('button', { name: 'Show all' }).click();
  }
  const begin = async (page: Page, label: string, value: string) => {
    await fact(page, label).getByRole('button').first().click();
    await fact(page, label).getByRole('textbox').fill(value);
  };
  await begin(mine, 'Bikes they have', '7');
  await begin(theirs, 'Industry', 'Bakery');
  await theirs.keyboard.press('Enter');
  await expect(fact(mine, 'Industry')).toContainText('Bakery');
  await mine.keyboard.press('Enter');
  await expect(fact(theirs, 'Bikes they have')).toContainText('7');

  await begin(mine, 'Bikes they have', '8');
  await begin(theirs, 'Bikes they have', '9');
  await theirs.keyboard.press('Enter');
  await expect(fact(theirs, 'Bikes they have')).toContainText('9');
  await mine.keyboard.press('Enter');
  const choice = fact(mine, 'Bikes they have');
  await expect(choice).toContainText('8');
  await expect(choice).toContainText('9');
  await expect(choice).not.toContainText('object');
});

test('a file is uploaded straight into a field, and another takes its place', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  const label = `Contract ${Date.now()}`;
  const post = async (path: string, data: object) => (await page.request.post(path, { data })).json();
  const field = (await post('/api/fields', { label, kind: 'file', record: 'company' })) as {
    field: { id: string; version: number };
  };
  const { company } = (await post('/api/companies', { name: `With a ${label}`, domain: null })) as {
    company: { id: string };
  };
  await page.goto(`/companies/${company.id}`);
  await page.getByRole('button', { name: 'Show all' }).click();
  const put = async (name: string): Promise<void> => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: `Upload a file as ${label}` }).click();
    await (await chooser).setFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(`${name} says so`) });
    await expect(fact(page, label)).toContainText(name);
  };
  await put('first.txt');
  await expect(fact(page, label).getByRole('link', { name: 'Open first.txt' })).toBeVisible();
  await put('second.txt');
  // Both are files of the company; the field holds the later one.
  await page.getByRole('button', { name: 'Files' }).click();
  const files = page.getByRole('complementary', { name: 'Files' });
  await expect(files).toContainText('first.txt');
  await expect(files).toContainText('second.txt');
  await page.request.patch(`/api/fields/${field.field.id}`, {
    data: { version: field.field.version, active: false },
  });
});
