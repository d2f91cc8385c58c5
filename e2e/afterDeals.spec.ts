import { choose, signIn } from './pages';
import { expect, test, type Page } from './test';

const idOf = async (
  page: Page,
  path: string,
  data: Record<string, unknown>,
  key: string,
): Promise<string> => {
  const made = await page.request.post(path, { data });
  expect(made.status()).toBe(201);
  return ((await made.json()) as Record<string, { id: string }>)[key]?.id ?? '';
};

test('a won deal becomes a project that shows what goes along; its progress follows its tasks', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mark = Date.now() % 1_000_000;
  const person = await idOf(page, '/api/people', { fullName: `Una Deliver${mark}` }, 'person');
  const deal = await idOf(page, '/api/deals', { title: `Fleet ${mark}`, personId: person }, 'deal');
  await page.goto(`/deals/${deal}`);
  await expect(page.getByRole('button', { name: 'Make a project' })).toHaveCount(0);
  await choose(page.getByRole('combobox', { name: 'Stage' }), 'Signed');
  await page.getByRole('button', { name: 'Make a project' }).click();
  const dialog = page.getByRole('dialog', { name: 'Make a project' });
  await expect(dialog.getByRole('checkbox', { name: `Una Deliver${mark}` })).toBeChecked();
  await expect(dialog.getByLabel('Title')).toHaveValue(`Fleet ${mark}`);
  await dialog.getByLabel('Due').fill('in 6 weeks');
  await page.keyboard.press('Tab');
  await expect(dialog.getByLabel('Due')).toHaveValue(/20\d\d/);
  await dialog.getByRole('button', { name: 'Make the project' }).click();
  await expect(page.getByRole('heading', { name: `Fleet ${mark}`, level: 1 })).toBeVisible();
  await expect(page).toHaveURL(/\/projects\//);
  await expect(page.locator('[data-fact=dueOn]')).not.toContainText('Not set');
  const composer = page.getByRole('textbox', { name: 'Write what happened or what comes next' });
  for (const [line, title] of [
    ['order the frames on Friday', 'rder the frames'],
    ['call Una on Monday about the training', 'about the training'],
  ] as const) {
    await composer.fill(line);
    await page.keyboard.press('Enter');
    await expect(page.locator('[data-move]').filter({ hasText: title })).toBeVisible();
  }
  await expect(page.locator('[data-move]')).toHaveCount(2);
  await page.locator('[data-move]').first().getByRole('button', { name: /^Done/ }).click();
  await expect(page.getByText('50%, 1 of 2 tasks done')).toBeVisible();
  await choose(page.getByRole('combobox', { name: 'Stage' }), 'Handed over');
  await expect(
    page.locator('[data-entry]').filter({ hasText: 'Stage: Planned → Handed over' }),
  ).toBeVisible();
  await page.goto(`/deals/projects?q=${mark}`);
  await expect(page.getByText('No projects match these filters.')).toBeVisible();
  await choose(page.getByRole('combobox', { name: 'Open or ended' }), 'Done');
  await expect(page.getByRole('link', { name: `Fleet ${mark}` })).toBeVisible();
  await page.goto(`/deals/${deal}`);
  await page.getByRole('button', { name: 'Make a project' }).click();
  await expect(dialog).toContainText('1 project came of this deal already');
});

test('a case is opened by a mail, answered, solved with how, and found again', async ({ browser }) => {
  const page = await signIn(browser);
  const mark = Date.now() % 1_000_000;
  const raw = [
    `From: Vic Broken${mark} <vic${mark}@broken.example>`,
    'To: pell@wharfside.example',
    `Subject: Cold box ${mark} is warm`,
    `Message-ID: <case-${mark}@broken.example>`,
    `Date: ${new Date().toUTCString()}`,
    '',
    'Hello Pell,',
    '',
    'the cold box no longer cools. Can you help us today?',
    '',
    `Vic Broken${mark}`,
  ].join('\r\n');
  const captured = await page.request.post('/api/captures', {
    headers: { 'content-type': 'message/rfc822' },
    data: raw,
  });
  const { id } = (await captured.json()) as { id: string };
  await page.goto(`/arrivals/${id}`);
  await page.getByRole('button', { name: 'Owner, tags, deal, case, note' }).click();
  await choose(page.getByRole('combobox', { name: 'File as' }), 'a new case');
  await choose(page.getByRole('combobox', { name: 'Urgency' }), 'Urgent');
  await page.getByRole('button', { name: /^File/ }).last().click();
  await expect(page.getByText(/Filed/).first()).toBeVisible();
  await page.goto(`/deals/cases?q=${mark}`);
  const row = page.getByRole('row').filter({ hasText: `Cold box ${mark}` });
  await expect(row).toContainText('Urgent');
  await expect(row).toContainText('Not answered yet');
  await row.getByRole('link', { name: `Cold box ${mark}` }).click();
  await expect(page.getByText('no longer cools').first()).toBeVisible();
  await page.goto('/round?kind=case');
  await expect(page.getByRole('link', { name: `Cold box ${mark} is warm` })).toBeVisible();
  await page.getByRole('link', { name: `Cold box ${mark} is warm` }).click();
  await page
    .getByRole('textbox', { name: 'Write what happened or what comes next' })
    .fill('Called: a mechanic comes at four');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-entry]').filter({ hasText: 'a mechanic comes' })).toBeVisible();
  await expect(page.getByText('Not answered yet')).toHaveCount(0);
  await page.getByRole('button', { name: 'Solved…' }).click();
  await page.getByRole('textbox', { name: 'How it was solved' }).fill('A new fan');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Open again' })).toBeVisible();
  await expect(page.locator('[data-fact=solution]')).toContainText('A new fan');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Solved…' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type(`cold box ${mark}`);
  await expect(page.getByRole('option', { name: new RegExp(`Cold box ${mark}.*case`) })).toBeVisible();
});

test('what is promised for cases and the stages of projects are set by a manager', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  await page.goto('/settings/after-deals');
  const stage = `Waiting ${Date.now() % 1_000_000}`;
  await page.getByLabel('Another stage').fill(stage);
  await page.getByRole('button', { name: 'Add a stage' }).click();
  await expect(page.getByRole('row').filter({ hasText: stage })).toContainText('0 projects');
  await page.getByRole('button', { name: `Retire ${stage}` }).click();
  await expect(page.getByText(`Changed the stage ${stage}.`)).toBeVisible();
  const hours = page.getByRole('textbox', { name: 'First answer, Can wait, hours' });
  await hours.fill('99');
  await page.keyboard.press('Enter');
  await expect(page.getByText('A case is answered before it is solved.')).toBeVisible();
  await hours.fill('20');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Changed what is promised.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(hours).toHaveValue('16');
});
