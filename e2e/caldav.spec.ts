import { signIn } from './pages';
import { expect, test, type Page } from './test';

const daybook = (): string => process.env.E2E_CALENDAR_URL ?? '';
/** Changes the daybook by its own page, as its owner would. */
async function act(page: Page, what: string, form: Record<string, string>): Promise<void> {
  const answer = await page.request.post(`${daybook()}/act/${what}`, { form });
  expect(answer.ok()).toBe(true);
}
const eventsThere = async (page: Page): Promise<string> => (await page.request.get(`${daybook()}/`)).text();
/** Brings both in step by hand, and waits until that was done. */
async function syncNow(page: Page): Promise<void> {
  const answer = page.waitForResponse((response) => response.url().endsWith('/sync'));
  await page.getByRole('button', { name: /^(?:Sync now|Try again)$/ }).click();
  await answer;
}
interface Item {
  taskId: string;
  title: string;
  start: string;
}
async function itemOf(page: Page, title: string): Promise<Item | undefined> {
  const from = new Date().toISOString();
  const until = new Date(Date.now() + 30 * 86_400_000).toISOString();
  const answer = await page.request.get('/api/calendar', { params: { from, until } });
  return ((await answer.json()) as { items: Item[] }).items.find((item) => item.title === title);
}

test('a calendar elsewhere is added, follows from either side, and asks where both changed the same', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const page = await signIn(browser, 'joss');
  const title = `Fitting ${Date.now() % 1_000_000}`;
  await page.goto('/settings/calendar');
  await page.getByRole('button', { name: 'Add a calendar' }).click();
  await page.getByLabel('Address of the server').fill(`${daybook()}/pell/`);
  await page.getByLabel('User name').fill('joss');
  await page.getByLabel('Password').fill('any-password-will-do');
  await page.getByRole('button', { name: 'Add the calendar' }).click();
  await expect(page.getByText(/^In step, read/)).toBeVisible();
  await expect.poll(() => itemOf(page, 'Dentist')).toBeTruthy();

  const start = new Date(Date.now() + 5 * 86_400_000);
  start.setUTCHours(9, 0, 0, 0);
  const made = await page.request.post('/api/tasks', {
    data: { title, kind: 'meeting', dueAt: start.toISOString(), allDay: false },
  });
  const { task } = (await made.json()) as { task: { id: string } };
  await expect.poll(() => eventsThere(page), { timeout: 30_000 }).toContain(title);

  const name = `meeting.${task.id}@127.0.0.1.ics`;
  await act(page, 'later', { name });
  await syncNow(page);
  const hourLater = (hours: number): string => new Date(start.getTime() + hours * 3_600_000).toISOString();
  await expect.poll(async () => (await itemOf(page, title))?.start).toBe(hourLater(1));

  await act(page, 'later', { name });
  await page.request.patch(`/api/tasks/${task.id}`, { data: { dueAt: hourLater(5) } });
  await expect(page.getByText('Changed here and in your other calendar')).toBeVisible({ timeout: 75_000 });
  await page.goto('/round/agenda');
  await expect(page.getByRole('status').filter({ hasText: '1 meeting was changed here' })).toBeVisible();
  await page.goto(`/round/agenda?task=${task.id}`);
  const panel = page
    .getByRole('complementary')
    .filter({ hasText: 'Changed here and in your other calendar' });
  await panel.getByRole('button', { name: 'Take the other' }).click();
  await expect(panel).toHaveCount(0);
  await expect.poll(async () => (await itemOf(page, title))?.start).toBe(hourLater(2));

  await act(page, 'remove', { name });
  await page.goto('/settings/calendar');
  await syncNow(page);
  await expect.poll(() => itemOf(page, title)).toBeUndefined();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('What stands in both calendars stays in both.')).toBeVisible();
});

test('personal facts are written beside the dossier and stand on the card', async ({ browser }) => {
  const page = await signIn(browser);
  const made = await page.request.post('/api/people', {
    data: { fullName: `Gil Personal ${Date.now() % 1_000_000}` },
  });
  const { person } = (await made.json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  await page.getByRole('button', { name: 'Add personal facts' }).click();
  const panel = page.getByRole('complementary', { name: 'Personal' });
  await panel.getByRole('button', { name: /Interests/ }).click();
  await page.keyboard.type('Sea swimming');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Sea swimming', exact: true })).toHaveCount(1);
  await panel.getByRole('button', { name: 'Close' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'Sea swimming', exact: true }).click();
  await expect(panel.getByText('Sea swimming')).toBeVisible();
});
