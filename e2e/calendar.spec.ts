import { readCalendar } from '@emporikon/core/formats/icalendar';
import { meter } from './meter';
import { signIn } from './pages';
import { expect, test, type Page } from './test';

/** Somebody with an address, made over the API. */
async function makePerson(page: Page, fullName: string): Promise<{ id: string; email: string }> {
  const email = `${fullName.toLowerCase().replace(/[^a-z0-9]+/g, '.')}@calendar.example`;
  const made = await page.request.post('/api/people', { data: { fullName, email } });
  const { person } = (await made.json()) as { person: { id: string } };
  return { id: person.id, email };
}
/** A weekday well ahead, so that nothing else stands there: Wednesday in so many weeks. */
function wednesday(weeks: number): string {
  const day = new Date(Date.now() + weeks * 7 * 86_400_000);
  day.setUTCDate(day.getUTCDate() + ((3 - day.getUTCDay() + 7) % 7));
  return day.toISOString().slice(0, 10);
}
const meet = async (page: Page, data: Record<string, unknown>): Promise<string> => {
  const made = await page.request.post('/api/tasks', { data: { kind: 'meeting', allDay: false, ...data } });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { task: { id: string } }).task.id;
};
const taskOf = async (page: Page, id: string) =>
  (await (await page.request.get(`/api/tasks/${id}`)).json()) as {
    dueAt: string;
    endAt: string;
    allDay: boolean;
    doneAt: string | null;
    people: { name: string; answer: string }[];
  };

test('a meeting with two people and an invitation takes at most 9 s of operators; an answer by mail marks who comes', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const page = await signIn(browser);
  const mark = Date.now() % 1_000_000;
  const names = [`Asa Calend${mark}`, `Bea Calend${mark}`] as const;
  const people = [await makePerson(page, names[0]), await makePerson(page, names[1])];
  const title = `Trial ride ${mark}`;
  await page.goto('/round/week');
  await expect(page.getByRole('button', { name: 'New meeting' })).toBeVisible();
  const measure = await meter(page);
  await page.getByRole('button', { name: 'New meeting' }).click();
  const panel = page.getByRole('complementary', { name: 'New meeting' });
  await expect(panel.getByLabel('What it is about')).toBeFocused();
  await page.keyboard.type(title);
  await page.keyboard.press('Tab');
  for (const name of names) {
    await page.keyboard.type(name);
    await expect(page.getByRole('option', { name })).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(panel.getByRole('list', { name: 'Who comes' })).toContainText(name);
  }
  await expect(panel.getByRole('checkbox', { name: 'Invite everybody by mail' })).toBeChecked();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(`${title}: saved.`)).toBeVisible();
  const effort = await measure();
  const content = (title.length + names[0].length + names[1].length) * 0.28;
  const without = effort.seconds - content;
  console.log(
    `effort: a meeting with two people and an invitation: ${without.toFixed(1)} s and ${content.toFixed(1)} s of typing`,
  );
  expect(without).toBeLessThanOrEqual(9);

  const outside = await page.context().newPage();
  const letter = outside
    .locator('article')
    .filter({ hasText: title })
    .filter({ hasText: people[0]?.email ?? '' });
  // What could still be taken back is not mailed yet.
  await expect(async () => {
    await outside.goto(process.env.E2E_OUTBOX_URL ?? '');
    await expect(letter).toBeVisible({ timeout: 500 });
  }).toPass({ timeout: 100_000 });
  await letter.getByRole('button', { name: 'accept' }).click();
  await outside.close();
  await page.goto(`/people/${people[0]?.id ?? ''}`);
  await page.locator('[data-move]').getByRole('link', { name: title }).click();
  const who = page.getByRole('list', { name: 'Who comes' });
  await expect(who.getByRole('listitem').filter({ hasText: names[0] })).toContainText('accepted');
  await expect(who.getByRole('listitem').filter({ hasText: names[1] })).toContainText(
    'invited, no answer yet',
  );
  await expect(page.getByText(`Accepted “${title}”`)).toBeVisible();
});

