import { expect, test } from './test';
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

test('an email-only lead is enriched by itself, qualified and converted within 25 s of operators', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const at = Date.now() % 100_000;
  const letters = String(at).replace(/\d/g, (digit) => 'abcdefghij'.charAt(Number(digit)));
  // Nothing but an address and a wish: no signature, no firm, no number.
  const raw = `From: Odile ${letters} <odile.${letters}@sunbakery.example>\nTo: arrivals@wharfside.example\nSubject: Bikes ${letters}\nDate: ${new Date().toUTCString().replace('GMT', '+0000')}\nMessage-ID: <only-${at}@test.example>\n\nCould you tell me what a long bike costs?\n`;
  await capture(page, raw.replace(/\n/g, '\r\n'));
  const from = page.getByRole('link', { name: `Odile ${letters}`, exact: false }).first();
  await expect(from).toBeVisible();
  const measure = await meter(page);
  await from.click();
  await page.getByRole('button', { name: /File it/ }).click();
  await page.getByRole('link', { name: 'Open the lead' }).click();
  const judged = page.getByRole('region', { name: 'Scores of this lead' });
  await judged.getByRole('button', { name: /^Fit/ }).click();
  await expect(judged).toContainText('Industry is Bakeries, Couriers, Florists, Catering: Bakeries', {
    timeout: 20_000,
  });
  await page.getByRole('button', { name: 'Qualify', exact: true }).click();
  await expect(page.locator('.status')).toContainText('qualified');
  await page.getByRole('button', { name: 'Convert' }).click();
  await page.getByRole('link', { name: 'Open the deal' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/Sun ?bakery/i);
  const effort = await measure();
  console.log(
    `effort: email-only lead to enriched, qualified, converted deal: ${effort.seconds} s (${effort.clicks} clicks, ${effort.keys} keys)`,
  );
  expect(effort.seconds).toBeLessThanOrEqual(25);
});

test('a note with a mention and a task for a colleague with a day and a repeat, each one line', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const made = await page.request.post('/api/people', { data: { fullName: `One Line${Date.now()}` } });
  const { person } = (await made.json()) as { person: { id: string } };
  await page.goto(`/people/${person.id}`);
  const line = page.getByLabel('Write what happened or what comes next');
  await line.waitFor();
  const measure = await meter(page);
  const write = async (words: string, shown: string): Promise<{ all: number; without: number }> => {
    const before = await measure();
    await line.click();
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
    await expect(page.getByText(shown).first()).toBeVisible();
    const all = (await measure()).seconds - before.seconds;
    // A key is 0.28 s; what is written is the content itself.
    return { all, without: all - words.length * 0.28 };
  };
  const note = await write('@ines she pays by the quarter', '@ines she pays by the quarter');
  const task = await write('@ines fix the price list every first Monday', 'Fix the price list');
  console.log(
    `effort: a note with a mention: ${note.without.toFixed(1)} s and ${(note.all - note.without).toFixed(1)} s of typing; a task for a colleague with a day and a repeat: ${task.without.toFixed(1)} s and ${(task.all - task.without).toFixed(1)} s of typing`,
  );
  expect(note.without).toBeLessThanOrEqual(4);
  expect(task.without).toBeLessThanOrEqual(7);
});
