import { choose, signIn } from './pages';
import { expect, test } from './test';

const PASSWORD = 'long-bikes-carry';
const mark = (): string => `q${Date.now() % 1_000_000}`;

test('an admin makes a role, gives it to a colleague, and the colleague sees and does no more than that', async ({
  browser,
}) => {
  const joss = await signIn(browser, 'joss');
  const word = mark();
  await joss.request.post('/api/admin/users', {
    data: { name: `Orla ${word}`, email: `${word}@wharfside.example`, password: PASSWORD },
  });
  await joss.goto('/settings/roles');
  await expect(joss.getByText('This role is always there and cannot be changed.')).toBeVisible();
  await expect(joss.getByLabel('See: Deals')).toBeDisabled();
  await joss.getByRole('button', { name: 'Add a role' }).click();
  await joss.getByLabel('Name').fill(`Agency ${word}`);
  await joss.getByLabel('See: Deals').click();
  // What needs it goes with it.
  await expect(joss.getByLabel('Export: Deals')).not.toBeChecked();
  await joss.getByLabel('Change: People').click();
  await expect(joss.getByLabel('Change many: People')).not.toBeChecked();
  await joss.getByLabel('Export: People').click();
  await joss.getByRole('button', { name: 'Add the role' }).click();
  await expect(joss.getByText(`Added Agency ${word}.`)).toBeVisible();
  await expect(joss.getByText('Nobody has this role yet')).toBeVisible();

  await joss.goto('/settings/accounts');
  await choose(joss.getByRole('combobox', { name: `Role of Orla ${word}` }).first(), `Agency ${word}`);
  await expect(joss.getByText(`Orla ${word} now has the role Agency ${word}.`)).toBeVisible();

  const orla = await signIn(browser, word);
  const sections = orla.getByRole('navigation', { name: 'Sections' });
  await expect(sections.getByRole('link', { name: 'People' })).toBeVisible();
  await sections.getByRole('link', { name: 'Deals' }).click();
  await expect(orla).toHaveURL(/\/deals\/projects/);
  await expect(
    orla.getByRole('navigation', { name: 'Deals: places' }).getByRole('link', { name: 'Lanes' }),
  ).toBeHidden();
  await orla.goto('/deals/forecast');
  await expect(orla.getByText('Your role does not include that page.')).toBeVisible();
  await expect(orla.getByRole('heading', { name: 'What came in' })).toBeVisible();

  await orla.goto('/people');
  await expect(orla.getByRole('row').nth(1)).toBeVisible();
  await expect(orla.getByRole('link', { name: 'Export as CSV' })).toBeHidden();
  await orla.goto('/people?q=duarte');
  await orla.getByRole('link', { name: 'Ines Duarte' }).first().click();
  await expect(orla.getByRole('heading', { name: 'Ines Duarte' })).toBeVisible();
  await expect(orla.getByRole('button', { name: 'New lead' })).toBeVisible();
  await expect(orla.getByRole('button', { name: 'New deal' })).toBeHidden();
  // A fact is read, and no field opens from it.
  await expect(orla.getByText('Europe/Lisbon')).toBeVisible();
  await expect(orla.getByRole('button', { name: /^(?:Name|Job title|Mobile): .*, change$/ })).toHaveCount(0);
  await expect(orla.getByText(/of 100 complete/)).toBeVisible();
  await expect(orla.getByRole('button', { name: 'Look up', exact: true })).toHaveCount(0);
  await expect(orla.getByRole('button', { name: /important/i })).toHaveCount(0);

  // More is allowed, and counts from the next page on.
  await joss.goto('/settings/roles');
  await joss.getByRole('button', { name: `Agency ${word}` }).click();
  await expect(joss.getByText(`Held by Orla ${word}`)).toBeVisible();
  await expect(joss.getByRole('button', { name: 'Remove this role' })).toBeHidden();
  await joss.getByRole('button', { name: 'Deals', exact: true }).click();
  await expect(joss.getByLabel('Change many: Deals')).toBeChecked();
  await joss.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(joss.getByText(`Saved Agency ${word}.`)).toBeVisible();
  await orla.goto('/deals/forecast');
  await expect(orla.getByRole('heading', { name: 'Forecast' })).toBeVisible();
});

test('a role that nobody has is removed, and brought back', async ({ browser }) => {
  const joss = await signIn(browser, 'joss');
  const name = `Desk ${mark()}`;
  await joss.request.post('/api/roles', { data: { name, rights: ['people.see'] } });
  await joss.goto('/settings/roles');
  await joss.getByRole('button', { name, exact: true }).click();
  await joss.getByRole('button', { name: 'Remove this role' }).click();
  await expect(joss.getByText(`Removed ${name}.`)).toBeVisible();
  await expect(joss.getByRole('button', { name, exact: true })).toBeHidden();
  await joss.getByRole('button', { name: 'Undo' }).click();
  await expect(joss.getByRole('button', { name, exact: true })).toBeVisible();
});
