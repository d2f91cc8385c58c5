import { generateSync } from 'otplib';
import { expect, test } from './test';
import { choose, signIn, urlOf } from './pages';

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
  // The page before has a field of the same name.
  await expect(page.getByText('We mail you a link to choose a new password.')).toBeVisible();
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

test('codes at sign-in are turned on with an app, asked for, replaced by a recovery code, and turned off', async ({
  browser,
}) => {
  const admin = await signIn(browser, 'joss');
  const email = `theo${Date.now()}@wharfside.example`;
  const password = 'a password of his own';
  const added = await admin.request.post('/api/admin/users', {
    data: { name: 'Theo Lockett', email, password },
  });
  expect(added.status()).toBe(201);
  const context = await browser.newContext({ baseURL: urlOf(), locale: 'en-GB' });
  const page = await context.newPage();
  const enter = async (): Promise<void> => {
    await page.goto('/sign-in');
    await page.getByLabel('Email').fill(email);
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Sign in' }).click();
  };
  await enter();
  await page.waitForURL('**/arrivals');
  await page.goto('/settings/sign-in');
  const region = page.getByRole('region', { name: 'Code at sign-in' });
  await region.getByRole('button', { name: 'Turn on' }).click();
  await region.getByLabel('Your password').fill('a wrong one');
  await region.getByRole('button', { name: 'Continue' }).click();
  await expect(region.getByRole('alert')).toHaveText(
    'That is not your current password. Nothing was changed.',
  );
  await region.getByLabel('Your password').fill(password);
  await region.getByRole('button', { name: 'Continue' }).click();
  await expect(region.getByRole('img', { name: 'QR code for your authenticator app' })).toBeVisible();
  const secret = (await region.locator('.secret').innerText()).replace(/\s/g, '');
  await region.getByLabel('Code the app shows').fill(generateSync({ secret }));
  await region.getByRole('button', { name: 'Turn on' }).click();
  const shown = region.getByRole('listitem');
  await expect(shown).toHaveCount(10);
  const [first = '', second = ''] = await shown.allInnerTexts();
  await region.getByRole('button', { name: 'I have saved them' }).click();
  await expect(region).toContainText('10 of your recovery codes are left');

  await page.getByRole('button', { name: 'Sign out on every device' }).click();
  await page.getByLabel('Email').waitFor();
  await enter();
  await page.getByLabel('Code').fill('not-a-code');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('This code is wrong')).toBeVisible();
  await page.getByLabel('Code').fill(first);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/arrivals');
  await page.goto('/settings/sign-in');
  await expect(region).toContainText('9 of your recovery codes are left');
  await expect(page.getByRole('region', { name: 'Recent sign-ins' })).toContainText('Used a recovery code');

  await region.getByRole('button', { name: 'Turn off' }).click();
  await region.getByLabel('Your password').fill(password);
  await region.getByLabel('Code').fill(second);
  await region.getByRole('button', { name: 'Turn off' }).click();
  await expect(region.getByRole('button', { name: 'Turn on' })).toBeVisible();
  await context.close();
});

test('where everybody who manages has to, a code is set up before anything else', async ({ browser }) => {
  const joss = await signIn(browser, 'joss');
  const password = 'a password of their own';
  const add = async (name: string, role: string): Promise<string> => {
    const email = `${name.toLowerCase()}${Date.now()}@wharfside.example`;
    await joss.request.post('/api/admin/users', { data: { name, email, role, password } });
    return email;
  };
  // An admin who has a code already, and so can take the rule back.
  const admin = await browser.newContext({ baseURL: urlOf() });
  const asked = admin.request;
  await asked.post('/api/session', { data: { email: await add('Orrin', 'admin'), password } });
  const { secret } = (await (
    await asked.put('/api/session/second-step/secret', { data: { password } })
  ).json()) as { secret: string };
  await asked.put('/api/session/second-step', { data: { code: generateSync({ secret }) } });
  const rule = async (codes: string): Promise<number> => {
    const { version } = (await (await asked.get('/api/admin/sign-in-rules')).json()) as { version: number };
    return (await asked.patch('/api/admin/sign-in-rules', { data: { version, codes } })).status();
  };
  const email = await add('Nella', 'manager');
  expect(await rule('managers')).toBe(200);
  try {
    const context = await browser.newContext({ baseURL: urlOf(), locale: 'en-GB' });
    const page = await context.newPage();
    await page.goto('/people');
    await page.getByLabel('Email').fill(email);
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('heading', { name: 'Set up codes at sign-in' })).toBeVisible();
    await page.goto('/settings/profile');
    await expect(page).toHaveURL(/codes-first/);
    await expect(page.getByRole('navigation', { name: 'Sections' })).toBeHidden();
    const region = page.getByRole('region', { name: 'Code at sign-in' });
    await region.getByRole('button', { name: 'Turn on' }).click();
    await region.getByLabel('Your password').fill(password);
    await region.getByRole('button', { name: 'Continue' }).click();
    const own = (await region.locator('.secret').innerText()).replace(/\s/g, '');
    await region.getByLabel('Code the app shows').fill(generateSync({ secret: own }));
    await region.getByRole('button', { name: 'Turn on' }).click();
    await expect(region.getByRole('listitem')).toHaveCount(10);
    await page.getByRole('button', { name: 'Continue to Emporikon' }).click();
    await expect(page.getByRole('heading', { name: 'What came in' })).toBeVisible();
    await page.goto('/settings/sign-in');
    await expect(region).toContainText('Your organisation asks you for it.');
    await expect(region.getByRole('button', { name: 'Turn off' })).toBeHidden();
    await context.close();
  } finally {
    expect(await rule('by choice')).toBe(200);
    await admin.close();
  }
});

