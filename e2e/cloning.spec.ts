import { expect, test } from './test';
import { signIn } from './pages';

test('a deal is copied with what is ticked, and taken back with one press', async ({ browser }) => {
  const page = await signIn(browser);
  const title = `Nine trailers ${Date.now() % 1_000_000}`;
  const person = (await (
    await page.request.post('/api/people', { data: { fullName: 'Noor Copied' } })
  ).json()) as {
    person: { id: string };
  };
  const made = (await (
    await page.request.post('/api/deals', {
      data: { title, personId: person.person.id, amountMinor: 90_000 },
    })
  ).json()) as { deal: { id: string } };
  await page.goto(`/deals/${made.deal.id}`);
  await page.getByRole('button', { name: 'Make a copy …' }).click();
  const dialog = page.getByRole('dialog', { name: `Copy ${title}` });
  await expect(dialog.getByLabel('1 person')).toBeChecked();
  await dialog.getByLabel('Name of the copy').fill(`${title} again`);
  await dialog.getByLabel('1 person').uncheck();
  await page.keyboard.press('Tab');
  await dialog.getByRole('button', { name: 'Make the copy' }).click();
  await expect(page.getByRole('heading', { name: `${title} again` })).toBeVisible();
  await expect(page.getByText(`Copied ${title}.`)).toBeVisible();
  await expect(page.getByText('Noor Copied')).toBeHidden();
  const copied = page.url();
  await page.keyboard.press('Control+z');
  await page.waitForResponse((answer) => answer.url().includes('/undo') && answer.ok());
  expect((await page.request.get(copied.replace('/deals/', '/api/deals/'))).status()).toBe(404);
});

test('a person, a lead and a task can be copied where they are shown', async ({ browser }) => {
  const page = await signIn(browser);
  const name = `Ossa ${Date.now() % 1_000_000}`;
  const { person } = (await (
    await page.request.post('/api/people', { data: { fullName: name, tags: ['baker'] } })
  ).json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  await page.getByRole('button', { name: 'More…' }).click();
  await page.getByText('Make a copy…').click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'Make the copy' })).toBeDisabled();
  await dialog.getByLabel('Name of the new person').fill(`${name} Twin`);
  await dialog.getByRole('button', { name: 'Make the copy' }).click();
  await expect(page.getByRole('heading', { name: `${name} Twin` })).toBeVisible();
  const { lead } = (await (
    await page.request.post('/api/leads', { data: { title: `${name}: bikes`, personId: person.id } })
  ).json()) as { lead: { id: string } };
  await page.goto(`/leads/${lead.id}`);
  await page.getByRole('button', { name: 'Make a copy …' }).click();
  await page.getByRole('dialog').getByLabel('Name of the copy').fill(`${name}: more bikes`);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `${name}: more bikes` })).toBeVisible();
  const { task } = (await (
    await page.request.post('/api/tasks', { data: { title: `Ring ${name}`, dueAt: '2031-03-03T00:00:00Z' } })
  ).json()) as { task: { id: string } };
  await page.goto(`/round?task=${task.id}`);
  await page.getByRole('button', { name: 'Make a copy …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Make the copy' }).click();
  await expect(page.getByText(`Copied Ring ${name}.`)).toBeVisible();
});