test('what stands in the week is moved and stretched by key and by hand, and each is taken back', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const day = wednesday(5);
  const title = `Movable ${Date.now()}`;
  const id = await meet(page, { title, dueAt: `${day}T10:00:00Z`, endAt: `${day}T11:00:00Z` });
  await page.goto(`/round/week?on=${day}`);
  const entry = page.locator('[data-key]').filter({ hasText: title });
  const shown = async (): Promise<string[]> => {
    const { dueAt, endAt } = await taskOf(page, id);
    return [dueAt.slice(8, 16), endAt.slice(8, 16)];
  };
  const date = day.slice(8);
  const next = new Date(Date.parse(day) + 86_400_000).toISOString().slice(8, 10);
  await entry.focus();
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(shown).toEqual([`${date}T10:15`, `${date}T11:15`]);
  await expect(entry).toBeFocused();
  await page.keyboard.press('Alt+Shift+ArrowDown');
  await expect.poll(shown).toEqual([`${date}T10:15`, `${date}T11:30`]);
  await expect(entry).toBeFocused();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(shown).toEqual([`${date}T10:00`, `${date}T11:15`]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(shown).toEqual([`${date}T10:15`, `${date}T11:30`]);
  // Keys that come faster than the answers all count.
  await expect(entry).toContainText('10:15');
  await entry.focus();
  for (let n = 0; n < 5; n += 1) await page.keyboard.press('Alt+ArrowDown');
  for (let n = 0; n < 5; n += 1) await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Alt+Shift+ArrowDown');
  await expect.poll(shown).toEqual([`${date}T10:15`, `${date}T11:45`]);
  await expect(entry).toBeFocused();

  const from = await entry.boundingBox();
  const column = await page.locator('.fc-timegrid-col[data-date]').nth(3).boundingBox();
  if (!from || !column) throw new Error('the entry is not shown');
  await page.mouse.move(from.x + from.width / 2, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(column.x + column.width / 2, from.y + 8, { steps: 8 });
  await page.mouse.up();
  await expect.poll(async () => (await shown())[0]?.slice(0, 2)).toBe(next);
  await entry.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Task' })).toContainText(title);
});

test('a free time of two colleagues is found and taken; what came of the meeting is written in plain words', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mark = Date.now();
  const person = await makePerson(page, `Cara Held${mark}`);
  await page.goto(`/people/${person.id}`);
  await page.getByRole('link', { name: 'New meeting' }).click();
  const panel = page.getByRole('complementary', { name: 'New meeting' });
  const title = `Held ${mark}`;
  await panel.getByLabel('What it is about').fill(title);
  await expect(panel.getByRole('list', { name: 'Who comes' })).toContainText(`Cara Held${mark}`);
  await panel.getByLabel('Who comes', { exact: true }).first().fill('Ines T');
  await page.getByRole('option', { name: /Ines Tolland/ }).click();
  await panel.getByLabel('Find a free time').fill('blue moon');
  await panel.getByRole('button', { name: 'Find' }).click();
  await expect(panel.getByText(/This names no day/)).toBeVisible();
  await panel.getByLabel('Find a free time').fill('in 3 weeks, 45 min');
  await page.keyboard.press('Enter');
  const first = panel.getByRole('list', { name: 'Free times' }).getByRole('button').first();
  const words = await first.textContent();
  await first.click();
  await expect(panel.getByLabel('From')).toHaveValue(/\d\d:\d\d/);
  expect(words).toContain(await panel.getByLabel('From').inputValue());
  expect(words).toContain(await panel.getByLabel('Until').inputValue());
  await panel.getByRole('checkbox', { name: 'Invite everybody by mail' }).uncheck();
  await panel.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(`${title}: saved.`)).toBeVisible();
  const past = await meet(page, {
    title: `Over ${mark}`,
    dueAt: new Date(Date.now() - 3 * 3_600_000).toISOString(),
    personId: person.id,
  });
  await page.goto(`/people/${person.id}?task=${past}`);
  const task = page.getByRole('complementary', { name: 'Task' });
  await task.getByLabel('What came of it?').fill('Liked the long bike. Send the quote tomorrow');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-entry]').filter({ hasText: 'Liked the long bike' })).toBeVisible();
  await expect(page.locator('[data-move]').filter({ hasText: 'Send the quote' })).toBeVisible();
  expect((await taskOf(page, past)).doneAt).not.toBeNull();
});

