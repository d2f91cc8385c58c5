import { expect, test } from '@playwright/test';
import { meter } from './meter';
import { capture, makeMail, signIn } from './pages';

test('email to deal with a next move costs at most 20 s of operators', async ({ browser }) => {
  const page = await signIn(browser);
  const mail = makeMail();
  await capture(page, mail.raw);
  await expect(page.getByRole('link', { name: mail.name })).toBeVisible();
  const measure = await meter(page);
  await page.getByRole('link', { name: mail.name }).click();
  await page.getByRole('button', { name: /File it/ }).click();
  await page.getByRole('link', { name: 'Open the lead' }).click();
  await page.getByRole('button', { name: 'Convert' }).click();
  await page.getByRole('link', { name: 'Open the deal' }).click();
  await expect(page.locator('[data-next-move]')).toContainText('Send a quote for six bikes');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`${mail.company}, 6 bikes`);
  const effort = await measure();
  console.log(
    `effort: email to deal with a next move: ${effort.seconds} s (${effort.clicks} clicks, ${effort.points} pointings, ${effort.keys} keys, ${effort.hands} hand changes), K P B H operators without M`,
  );
  expect(effort.clicks).toBe(5);
  expect(effort.seconds).toBeLessThanOrEqual(20);
});
