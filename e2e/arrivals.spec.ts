import { expect, test } from './test';
import { capture, choose, makeMail, postMail, signIn } from './pages';

test('a message comes in by file, by pasting and by mail, the last without a reload', async ({ browser }) => {
  const page = await signIn(browser);
  const [byFile, byPaste, byMail, byDrop] = [makeMail(), makeMail(), makeMail(), makeMail()];
  await page.getByRole('button', { name: 'Capture' }).click();
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'one.eml', mimeType: 'message/rfc822', buffer: Buffer.from(byFile.raw) });
  await expect(page.getByRole('link', { name: byFile.name })).toHaveAttribute('aria-current', 'true');
  await page.getByRole('button', { name: 'Capture' }).click();
  await page.getByLabel('or paste a message, the address of a page, or any text').fill(byPaste.raw);
  await page.getByRole('button', { name: /Read it/ }).click();
  await expect(page.getByRole('link', { name: byPaste.name })).toHaveAttribute('aria-current', 'true');
  await page.getByRole('button', { name: 'Capture' }).click();
  const dropped = await page.evaluateHandle((raw) => {
    const data = new DataTransfer();
    data.items.add(new File([raw], 'two.eml', { type: 'message/rfc822' }));
    return data;
  }, byDrop.raw);
  await page.locator('.drop').dispatchEvent('drop', { dataTransfer: dropped });
  await expect(page.getByRole('link', { name: byDrop.name })).toHaveAttribute('aria-current', 'true');
  await postMail(byMail.raw);
  await expect(page.getByRole('link', { name: byMail.name })).toBeVisible({ timeout: 2000 });
});

test('pointing at either side lights up the other', async ({ browser }) => {
  const page = await signIn(browser);
  const mail = makeMail();
  await page.goto(`/arrivals/${await capture(page, mail.raw)}`);
  const row = page.locator('[data-claim=jobTitle]');
  const mark = page.locator('.text mark', { hasText: 'Head Baker' });
  await row.hover();
  await expect(mark).toHaveClass(/lit/);
  await mark.hover();
  await expect(row).toHaveClass(/on/);
  await page.locator('[data-claim=fullName] button').first().focus();
  await expect(page.locator('.from mark').first()).toHaveClass(/lit/);
  await page.locator('.text mark', { hasText: '30,000 euros' }).focus();
  await expect(page.locator('[data-intent=money]')).toHaveClass(/on/);
});

test('an HTML message is shown without script or remote content, marked in place', async ({ browser }) => {
  const page = await signIn(browser);
  const outside: string[] = [];
  page.on('request', (request) =>
    request.url().includes('track.example') ? outside.push(request.url()) : undefined,
  );
  await page.getByRole('link', { name: 'Noor el Haddad' }).click();
  const frame = page.frameLocator('iframe[title="The message"]');
  await expect(frame.locator('mark', { hasText: 'Inkoper' })).toBeVisible();
  await frame.locator('mark', { hasText: 'Inkoper' }).hover();
  await expect(page.locator('[data-claim=jobTitle]')).toHaveClass(/on/);
  expect(outside).toEqual([]);
  expect(await frame.locator('script, img').count()).toBe(0);
});

test('claims are corrected and refused, a maybe is asked about, and a filing is undone', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mail = makeMail();
  await page.goto(`/arrivals/${await capture(page, mail.raw)}`);
  await expect(page.locator('[data-company-verdict]')).toContainText(`New company: ${mail.company}`);
  await page.locator('[data-claim=jobTitle] .value').click();
  await page.getByLabel('Correct Job title').fill('Master Baker');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-claim=jobTitle]')).toContainText('Master Baker');
  await page
    .locator('[data-claim=phone]')
    .getByRole('button', { name: /Reject/ })
    .click();
  await expect(page.locator('[data-claim=phone] .gone')).toBeVisible();
  await page.getByRole('button', { name: /File it/ }).click();
  await page.getByRole('link', { name: 'Open the dossier' }).click();
  await expect(page.locator('[data-fact=jobTitle]')).toContainText('Master Baker');
  await expect(page.locator('[data-fact=value]', { hasText: '07700' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: Filed/)).toBeVisible();
  await page.goto('/arrivals');
  await expect(page.getByRole('link', { name: mail.name })).toBeVisible();

  const home =
    'From: Aoife Nolan <aoife.home@gmail.com>\r\nSubject: From home\r\n\r\nHello, is it ready?\r\n\r\nAoife Nolan\r\n';
  await page.goto(`/arrivals/${await capture(page, home)}`);
  await expect(page.getByText('Maybe somebody you know')).toBeVisible();
  await expect(page.locator('[data-company-verdict]')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /File it/ })).toBeDisabled();
  await page.getByLabel(/Aoife Nolan, Liffey Linen/).check();
  await page.getByRole('button', { name: /File it/ }).click();
  await expect(page.getByText('Filed: Aoife Nolan, Liffey Linen.')).toBeVisible();
});

