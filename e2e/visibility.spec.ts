import { signIn } from './pages';
import { expect, test } from './test';

test('a company is kept to its owner and their managers, and opened again by undo', async ({ browser }) => {
  const [pell, ines, mara] = [
    await signIn(browser),
    await signIn(browser, 'ines', { which: 'second' }),
    await signIn(browser, 'mara'),
  ];
  const name = `Quarry Lane ${Date.now() % 100_000}`;
  const made = await pell.request.post('/api/companies', { data: { name } });
  const { company } = (await made.json()) as { company: { id: string } };
  await ines.goto(`/companies/${company.id}`);
  await expect(ines.getByRole('heading', { name })).toBeVisible();

  await pell.goto(`/companies/${company.id}`);
  await pell.getByRole('button', { name: 'Visible to everybody' }).click();
  const dialog = pell.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Visible to' }).press('ArrowDown');
  await pell.getByRole('option', { name: 'The owner and their managers' }).click();
  await dialog.getByRole('button', { name: 'Save' }).click();
  // With every manager there is; others may have been added since.
  await expect(pell.getByRole('button', { name: /^Visible to Mara\b.*\bPell\b/ })).toBeVisible();

  // The open page of somebody who may not see it any more lets go of it by itself.
  await expect(ines.getByRole('heading', { name })).toHaveCount(0);
  await ines.goto('/companies');
  await ines.getByRole('searchbox').or(ines.getByRole('textbox')).first().fill(name);
  await expect(ines.getByRole('link', { name })).toHaveCount(0);
  await mara.goto(`/companies/${company.id}`);
  await expect(mara.getByRole('heading', { name })).toBeVisible();

  await pell.getByRole('button', { name: 'Undo' }).click();
  await expect(pell.getByRole('button', { name: 'Visible to everybody' })).toBeVisible();
  await ines.goto(`/companies/${company.id}`);
  await expect(ines.getByRole('heading', { name })).toBeVisible();
});

test('a manager adds a team and says who sees new records', async ({ browser }) => {
  const mara = await signIn(browser, 'mara');
  const name = `Crew ${Date.now() % 100_000}`;
  await mara.goto('/settings/teams');
  await mara.getByLabel('New team').fill(name);
  await mara.getByRole('button', { name: 'Add a team' }).click();
  await expect(
    mara
      .getByRole('status')
      .getByText(`Added the team ${name}.`)
      .or(mara.getByText(`Added the team ${name}.`)),
  ).toBeVisible();
  await expect(mara.getByLabel(`Managers of ${name}`)).toBeVisible();
  await mara.getByRole('link', { name: 'Who may see what' }).click();
  const save = mara.getByRole('button', { name: 'Save', exact: true });
  await expect(save).toBeDisabled();
  await mara.getByLabel('Lead source').fill('referral');
  await mara.getByRole('button', { name: 'Add a source' }).click();
  await expect(mara.getByLabel('Leads from “referral”')).toBeVisible();
  await save.click();
  await expect(mara.getByText('Saved who sees new records.')).toBeVisible();
  await mara.getByRole('button', { name: 'Undo' }).click();
  await expect(mara.getByLabel('Leads from “referral”')).toHaveCount(0);
});
