import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const withId = (id: string, body: string, from = 'Ines Duarte <ines@padariasol.example>'): string =>
  mail({ body, from }).replace(/Message-ID: <[^>]*>/, `Message-ID: ${id}`);
const capture = async (raw: string) => (await pell.call('POST /api/captures', { raw })).body;
const file = async (id: string) =>
  (await pell.call('POST /api/captures/:id/filing', { params: { id }, body: { person: 'new' } })).body;

it('another message under a known, copied or empty Message-ID is kept and filed like any other', async () => {
  for (const id of ['<known@padariasol.example>', '<>', '']) {
    const first = await capture(withId(id, 'Could you send eight bikes?'));
    const other = await capture(
      withId(id, 'Nothing of that is true.', 'Eve Elsewhere <eve@elsewhere.example>'),
    );
    expect(other.id).not.toBe(first.id);
    expect(other.text).toContain('Nothing of that is true.');
  }
});

it('whoever uses an ID first keeps nobody else out, and each message is an entry of its own', async () => {
  const forged = await capture(
    withId('<taken@first.example>', 'x', 'Eve Elsewhere <eve2@elsewhere.example>'),
  );
  const real = await capture(
    withId('<taken@first.example>', 'Please call.', 'Real Sender <real@first.example>'),
  );
  const [one, two] = [await file(forged.id), await file(real.id)];
  expect(one.person.id).not.toBe(two.person.id);
  const ledger = await pell.call('GET /api/ledger', { query: { personId: two.person.id } });
  expect(ledger.body.items.map((entry) => entry.captureId)).toEqual([real.id]);
});

it('the same message that reached two colleagues is one, however it was carried', async () => {
  const raw = withId('<same@padariasol.example>', 'One and the same.');
  const first = await capture(`Received: from a by b; Mon, 23 Nov 2026 16:40:01 +0000\r\n${raw}`);
  const again = await capture(`Delivered-To: ines@wharfside.example\r\nX-Spam: 0\r\n${raw}`);
  expect(again.id).toBe(first.id);
});

it('two clips of one person at once make one person', async () => {
  const page = (extra: string): string =>
    `<html><body><div class="h-card"><h1 class="p-name">Clipped Twice</h1><p class="p-job-title">Buyer</p><p class="p-org">Twice Ltd</p>${extra}</div></body></html>`;
  const clips = [page('one'), page('two')].map((raw, at) =>
    pell.call('POST /api/captures', {
      raw,
      type: 'text/html',
      query: { url: `https://rollcall.example/people/twice?from=${at}` },
    }),
  );
  const captures = await Promise.all(clips);
  const filed = await Promise.all(
    captures.map(({ body }) =>
      pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: {} }),
    ),
  );
  const people = new Set(filed.flatMap((one) => (one.status === 201 ? [one.body.person.id] : [])));
  expect(people.size).toBe(1);
  const [rows] = await house.sequelize.query("SELECT id FROM people WHERE full_name = 'Clipped Twice'");
  expect(rows).toHaveLength(1);
});

it('what turns the order of letters, and links that run, are shown as what they are', async () => {
  const { id } = await capture(
    mail({
      from: '"Ann \u202eeeB" <ann@bee.example>',
      body: 'See invoice\u202efdp.exe and javascript:alert(1)',
    }),
  );
  const { body } = await pell.call('GET /api/captures/:id', { params: { id } });
  expect(JSON.stringify(body)).not.toMatch(/[\u202a-\u202e\u2066-\u2069]/);
  expect(body.text).toContain('invoice\ufffdfdp.exe');
});