test('a calendar program reads a secret address until it is ended', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  const title = `Subscribed ${Date.now()}`;
  await meet(page, { title, dueAt: `${wednesday(6)}T10:00:00Z` });
  await page.goto('/settings/calendar');
  await page.getByRole('button', { name: /^Make/ }).click();
  const address = (await page.locator('code').textContent()) ?? '';
  const read = async () => page.request.get(new URL(address).pathname, { headers: { cookie: '' } });
  const answer = await read();
  expect(readCalendar(await answer.text())?.events.map((event) => event.title)).toContain(title);
  await page.getByRole('button', { name: 'Stop sharing' }).click();
  await expect(page.getByText('No address yet.')).toBeVisible();
  expect((await read()).status()).toBe(404);
});

test('on a phone the week is a list, and a day is opened from it', async ({ browser }) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 390, height: 844 }, isMobile: true });
  const day = wednesday(7);
  const title = `On the phone ${Date.now()}`;
  await meet(page, { title, dueAt: `${day}T10:00:00Z` });
  await page.goto(`/round/week?on=${day}`);
  await page.getByRole('link', { name: title }).click();
  await expect(page.getByRole('complementary', { name: 'Task' })).toContainText(title);
});

test('a meeting of several whole days is set, stands on each of them, and is made longer by key', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const title = `Stand at the fair ${Date.now() % 1_000_000}`;
  const first = wednesday(9);
  await page.goto(`/round/month?on=${first}`);
  await page.getByRole('button', { name: 'New meeting' }).click();
  const panel = page.getByRole('complementary', { name: 'New meeting' });
  await panel.getByLabel('What it is about').fill(title);
  await panel.getByRole('checkbox', { name: 'All day' }).check();
  await expect(panel.getByLabel('From', { exact: true })).toBeHidden();
  await panel.getByLabel('First day').fill(first);
  const last = new Date(Date.parse(first) + 86_400_000).toISOString().slice(0, 10);
  await panel.getByLabel('Last day').fill(last);
  await page.keyboard.press('Tab');
  await panel.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(`${title}: saved.`)).toBeVisible();
  const item = page.locator('[data-key]').filter({ hasText: title });
  await expect(item).toHaveAttribute('aria-label', / to /);
  const id = (await item.getAttribute('data-key')) ?? '';
  const days = async () => {
    const { dueAt, endAt } = await taskOf(page, id);
    return Math.round((Date.parse(endAt) - Date.parse(dueAt)) / 86_400_000);
  };
  expect(await days()).toBe(2);
  await item.focus();
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await expect.poll(days).toBe(3);
  await page.goto(`/round/agenda?on=${first}`);
  await expect(page.getByRole('link', { name: title })).toHaveCount(3);
  await page.request.delete(`/api/tasks/${id}`);
});

test('a later time of what repeats is moved by key and by hand, or left out, and the others stay', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const title = `Repeats ${Date.now() % 1_000_000}`;
  const [first, second, third] = [12, 13, 14].map(wednesday) as [string, string, string];
  const id = await meet(page, {
    ...{ title, dueAt: `${first}T10:00:00Z`, endAt: `${first}T11:00:00Z`, repeat: 'FREQ=DAILY;INTERVAL=7' },
  });
  const times = async (): Promise<string[]> => {
    const query = new URLSearchParams({ from: `${first}T00:00:00Z`, until: `${third}T23:00:00Z` });
    const { items } = (await (await page.request.get(`/api/calendar?${query}`)).json()) as {
      items: { title: string; start: string }[];
    };
    return items.flatMap((item) => (item.title === title ? [item.start.slice(0, 16)] : []));
  };
  await page.goto(`/round/week?on=${second}`);
  const entry = page.locator('[data-key]').filter({ hasText: title });
  await expect(entry).toContainText('repeats');
  await entry.focus();
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(times).toEqual([`${first}T10:00`, `${second}T10:30`, `${third}T10:00`]);
  await expect(entry).not.toContainText('repeats');
  await expect(entry).toBeFocused();
  await expect(entry).toHaveAttribute('aria-label', /10:30 to 11:30/);

  await page.goto(`/round/week?on=${third}`);
  await entry.click();
  const panel = page.getByRole('complementary', { name: 'Task' });
  await panel.getByRole('button', { name: 'Skip this date' }).click();
  await expect(panel).toBeHidden();
  await expect(entry).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(entry).toHaveCount(1);
  await page.request.delete(`/api/tasks/${id}`);
});
