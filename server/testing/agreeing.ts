import type { Client, House } from './harness';

let serial = 0;

/**
 * Somebody fills in a public form of its own and agrees to be written to.
 * @returns how the mail that asks them to confirm stands
 */
export async function agree(
  house: House,
  { pell, mara }: { pell: Client; mara: Client },
  email: string,
): Promise<() => Promise<{ state: string; id: string } | null>> {
  const at = ++serial;
  const { form } = (
    await mara.call('POST /api/forms', {
      body: {
        name: 'News',
        slug: `news-${at}`,
        kind: 'public',
        consent: 'You may write to me.',
        fields: [{ name: 'email', label: 'Your email', field: 'email', kind: 'line', required: true }],
      },
    })
  ).body;
  await house.app.inject({
    method: 'POST',
    url: `/f/${form.slug}`,
    // Each from somewhere else: how much comes from one place is limited.
    remoteAddress: `10.0.${at >> 8}.${at & 255}`,
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
    payload: new URLSearchParams({ email, agreed: 'yes' }).toString(),
  });
  return async () =>
    (await pell.call('GET /api/submissions', { query: { formId: form.id } })).body.items[0]?.delivery ?? null;
}
