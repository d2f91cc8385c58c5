import { expect, test, type Page } from './test';
import { signIn } from './pages';

const lane = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const inLanes = (kind: string, by: string, title: string) =>
  `new?changed=${encodeURIComponent(
    JSON.stringify({
      ...{ kind, groups: [], order: [], totals: [], columns: ['title'] },
      conditions: [{ field: 'title', op: 'contains', value: title }],
      layout: { as: 'lanes', by },
    }),
  )}`;
async function moveTo(page: Page, title: string, to: string): Promise<void> {
  const button = page.getByRole('button', { name: `Move to … (${title})` });
  // While a move is being shown, its card can stand in both lanes.
  await expect(button).toHaveCount(1);
  await button.press('Enter');
  await page
    .getByRole('listitem')
    .filter({ hasText: to })
    .or(page.getByRole('option', { name: to, exact: true }))
    .first()
    .click();
}

test('tasks, projects and cases move between lanes, one undo each, and say what is wrong', async ({
  browser,
}) => {
  const page = await signIn(browser, 'mara');
  const title = `Lanes ${Date.now() % 1_000_000}`;
  const post = async (path: string, data: object) =>
    (await (await page.request.post(path, { data })).json()) as {
      task?: { id: string };
      person?: { id: string };
    };
  const task = await post('/api/tasks', { title, dueAt: '2027-03-01T09:00:00Z' });
  await page.goto(`/round/views/${inLanes('task', 'priority', title)}`);
  const card = (name: string) => lane(page, name).getByRole('article', { name: title });
  await expect(card('Normal')).toBeVisible();
  await moveTo(page, title, 'High');
  await expect(card('High')).toBeVisible();
  await expect(page.getByText('Moved to High.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(card('Normal')).toBeVisible();
  // To a colleague, who has it then.
  await page.goto(`/round/views/${inLanes('task', 'owner', title)}`);
  await moveTo(page, title, 'Ines Tolland');
  await expect(card('Ines Tolland')).toBeVisible();

  await post('/api/projects', { title });
  await page.goto(`/deals/projects/views/${inLanes('project', 'owner', title)}`);
  await moveTo(page, title, 'Pell Garrick');
  await expect(card('Pell Garrick')).toBeVisible();

  const { person } = await post('/api/people', { fullName: `Who has ${title}` });
  await post('/api/cases', { title, personId: person?.id });
  await page.goto(`/deals/cases/views/${inLanes('case', 'urgency', title)}`);
  await moveTo(page, title, 'Urgent');
  await expect(card('Urgent')).toBeVisible();
  // What the server refuses is said, and the card stays.
  await page.route('**/api/cases/*', (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.continue(),
  );
  await moveTo(page, title, 'Low');
  await expect(page.locator('.told.wrong')).toBeVisible();
  await expect(card('Urgent')).toBeVisible();
  await page.request.delete(`/api/tasks/${task.task?.id ?? ''}`);
});
