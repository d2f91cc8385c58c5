import { expect, test } from './test';
import { signIn } from './pages';

test('a task in plain words is given, asked about, declined and given again', async ({ browser }) => {
  const [page, ines] = [await signIn(browser), await signIn(browser, 'ines')];
  const made = await page.request.post('/api/people', { data: { fullName: `Task Person${Date.now()}` } });
  const { person } = (await made.json()) as { person: { id: string } };
  const title = `Fix the price list ${Date.now()}`;
  await page.goto(`/people/${person.id}`);
  const line = page.getByLabel('Write what happened or what comes next');
  await line.fill(`@ines ${title} every first Monday, urgent`.replace('Fix', 'fix'));
  await expect(page.getByText(/every first Monday of the month, urgent/)).toBeVisible();
  await page.keyboard.press('Enter');
  const move = page.locator('[data-move]').filter({ hasText: title });
  await expect(move).toContainText('urgent');
  await expect(move).toContainText('Ines, every first Monday of the month');
  await move.getByRole('link', { name: title }).click();
  const panel = page.getByRole('complementary', { name: 'Task' });
  await panel.getByLabel('New step').fill('Leave out the trailers');
  await page.keyboard.press('Enter');
  await expect(panel.getByRole('checkbox', { name: 'Leave out the trailers' })).toBeVisible();
  await panel.getByRole('button', { name: /^Due:/ }).click();
  // Whatever today is, another day than the first Monday on which it is due.
  await panel.getByRole('textbox', { name: 'Due' }).fill('next Tuesday');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Changed Fix the price list/)).toBeVisible();
  await panel.getByRole('button', { name: /^Repeats:/ }).click();
  await panel.getByRole('textbox', { name: 'Repeats' }).fill('now and then');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/names no repeat/)).toBeVisible();
  await page.keyboard.press('Escape');

  await ines.getByRole('button', { name: /^For you/ }).click();
  const forYou = ines.getByRole('complementary', { name: 'For you' });
  await forYou.getByRole('link', { name: `Pell Garrick gave you a task: ${title}` }).click();
  const theirs = ines.getByRole('complementary', { name: 'Task' });
  await theirs.getByLabel('Message').fill('Which list, the old one?');
  await ines.keyboard.press('Enter');
  await expect(panel.locator('[data-message]')).toContainText('Which list, the old one?');
  await theirs.getByRole('button', { name: 'Decline…' }).click();
  await theirs.getByRole('textbox', { name: 'Why do you decline?' }).fill('I am at the fair');
  await theirs.getByRole('button', { name: 'Decline', exact: true }).click();
  await expect(panel.getByText('Ines Tolland declined it: I am at the fair')).toBeVisible();
  await panel.getByRole('button', { name: 'Done' }).click();
  // It repeats, and so it comes again.
  await expect(page.locator('[data-move]').filter({ hasText: title })).toContainText('every first Monday');
});

test('what was given to others is asked after, moved and taken back; work is handed over and comes back', async ({
  browser,
}) => {
  const joss = await signIn(browser, 'joss');
  const name = `stand-in-${Date.now()}`;
  const account = await joss.request.post('/api/admin/users', {
    data: { name: `Robin ${name}`, email: `${name}@wharfside.example`, password: 'long-bikes-carry' },
  });
  expect(account.status()).toBe(201);
  const page = await signIn(browser, name);
  const users = (await (await page.request.get('/api/users')).json()) as {
    items: { id: string; name: string }[];
  };
  const inesId = users.items.find((user) => user.name === 'Ines Tolland')?.id;
  const title = `Payload sheet ${name}`;
  await page.request.post('/api/tasks', {
    data: { title, dueAt: '2026-01-05T00:00:00Z', assigneeId: inesId },
  });
  await page.request.post('/api/tasks', { data: { title: `Own ${name}`, dueAt: '2026-01-05T00:00:00Z' } });
  await page.goto('/round/delegated');
  const row = page.locator('[data-task]').filter({ hasText: title });
  await expect(row).toContainText('overdue since');
  await row.getByRole('button', { name: `Remind Ines Tolland of ${title}` }).click();
  await expect(page.getByText('Reminded Ines Tolland.')).toBeVisible();
  await row.getByRole('button', { name: `Move ${title}` }).click();
  await row.getByRole('textbox').fill('in 2 working days');
  await page.keyboard.press('Enter');
  await expect(row).not.toContainText('overdue');
  await row.getByRole('button', { name: `Take back ${title}` }).click();
  await expect(row).toHaveCount(0);

  await page.getByRole('button', { name: 'Hand over work…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Hand over work' });
  await expect(dialog.getByRole('list', { name: 'What is handed over' })).toContainText(`Own ${name}`);
  await expect(dialog.getByRole('checkbox', { name: '2 open tasks' })).toBeChecked();
  const whom = dialog.getByLabel('Who takes it over');
  await whom.press('ArrowDown');
  await page.getByRole('option', { name: 'Ines Tolland' }).click();
  await dialog.getByRole('button', { name: 'Hand over', exact: true }).click();
  await expect(page.getByText('Handed over 2 tasks and 0 leads to Ines Tolland.')).toBeVisible();
  const handed = page
    .getByRole('list', { name: 'Handed over' })
    .getByRole('listitem')
    .filter({ hasText: name });
  await expect(handed).toContainText('looks after 2 tasks');
  await handed.getByRole('button', { name: 'Give back now' }).click();
  await expect(handed).toHaveCount(0);
  await page.goto('/round');
  await expect(page.getByRole('list', { name: 'Round' })).toContainText(`Own ${name}`);
});

test('a day that is typed faster than it can be read is read all the same', async ({ browser }) => {
  const page = await signIn(browser);
  const title = `Typed fast ${Date.now()}`;
  await page.request.post('/api/tasks', { data: { title, dueAt: '2026-01-05T00:00:00Z' } });
  let isHeldUp = false;
  await page.route(/typedDay[^/]*\.js$/, async (route) => {
    isHeldUp = true;
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await page.goto('/round');
  await page.getByRole('link', { name: title }).click();
  const panel = page.getByRole('complementary', { name: 'Task' });
  await panel.getByRole('button', { name: /^Due:/ }).click();
  await panel.getByRole('textbox', { name: 'Due' }).fill('in 300 working days');
  await page.keyboard.press('Enter');
  await expect(page.getByText(new RegExp(`^Changed ${title}`))).toBeVisible();
  await expect(panel.getByRole('button', { name: /^Due:/ })).not.toContainText('2026');
  expect(isHeldUp).toBe(true);
});
