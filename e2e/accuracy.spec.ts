import { expect, test } from './test';
import { signIn } from './pages';

test('a manager sees how often what was read was right, and has it counted again', async ({ browser }) => {
  const rep = await signIn(browser);
  const mark = String(Date.now() % 1_000_000);
  const raw = [
    `From: Ada Crumb <ada${mark}@crumb${mark}.example>`,
    'To: pell@wharfside.example',
    'Subject: A trailer',
    'Date: Mon, 23 Nov 2026 10:00:00 +0000',
    '',
    'Do you have a trailer?',
    '',
    'Ada Crumb',
    'Buyer',
  ].join('\r\n');
  const made = await rep.request.post('/api/captures', {
    headers: { 'content-type': 'message/rfc822', 'idempotency-key': crypto.randomUUID() },
    data: raw,
  });
  const { id, claims } = (await made.json()) as { id: string; claims: { id: string; field: string }[] };
  const title = claims.find((claim) => claim.field === 'jobTitle');
  await rep.request.patch(`/api/claims/${title?.id ?? ''}`, { data: { value: 'Head of Buying' } });
  const filed = await rep.request.post(`/api/captures/${id}/filing`, {
    headers: { 'idempotency-key': crypto.randomUUID() },
    data: { person: 'new' },
  });
  const { eventId } = (await filed.json()) as { eventId: string };

  const page = await signIn(browser, 'mara');
  await page.goto('/settings/accuracy');
  await page.getByRole('button', { name: 'Count again now' }).click();
  await expect(page.getByText('Counting has started.')).toBeVisible();
  const mails = page.locator('section').filter({ has: page.getByRole('heading', { name: 'Mails' }) });
  await expect(async () => {
    await page.reload();
    await expect(mails.getByRole('row', { name: /^Job title/ })).toBeVisible({ timeout: 2000 });
  }).toPass();
  // One title at least was corrected, so not all of them were right.
  await expect(
    mails
      .getByRole('row', { name: /^Job title/ })
      .getByRole('cell')
      .nth(1),
  ).not.toHaveText('100%');
  await rep.request.post(`/api/events/${eventId}/undo`, {
    headers: { 'idempotency-key': crypto.randomUUID() },
  });
  await rep.request.post(`/api/captures/${id}/set-aside`, {
    headers: { 'idempotency-key': crypto.randomUUID() },
  });
});