test('a colleague leaves: what is theirs is counted, goes to somebody else, and the account is off', async ({
  browser,
}) => {
  const admin = await signIn(browser, 'joss');
  const email = `vera${Date.now()}@wharfside.example`;
  const password = 'a password of her own';
  await admin.request.post('/api/admin/users', { data: { name: 'Vera Lindqvist', email, password } });
  const context = await browser.newContext({ baseURL: urlOf(), locale: 'en-GB' });
  await context.request.post('/api/session', { data: { email, password } });
  const made = await context.request.post('/api/people', {
    data: { fullName: `Odile Handed ${Date.now()}` },
  });
  const { person } = (await made.json()) as { person: { id: string } };
  await context.request.post('/api/leads', { data: { title: 'Two trailers', personId: person.id } });

  await admin.goto('/settings/accounts');
  await admin.getByRole('button', { name: 'Switch off Vera Lindqvist' }).click();
  const panel = admin.getByRole('complementary', { name: 'Vera Lindqvist leaves' });
  await expect(panel.getByText('open or parked lead', { exact: true })).toBeVisible();
  await expect(panel.getByText('person', { exact: true })).toBeVisible();
  const go = panel.getByRole('button', { name: 'Hand over and switch off' });
  await expect(go).toBeDisabled();
  await choose(panel.getByRole('combobox', { name: 'Who takes over' }), 'Ines Tolland');
  await go.click();
  await expect(
    admin.getByText('Vera Lindqvist is signed out and cannot sign in. Ines Tolland has what was theirs.'),
  ).toBeVisible();
  await expect(admin.getByRole('button', { name: 'Switch on Vera Lindqvist' })).toBeVisible();
  expect((await context.request.get('/api/session')).status()).toBe(401);
  await expect(async () => {
    const card = await admin.request.get(`/api/people/${person.id}`);
    expect(((await card.json()) as { owner: { name: string } }).owner.name).toBe('Ines Tolland');
  }).toPass();
  await context.close();
});

test('somebody whom the sign-in provider knows gets in without a password, and to the page they wanted', async ({
  browser,
}) => {
  const context = await browser.newContext({ baseURL: urlOf(), locale: 'en-GB' });
  const page = await context.newPage();
  const provider = process.env.E2E_PROVIDER_URL ?? '';
  const is = (person: object) =>
    page.request.get(`${provider}/person?is=${encodeURIComponent(JSON.stringify(person))}`);
  await is({ sub: 'stranger', email: 'stranger@elsewhere.example', email_verified: true });
  await page.goto('/companies');
  await page.getByRole('link', { name: 'Sign in with Harbour' }).click();
  await expect(page.getByText('There is no active account for the address')).toBeVisible();
  await context.clearCookies();
  await is({ sub: 'ines', email: 'ines@wharfside.example', email_verified: true });
  await page.goto('/companies');
  await page.getByRole('link', { name: 'Sign in with Harbour' }).click();
  await page.waitForURL('**/companies');
  await expect(page.getByRole('button', { name: 'Ines Tolland' })).toBeVisible();
  await context.close();
});

test('one signs out from any page, and an admin signs a colleague out everywhere', async ({ browser }) => {
  const [page, joss] = [await signIn(browser, 'mara'), await signIn(browser, 'joss')];
  await joss.goto('/settings/accounts');
  await joss.getByRole('button', { name: 'Sign out Mara Quill everywhere' }).click();
  await expect(joss.getByText('Mara Quill is signed out everywhere.')).toBeVisible();
  await expect(page.getByLabel('Password')).toBeVisible();
  await page.getByLabel('Email').fill('mara@wharfside.example');
  await page.getByLabel('Password').fill('long-bikes-carry');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL((url) => !url.pathname.includes('sign-in'));
  await page.goto('/deals/table');
  await page.getByRole('button', { name: 'Mara Quill' }).click();
  await page.getByText('Sign out', { exact: true }).click();
  await expect(page.getByLabel('Password')).toBeVisible();
});
