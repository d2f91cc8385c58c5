import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { postMail, signIn, urlOf } from './pages';

let serial = Date.now() % 1_000_000;
const letters = (number: number): string =>
  String(number).replace(/\d/g, (digit) => 'abcdefghij'.charAt(Number(digit)));

async function reachable(page: Page): Promise<{ id: string; name: string; email: string }> {
  const at = ++serial;
  const name = `Ronja ${letters(at)}`;
  const email = `ronja.${at}@rowbakery.example`;
  const made = await page.request.post('/api/people', { data: { fullName: name, email } });
  const { person } = (await made.json()) as { person: { id: string } };
  return { id: person.id, name, email };
}

test('somebody is asked, chooses on their own page in their language, and unsubscribes by a reply', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { id, name, email } = await reachable(page);
  await page.goto(`/people/${id}`);
  await page.getByRole('button', { name: 'Not asked' }).click();
  const panel = page.getByRole('complementary', { name: 'Consent' });
  await panel.getByRole('button', { name: 'They agreed to Offers' }).click();
  await expect(panel.getByLabel('How they agreed')).toBeFocused();
  await page.keyboard.type('On the phone, she asked for the autumn offer');
  await page.keyboard.press('Enter');
  await expect(panel.getByText('“On the phone, she asked for the autumn offer”')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Offers agreed' })).toBeVisible();
  await panel.getByRole('button', { name: 'Ask by mail' }).click();
  await expect(page.getByRole('button', { name: 'Offers agreed · Service, News asked' })).toBeVisible();
  const outbox = async (): Promise<string> =>
    (await page.request.get(process.env.E2E_OUTBOX_URL ?? '')).text();
  await expect.poll(outbox, { timeout: 30_000 }).toContain(email);

  const { link } = (await (await page.request.get(`/api/people/${id}/consent`)).json()) as { link: string };
  const outside = await browser.newContext({ baseURL: urlOf(), locale: 'de-DE' });
  const own = await outside.newPage();
  await own.goto(new URL(link).pathname);
  await expect(own.getByRole('heading', { level: 1 })).toHaveText('Worüber wir Ihnen schreiben dürfen');
  await expect(own.getByText('r…@rowbakery.example')).toBeVisible();
  await own.getByLabel('Neuigkeiten').check();
  await own.getByLabel('Angebote').uncheck();
  await own.getByLabel('Probefahrten in Ihrer Nähe').check();
  const rides = own.locator('.topic', { hasText: 'Probefahrten in Ihrer Nähe' });
  await rides.getByText('Nur für bestimmte Orte').click();
  await rides.getByLabel('Postleitzahlen').fill('3511, 3512');
  await rides.getByLabel('Land').selectOption('NL');
  await own.getByRole('button', { name: 'Speichern' }).click();
  await expect(own.getByRole('status')).toContainText('Gespeichert');

  // Both pages show the same at the same moment.
  await expect(page.getByRole('button', { name: /^News agreed · .*Offers withdrawn/ })).toBeVisible();
  await expect(panel.getByText(/NL 3511, NL 3512/)).toBeVisible();

  await postMail(`From: ${name} <${email}>
To: pell@wharfside.example
Subject: Re: Spring service checks
Message-ID: <stop.${serial}@rowbakery.example>

Please take me off your mailing list.
`);
  await expect(page.getByRole('button', { name: /News, Offers withdrawn/ })).toBeVisible({ timeout: 30_000 });
  await expect(panel.getByText('“Please take me off your mailing list.”').first()).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Write a letter' }).click();
  await expect(page.getByText(`${name} (${email}) withdrew consent to be mailed.`)).toBeVisible();
  await outside.close();
});

test('a topic by area is offered with its areas, and retired again', async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  const at = letters(++serial);
  await page.goto('/settings/consent');
  const make = page.getByRole('form', { name: 'Add a topic' });
  await make.getByLabel('Topic').fill(`Rides ${at}`);
  await make.getByLabel('By area').check();
  await make.getByRole('button', { name: 'Add a topic' }).click();
  await page.getByRole('button', { name: `Edit Rides ${at}` }).click();
  const panel = page.getByRole('complementary', { name: `Rides ${at}` });
  await panel.getByLabel('The sentence they agree to').fill('Invite me to rides.');
  await panel.getByLabel('Name in Deutsch').fill(`Fahrten ${at}`);
  await panel.getByRole('button', { name: 'Save' }).click();
  await expect(panel).toBeHidden();
  await page.getByRole('button', { name: `0 agreed to Rides ${at}` }).click();
  await expect(page.getByText('Nobody subscribed yet.')).toBeVisible();

  await page.goto('/settings/areas');
  const map = page.getByRole('region', { name: 'Map of the areas' });
  await page.getByRole('button', { name: 'Draw an area' }).click();
  for (const [x, y] of [
    [120, 120],
    [240, 130],
    [200, 240],
  ] as const)
    await map.click({ position: { x, y } });
  await page.getByRole('button', { name: 'Use this area' }).click();
  await page.getByLabel('Name of the area').fill(`Corner ${at}`);
  await page.getByRole('button', { name: 'Add the area' }).click();
  await expect(page.getByRole('button', { name: `Corner ${at}`, exact: true })).toBeVisible();
  const outside = await browser.newContext({ baseURL: urlOf(), locale: 'de-DE' });
  const { id } = await reachable(page);
  const { link } = (await (await page.request.get(`/api/people/${id}/consent`)).json()) as { link: string };
  const own = await outside.newPage();
  await own.goto(new URL(link).pathname);
  const topic = own.locator('.topic', { hasText: `Fahrten ${at}` });
  await topic.getByText('Nur für bestimmte Orte').click();
  await expect(topic.getByLabel(`Corner ${at}`)).toBeVisible();
  await outside.close();
  await page.getByRole('button', { name: `Retire Corner ${at}` }).click();
  await expect(page.getByRole('button', { name: `Corner ${at}`, exact: true })).toBeHidden();
  await page.goto('/settings/consent');
  await page.getByRole('button', { name: `Retire Rides ${at}` }).click();
  await expect(page.getByText(`Rides ${at}`, { exact: true })).toBeHidden();
});
