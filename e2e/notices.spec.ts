import { expect, test } from './test';
import { choose, signIn } from './pages';

test('a mention and a task reach the colleague at once, lead to the record, and are read', async ({
  browser,
}) => {
  const [page, ines] = [await signIn(browser), await signIn(browser, 'ines')];
  const name = `Notice Board${Date.now()}`;
  const made = await page.request.post('/api/people', { data: { fullName: name } });
  const { person } = (await made.json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  const line = page.getByLabel('Write what happened or what comes next');
  await line.fill('@ines knows her brother');
  await page.keyboard.press('Enter');
  await expect(page.locator('li[data-entry]')).toContainText('@ines knows her brother');
  await line.fill('task for Ines: send the payload sheet by Friday');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-next-move]')).toContainText('Send the payload sheet');
  const forYou = ines.getByRole('button', { name: /^For you/ });
  await expect(forYou).toHaveText(/For you\s*(?:[2-9]|\d{2,})/);
  await forYou.click();
  const panel = ines.getByRole('complementary', { name: 'For you' });
  await expect(panel.getByRole('link').nth(0)).toHaveText(
    /^Pell Garrick gave you a task: Send the payload sheet/,
  );
  await panel.getByRole('link', { name: 'Pell Garrick mentioned you: @ines knows her brother' }).click();
  await expect(ines.getByRole('heading', { name })).toBeVisible();
  await ines.getByRole('button', { name: 'Answer Pell Garrick: @ines knows her brother' }).click();
  await ines.keyboard.type('he is called Rui');
  await ines.keyboard.press('Enter');
  await expect(page.locator('li[data-entry]').first()).toContainText('@pell.garrick he is called Rui');
  await forYou.click();
  await expect(panel.getByRole('button', { name: 'Mark as unread: @ines knows her brother' })).toBeVisible();
  await panel.getByRole('button', { name: 'Mark all as read' }).click();
  await expect(forYou).toHaveText(/^\s*For you\s*$/);
  await panel.getByRole('button', { name: 'Close' }).click();
  await ines.getByRole('button', { name: 'Done' }).first().click();
  await page.getByRole('button', { name: /^For you/ }).click();
  await expect(
    page.getByRole('link', { name: 'Ines Tolland finished: Send the payload sheet' }),
  ).toBeVisible();
});

test('a colleague is called by the first letters, and a change of standing says why at once', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const made = await page.request.post('/api/people', { data: { fullName: `Why Said${Date.now()}` } });
  const { person } = (await made.json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  const line = page.getByLabel('Write what happened or what comes next');
  await line.click();
  await line.pressSequentially('ask @jo');
  const offered = page.getByRole('group', { name: 'Colleagues' });
  await expect(offered.getByRole('button', { name: 'Joss Ferrow' })).toBeVisible();
  await page.keyboard.press('Tab');
  await expect(line).toHaveValue('ask @joss ');
  await page.keyboard.type('about the van and @m');
  await offered.getByRole('button', { name: 'Mara Quill' }).click();
  await expect(line).toHaveValue('ask @joss about the van and @mara ');
  await expect(line).toBeFocused();
  // Where nobody is called, Tab goes on as ever.
  await page.keyboard.press('Tab');
  await expect(line).not.toBeFocused();
  await line.fill('');

  await page.getByRole('button', { name: /^Standing: stranger/ }).click();
  await choose(page.getByRole('combobox', { name: 'Standing' }), 'customer');
  await expect(page.getByText('Standing: customer.')).toBeVisible();
  await page.getByRole('button', { name: 'Say why' }).click();
  await page.getByRole('textbox', { name: 'Why' }).fill('They signed at the fair');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Because: They signed at the fair')).toBeVisible();
  const entry = page.locator('li[data-entry]').filter({ hasText: 'Standing: stranger → customer' });
  await expect(entry).toContainText('They signed at the fair');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(entry).not.toContainText('They signed at the fair');
});

test('the browser shows what is new while the page is in the background, as allowed and chosen, and not in quiet hours', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const ines = await signIn(browser, 'ines');
  await page.context().grantPermissions(['notifications']);
  await page.addInitScript(() => {
    const shown: string[] = [];
    Object.assign(window, {
      shown,
      Notification: class extends Notification {
        constructor(title: string, options?: NotificationOptions) {
          super(title, options);
          shown.push(`${title} ${options?.body ?? ''}`.trim());
        }
      },
    });
    // Whoever works in another tab.
    Object.defineProperty(document, 'hidden', { get: () => true });
  });
  const shown = () => page.evaluate(() => (window as unknown as { shown: string[] }).shown);
  const name = `Browser Notice${Date.now()}`;
  const made = await page.request.post('/api/people', { data: { fullName: name } });
  const { person } = (await made.json()) as { person: { id: string } };
  await page.goto('/settings/notices');
  expect(await page.evaluate(() => Notification.permission)).toBe('granted');
  const box = page.getByLabel('Browser: A colleague mentions you');
  // It may be ticked from the start, and then nothing would be sent.
  for (const isOn of [false, true]) {
    if ((await box.isChecked()) === isOn) continue;
    const saved = page.waitForResponse(
      (answer) => answer.url().endsWith('/api/notices/settings') && answer.request().method() === 'PATCH',
    );
    await box.setChecked(isOn);
    await saved;
  }
  const mention = (words: string) =>
    ines.request.post('/api/ledger', { data: { line: `@pell ${words}`, about: { personId: person.id } } });
  const quiet = async (hours: { from: string; until: string } | null) =>
    expect((await page.request.patch('/api/notices/settings', { data: { quiet: hours } })).ok()).toBe(true);
  const forYou = page.getByRole('button', { name: /^For you/ });
  const unread = async () => Number(/\d+/.exec((await forYou.textContent()) ?? '')?.[0] ?? 0);
  const before = await unread();
  await mention('her brother rides too');
  await expect.poll(shown).toEqual([`Ines Tolland mentioned you: @pell her brother rides too ${name}`]);
  await quiet({ from: '00:00', until: '23:59' });
  await mention('it rained all day');
  await expect.poll(unread).toBe(before + 2);
  await quiet(null);
  await mention('the van was blue');
  await expect.poll(async () => (await shown()).at(-1)).toContain('the van was blue');
  expect(await shown()).toHaveLength(2);
  await box.uncheck();
});
