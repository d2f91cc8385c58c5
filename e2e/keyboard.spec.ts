import { expect, test, type Page } from './test';
import { makeMail, urlOf } from './pages';

/** Tabs until the focus is on what is wanted; a person would do the same. */
async function tabTo(page: Page, wanted: RegExp): Promise<void> {
  for (let steps = 0; steps < 120; steps++) {
    await page.keyboard.press('Tab');
    const words = await page.evaluate(() => {
      const at = document.activeElement as HTMLElement | null;
      const label = at?.id ? document.querySelector(`label[for="${at.id}"]`)?.textContent : '';
      return `${at?.getAttribute('aria-label') ?? ''} ${label ?? ''} ${at?.closest('label')?.textContent ?? ''} ${at?.textContent ?? ''}`
        .replace(/\s+/g, ' ')
        .trim();
    });
    if (wanted.test(words)) return;
  }
  throw new Error(`the focus never came to ${wanted}`);
}

test('the whole way from a message to a deal in another lane, with the keyboard alone', async ({
  browser,
}) => {
  const page = await (
    await browser.newContext({ baseURL: urlOf(), locale: 'en-GB', viewport: { width: 1280, height: 800 } })
  ).newPage();
  const { keyboard } = page;
  const mail = makeMail();
  await page.goto('/');
  await expect(page.getByLabel('Email')).toBeFocused();
  await keyboard.type('pell@wharfside.example');
  await keyboard.press('Tab');
  await keyboard.type('long-bikes-carry');
  await keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'What came in' })).toBeVisible();

  await tabTo(page, /^Capture$/);
  await keyboard.press('Enter');
  await expect(page.getByLabel('or paste a message, the address of a page, or any text')).toBeFocused();
  await keyboard.insertText(mail.raw);
  await keyboard.press('Control+Enter');
  await expect(page.getByRole('link', { name: mail.name })).toHaveAttribute('aria-current', 'true');

  await expect(page.getByRole('dialog')).toHaveCount(0);
  await keyboard.press('e');
  await expect(page.getByLabel('Correct Name')).toBeFocused();
  await keyboard.press('Escape');
  await tabTo(page, /Reject Mobile/);
  await keyboard.press('Enter');
  await expect(page.locator('[data-claim=phone] .gone')).toBeVisible();
  await tabTo(page, /^File it/);
  await keyboard.press('Enter');
  await tabTo(page, /^Open the lead$/);
  await keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: '6 bikes' })).toBeVisible();

  await tabTo(page, /^Qualify$/);
  await keyboard.press('Enter');
  await tabTo(page, /Answer with “/);
  await keyboard.press('Enter');
  await tabTo(page, /^Convert$/);
  await keyboard.press('Enter');
  await expect(page.getByText('The deal is')).toBeVisible();
  await tabTo(page, new RegExp(`^${mail.name}$`));
  await keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: mail.name })).toBeVisible();
  await tabTo(page, /Where Job title comes from/);
  await keyboard.press('Enter');
  await expect(page.getByRole('dialog').locator('mark.lit')).toBeVisible();
  await keyboard.press('Escape');
  await tabTo(page, /Write what happened/);
  await keyboard.type('call today about the payload sheet');
  await keyboard.press('Enter');
  await expect(page.locator('[data-next-move]')).toContainText('Call about the payload sheet');

  await tabTo(page, /^Deals/);
  await keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Deals' })).toBeVisible();
  await tabTo(page, new RegExp(`^${mail.company}`));
  await keyboard.press('Shift+ArrowDown');
  await expect(page.locator('[data-lane="Tried out"] [data-deal]', { hasText: mail.company })).toBeVisible();
  await keyboard.press('Control+z');
  await expect(page.locator('[data-lane="Heard out"] [data-deal]', { hasText: mail.company })).toBeVisible();

  await tabTo(page, /^Round/);
  await keyboard.press('Enter');
  const line = page.locator('[data-round-line]', { hasText: 'Call about the payload sheet' });
  await expect(line).toBeVisible();
  for (let steps = 0; steps < 120 && (await line.getAttribute('aria-current')) === null; steps++)
    await keyboard.press('j');
  await keyboard.press('d');
  await expect(line).toHaveCount(0);
});
