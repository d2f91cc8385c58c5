import { signIn } from './pages';
import { expect, test } from './test';

test('who changed what stands beside a record, and a value that stood there before is put back', async ({
  browser,
}) => {
  const [pell, ines] = [await signIn(browser, 'pell'), await signIn(browser, 'ines')];
  const name = `Told History${Date.now()}`;
  const made = await pell.request.post('/api/people', { data: { fullName: name, jobTitle: 'Baker' } });
  const { person } = (await made.json()) as { person: { id: string } };
  await ines.goto(`/people/${person.id}`);
  const title = ines.locator('[data-fact="jobTitle"]');
  await title.getByRole('button').first().click();
  await ines.getByRole('textbox', { name: 'Job title' }).fill('Owner');
  await ines.keyboard.press('Enter');
  await expect(title).toContainText('Owner');

  await pell.goto(`/people/${person.id}`);
  await pell.getByRole('link', { name: 'History' }).click();
  const panel = pell.getByRole('complementary', { name: 'History' });
  const change = panel.locator('[data-change]').filter({ hasText: 'Ines Tolland' });
  await expect(change).toContainText('Baker → Owner');
  await change.getByRole('button', { name: 'Restore Job title: Baker' }).click();
  await expect(pell.getByText(`Job title of ${name}: Baker again.`)).toBeVisible();
  await expect(title).toContainText('Baker');
  // What was put back is a change as any other, and the newest.
  await expect(panel.locator('[data-change]').first()).toContainText('Owner → Baker');
  const file = await pell.request.get(
    (await panel.getByRole('link', { name: 'Save as a table' }).getAttribute('href')) ?? '',
  );
  expect(await file.text()).toContain(`Pell Garrick,${name},people,Job title,Owner,Baker`);

  await pell.goto('/settings/changes');
  await expect(pell.getByText('What you changed, newest first')).toBeVisible();
  const mara = await signIn(browser, 'mara');
  await mara.goto('/settings/changes');
  await mara.getByLabel('Words').fill(`${name} job title owner`);
  await expect(mara.locator('[data-change]')).toHaveCount(2);
  await expect(mara.locator('[data-change]').last()).toContainText('Baker → Owner');
});