test('a second browser, on another server process, sees each change within two seconds', async ({
  browser,
}) => {
  const pell = await signIn(browser);
  const ines = await signIn(browser, 'ines', { which: 'second' });
  const soon = { timeout: 2000 };
  const mail = makeMail();
  const id = await capture(pell, mail.raw);
  await expect(ines.getByRole('link', { name: mail.name })).toBeVisible(soon);
  await pell.goto(`/arrivals/${id}`);
  await pell.getByRole('button', { name: /File it/ }).click();
  await expect(ines.getByRole('link', { name: mail.name })).toHaveCount(0, soon);
  await ines.goto(`/leads?q=${encodeURIComponent(mail.name)}`);
  await pell.getByRole('link', { name: 'Open the lead' }).click();
  // Two seconds are for the change, not for the page that shows it.
  await expect(ines.getByRole('row', { name: mail.name })).toBeVisible();
  await pell.getByRole('button', { name: 'Qualify' }).click();
  await expect(ines.getByRole('row', { name: mail.name })).toContainText('qualified', soon);
  await ines.goto('/deals');
  await pell.getByRole('button', { name: 'Convert' }).click();
  const card = ines.locator('[data-deal]', { hasText: `${mail.company}, 6 bikes` });
  await expect(card).toBeVisible(soon);
  await pell.getByRole('link', { name: 'Open the deal' }).click();
  await choose(pell.getByLabel('Stage', { exact: true }), 'Proposal');
  await expect(ines.locator('[data-lane=Proposal] [data-deal]', { hasText: mail.company })).toBeVisible(soon);
});

test('several are set aside at once, and brought back from where they are kept', async ({ browser }) => {
  const page = await signIn(browser);
  const mails = [makeMail(), makeMail()];
  for (const { raw } of mails) await capture(page, raw);
  for (const { name } of mails) await expect(page.getByRole('link', { name })).toBeVisible();
  await page.getByRole('button', { name: 'Select several' }).click();
  for (const { name } of mails) await page.getByRole('checkbox', { name: new RegExp(name) }).check();
  await page.getByRole('button', { name: 'Set aside (2)' }).click();
  for (const { name } of mails) await expect(page.getByRole('link', { name })).toHaveCount(0);
  await page
    .getByRole('navigation', { name: 'Arrivals: places' })
    .getByRole('link', { name: 'Set aside' })
    .click();
  await page.getByRole('link', { name: mails[0]!.name }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('link', { name: mails[0]!.name })).toHaveCount(0);
  await page
    .getByRole('navigation', { name: 'Arrivals: places' })
    .getByRole('link', { name: 'Inbox' })
    .click();
  await expect(page.getByRole('link', { name: mails[0]!.name })).toBeVisible();
  await expect(page.getByRole('link', { name: mails[1]!.name })).toHaveCount(0);
});

test('a mail is filed on everybody who is on it: those we know by themselves, a stranger in the same step', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mail = makeMail();
  const stamp = Date.now() % 100_000;
  await page.request.post('/api/people', {
    data: { fullName: `Uma Copied${stamp}`, email: `uma${stamp}@copied.example` },
  });
  const cc = `Cc: Uma <uma${stamp}@copied.example>, Viv Copied${stamp} <viv${stamp}@copied.example>`;
  await capture(page, mail.raw.replace(/^Subject:/m, `${cc}\r\nSubject:`));
  await page.getByRole('link', { name: mail.name }).click();
  const also = page.getByRole('region', { name: 'Also on this message' });
  await expect(also.getByRole('checkbox', { name: 'Uma', exact: true })).toBeChecked();
  await also.getByRole('checkbox', { name: `Viv Copied${stamp}` }).check();
  await page.getByRole('button', { name: /File it/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Filed:' })).toContainText(`Viv Copied${stamp}`);
  for (const name of [`Uma Copied${stamp}`, `Viv Copied${stamp}`]) {
    const found = await page.request.get(`/api/people?q=${encodeURIComponent(name)}`);
    const [person] = ((await found.json()) as { items: { id: string }[] }).items;
    const ledger = await page.request.get(`/api/ledger?personId=${person?.id ?? ''}`);
    expect(((await ledger.json()) as { items: unknown[] }).items).toHaveLength(1);
  }
});
