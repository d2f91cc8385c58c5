import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { meter } from './meter';
import { capture, choose, makeMail, postMail, signIn } from './pages';

let serial = Date.now() % 1_000_000;

/** Somebody who can be written to. */
async function reachable(page: Page): Promise<{ id: string; name: string; email: string }> {
  const at = ++serial;
  const name = `Lotta ${String(at).replace(/\d/g, (digit) => 'abcdefghij'.charAt(Number(digit)))}`;
  const email = `lotta.${at}@paperbakery.example`;
  const made = await page.request.post('/api/people', { data: { fullName: name, email } });
  const { person } = (await made.json()) as { person: { id: string } };
  return { id: person.id, name, email };
}
const editor = (page: Page) => page.getByRole('textbox', { name: 'The letter', exact: true });
/** What stands in the letter boxes of everybody outside. */
async function letterBox(page: Page): Promise<string> {
  return (await page.request.get(process.env.E2E_OUTBOX_URL ?? '')).text();
}
test('a letter from a template costs at most 5 s of operators, can be taken back, arrives, and comes back', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { id, name, email } = await reachable(page);
  await page.goto(`/people/${id}`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
  const measure = await meter(page);
  await page.getByRole('button', { name: 'Write a letter' }).click();
  await expect(editor(page)).toBeFocused();
  await page.keyboard.type(';ride');
  await expect(page.getByText('Tab puts in')).toContainText('Come for a test ride');
  await page.keyboard.press('Tab');
  await expect(editor(page)).toContainText(`Dear ${name.split(' ')[0] ?? ''},`);
  await expect(page.getByLabel('Subject')).toHaveValue('Come for a test ride');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
  const effort = await measure();
  console.log(
    `effort: a letter from a template: ${effort.seconds} s (${effort.clicks} clicks, ${effort.keys} keys)`,
  );
  expect(effort.seconds).toBeLessThanOrEqual(5);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Letters not sent yet').locator('..')).toContainText('draft');
  await page.getByRole('link', { name: 'Come for a test ride' }).click();
  await page.getByRole('button', { name: /^Send Ctrl/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
  const entry = page.locator('.said', { hasText: 'Come for a test ride' });
  await expect(entry).toBeVisible({ timeout: 40_000 });
  expect(await letterBox(page)).toContain(email);
  const { items } = (await (await page.request.get(`/api/letters?personId=${id}`)).json()) as {
    items: { id: string }[];
  };
  await postMail(`From: MAILER-DAEMON@mx.example
To: pell@wharfside.example
Subject: failure notice
Message-ID: <back.${serial}@mx.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status; boundary=b

--b
Content-Type: text/plain

No such mailbox.
--b
Content-Type: message/delivery-status

Reporting-MTA: dns; mx.example

Final-Recipient: rfc822; ${email}
Action: failed
Status: 5.1.1

--b
Content-Type: text/rfc822-headers

Message-ID: <letter.${items[0]?.id ?? ''}@wharfside.example>
--b--
`);
  await expect(entry).toContainText('address no longer exists');
});

test('a message is answered from Arrivals: quoted, to whoever wrote, seen as it arrives', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mail = makeMail();
  await page.goto(`/arrivals/${await capture(page, mail.raw)}`);
  await page.getByRole('button', { name: 'Reply', exact: true }).click();
  await expect(page.getByLabel('Subject')).toHaveValue(/^Re: /);
  await expect(editor(page)).toBeFocused();
  await page.keyboard.type('On Thursday at ten.');
  await page.getByRole('button', { name: 'Plain text' }).click();
  await expect(page.locator('pre')).toContainText(/On Thursday at ten\.\s+-- \s+Pell Garrick/);
  await expect(page.locator('pre')).toContainText('wrote');
  await page.getByRole('button', { name: 'Discard this letter' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Letters');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: /^Re: / }).first()).toBeVisible();
});

test('“write …:” in the composer begins a letter; a follow-up and a later time are set with it', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { id, name } = await reachable(page);
  await page.goto(`/people/${id}`);
  const composer = page.getByLabel('Write what happened or what comes next');
  await composer.fill(`write ${name.split(' ')[0] ?? ''}: two bikes are ready`);
  await expect(page.locator('#made')).toContainText('Enter opens it');
  await composer.press('Enter');
  await expect(editor(page)).toContainText('two bikes are ready');
  await page.getByLabel('Subject').fill('Ready');
  await page.getByLabel('Follow up').fill('call in 3 working days');
  await expect(page.getByLabel('Drop it if they answer first')).toBeChecked();
  await page.getByRole('button', { name: 'Send later' }).click();
  await page.getByRole('button', { name: /^Next working morning/ }).click();
  await expect(page.getByText(/^Goes out /).first()).toBeVisible();
  await page.getByRole('link', { name: 'Ready' }).click();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('button', { name: /^Send Ctrl/ })).toBeEnabled();
  await page.getByRole('button', { name: 'Discard this letter' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Letters');
});

test('two tabs with one letter: the second is told, and nothing is overwritten', async ({ browser }) => {
  const page = await signIn(browser);
  const begun = await page.request.post('/api/letters', { data: { subject: 'Twice' } });
  const { letter } = (await begun.json()) as { letter: { id: string } };
  await page.goto(`/letters/${letter.id}`);
  await expect(editor(page)).toBeFocused();
  const other = await page.context().newPage();
  await other.goto(`/letters/${letter.id}`);
  await expect(editor(other)).toBeFocused();
  await other.keyboard.type('From the other tab.');
  await expect(other.getByText(/^Draft, saved/)).toBeVisible();
  await expect
    .poll(
      async () => (await (await page.request.get(`/api/letters/${letter.id}`)).json()) as { html: string },
    )
    .toMatchObject({ html: '<p>From the other tab.</p>' });
  await editor(page).click();
  await page.keyboard.type('From this one.');
  await expect(page.getByRole('alert')).toContainText('changed elsewhere');
  await page.getByRole('button', { name: 'Show what was saved' }).click();
  await expect(editor(page)).toHaveText('From the other tab.');
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'Discard this letter' }).click();
});

test('a template is written with fields, read for a person, and kept from what cannot be filled in', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { name } = await reachable(page);
  await page.goto('/mailings/templates');
  await page.getByRole('button', { name: 'New template' }).click();
  const title = `Greeting ${serial}`;
  await page.getByLabel('Name', { exact: true }).fill(title);
  await page.getByRole('textbox', { name: 'Text of the template' }).click();
  await page.keyboard.type('Hello ');
  await choose(page.getByRole('combobox', { name: 'Insert a field' }), 'Person: first name');
  await expect(page.getByRole('textbox', { name: 'Text of the template' })).toContainText(
    '{{ person.first_name }}',
  );
  await expect(page.getByRole('textbox', { name: 'Text of the template' })).toBeFocused();
  const reads = page.getByRole('region', { name: 'How it reads' });
  await expect(reads).toContainText('Hello {{ person.first_name }}');
  const reader = page.getByRole('combobox', { name: 'For', exact: true });
  await reader.click();
  await reader.pressSequentially(name);
  await page.getByRole('option', { name }).click();
  await expect(reads).toContainText(`Hello ${name.split(' ')[0] ?? ''}`);
  await page.getByRole('textbox', { name: 'Text of the template' }).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' {{ person.shoe_size }}');
  await expect(reads).toContainText('There is no field “person.shoe_size”.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'There is no field' })).toBeVisible();
  await page.getByRole('link', { name: 'Letters', exact: true }).click();
  await page.getByRole('button', { name: 'Stay here' }).click();
  await page.getByRole('textbox', { name: 'Text of the template' }).click();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Hello {{ person.first_name }}');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Template saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByText(`Deleted the template ${title}.`)).toBeVisible();
});
