import { expect, test } from './test';
import { signIn, urlOf } from './pages';

test('a colleague is invited by mail, chooses a password, forgets it, and sees where they are signed in', async ({
  browser,
}) => {
  const admin = await signIn(browser, 'joss');
  await admin.goto('/settings/accounts');
  await admin.getByRole('button', { name: 'Add an account' }).click();
  // Outside, where the post office shows what came; what goes to our own domain comes back to us.
  const email = `nia${Date.now()}@newcombe.example`;
  await admin.getByLabel('Name').fill('Nia Newcombe');
  await admin.getByLabel('Email').fill(email);
  await admin.getByRole('button', { name: 'Add the account' }).click();
  await expect(admin.getByText('Added Nia Newcombe. An invitation is on its way.')).toBeVisible();
  await expect(admin.getByRole('button', { name: 'Invite Nia Newcombe again' }).first()).toBeVisible();

  const context = await browser.newContext({ baseURL: urlOf(), locale: 'en-GB' });
  const page = await context.newPage();
  /** Opens the newest link that was mailed to her. */
  const openLink = async (seen: number) => {
    await expect(async () => {
      await page.goto(process.env.E2E_OUTBOX_URL ?? '');
      expect(await page.getByText(email).count()).toBeGreaterThan(seen);
    }).toPass();
    const link = page.getByRole('link', { name: /new-password/ });
    const links = await link.evaluateAll((all) => all.map((one) => (one as HTMLAnchorElement).href));
    return [...new Set(links)];
  };
  const invited = await openLink(0);
  await page.goto(invited[0] ?? '');
  await page.getByLabel('New password').fill('short');
  await page.getByLabel('New password').fill('a password of her own');
  await page.getByRole('button', { name: 'Save and sign in' }).click();
  await expect(page.getByRole('button', { name: 'Nia Newcombe' })).toBeVisible();
  await page.goto('/settings/sign-in');
  const places = page.getByRole('region', { name: 'Where you are signed in' });
  await expect(places).toContainText('here, now');
  await expect(page.getByRole('region', { name: 'Recent sign-ins' })).toContainText('New password by a link');
  await places.getByRole('button', { name: 'Sign out on every device' }).click();

  await page.getByRole('link', { name: 'Forgot your password?' }).click();
  await page.getByLabel('Email').fill(email);
  await page.getByRole('button', { name: 'Send the link' }).click();
  await expect(page.getByText(`If there is an account for ${email}`)).toBeVisible();
  const fresh = (await openLink(1)).find((one) => !invited.includes(one));
  await page.goto(fresh ?? '');
  await page.getByLabel('New password').fill('a second one of her own');
  await page.getByRole('button', { name: 'Save and sign in' }).click();
  await expect(page.getByRole('button', { name: 'Nia Newcombe' })).toBeVisible();
  // A link is good once.
  await page.goto('/settings/sign-in');
  await page.getByRole('button', { name: 'Sign out on every device' }).click();
  await page.getByRole('link', { name: 'Forgot your password?' }).waitFor();
  await page.goto(fresh ?? '');
  await page.getByLabel('New password').fill('a third one of her own');
  await page.getByRole('button', { name: 'Save and sign in' }).click();
  await expect(page.getByText('This link is not valid any more.')).toBeVisible();
  await context.close();
});
