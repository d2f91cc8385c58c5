import { useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();

const message = (to: string, cc: string, subject = 'Six bikes'): string =>
  [
    'From: Tess Hallam <tess@hallam.example>',
    `To: ${to}`,
    `Cc: ${cc}`,
    `Subject: ${subject}`,
    `Message-ID: <${subject.replace(/\W/g, '')}@hallam.example>`,
    'Date: Mon, 2 Nov 2026 09:00:00 +0000',
    'Content-Type: text/plain; charset=utf-8',
    '',
    'Hello Pell, please send us a quote for six bikes.',
    '',
    'Tess Hallam',
  ].join('\r\n');
const capture = async (raw: string) => (await pell.call('POST /api/captures', { raw })).body;
const add = async (fullName: string, email: string) =>
  (await pell.call('POST /api/people', { body: { fullName, email } })).body.person;
const said = async (personId: string) =>
  (await pell.call('GET /api/ledger', { query: { personId } })).body.items.map(({ headline }) => headline);

it('everybody on a mail is shown, copies too, with whether we know them; we and the sender are not', async () => {
  const known = await add('Uma Orchard', 'uma@orchard.example');
  const { onMessage } = await capture(
    message(
      'Pell Garrick <pell@wharfside.example>, Uma Orchard <UMA@orchard.example>',
      'viv@hallam.example, Mara Quill <mara@wharfside.example>, Uma again <uma@orchard.example>',
    ),
  );
  expect(onMessage).toEqual([
    {
      name: 'Uma Orchard',
      address: 'uma@orchard.example',
      verdict: 'same',
      person: { id: known.id, name: 'Uma Orchard' },
    },
    { name: 'viv@hallam.example', address: 'viv@hallam.example', verdict: 'new', person: null },
  ]);
});

it('those we know get it by themselves, strangers only when asked, and one undo takes all of it back', async () => {
  const known = await add('Wes Orchard', 'wes@orchard.example');
  const raw = message(
    'pell@wharfside.example',
    'Wes Orchard <wes@orchard.example>, Xia Dell <xia@dell.example>',
  );
  const { id } = await capture(raw.replaceAll('Six bikes', 'Seven bikes').replace('Sixbikes', 'Sevenbikes'));
  const people = await house.count('people');
  const first = await pell.call('POST /api/captures/:id/filing', { params: { id }, body: {} });
  expect([first.status, first.body.also]).toEqual([201, ['Wes Orchard']]);
  expect(await said(known.id)).toEqual(['Seven bikes']);
  expect(await house.count('people')).toBe(people + 1);
  await pell.call('POST /api/events/:id/undo', { params: { id: first.body.eventId ?? '' } });
  expect(await said(known.id)).toEqual([]);
  const also = [{ address: 'Xia@dell.example', person: 'new' as const }];
  const { status, body } = await pell.call('POST /api/captures/:id/filing', {
    params: { id },
    body: { also },
  });
  expect([status, body.also]).toEqual([201, ['Xia Dell']]);
  expect(await said(known.id)).toEqual([]);
  const [xia] = (await pell.call('GET /api/people', { query: { q: 'xia dell' } })).body.items;
  expect([xia?.email, await said(xia?.id ?? '')]).toEqual(['xia@dell.example', ['Seven bikes']]);
  await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect(await house.count('people')).toBe(people);
});

it('it is filed on nobody who is not on it, nor on a record that somebody cannot see', async () => {
  const { id } = await capture(message('pell@wharfside.example', 'yan@dell.example', 'Eight bikes'));
  const file = (also: { address: string; person: string }[]) =>
    pell.call('POST /api/captures/:id/filing', { params: { id }, body: { also } });
  expect((await file([{ address: 'zoe@dell.example', person: 'new' }])).status).toBe(422);
  expect(
    (await file([{ address: 'yan@dell.example', person: '01890000-0000-7000-8000-000000000000' }])).status,
  ).toBe(422);
  expect((await pell.call('GET /api/captures/:id', { params: { id } })).body.state).toBe('waiting');
  expect((await mara.call('GET /api/captures/:id', { params: { id } })).body.onMessage.length).toBe(1);
  expect((await file([])).body.also).toEqual([]);
});

it('a stranger on two messages becomes one person, however often they are called new', async () => {
  const body = { also: [{ address: 'bea@quay.example', person: 'new' as const }] };
  const people = await house.count('people');
  const ids: string[] = [];
  for (const subject of ['Nine bikes', 'Ten bikes'])
    ids.push((await capture(message('pell@wharfside.example', 'Bea Quay <bea@quay.example>', subject))).id);
  for (const id of ids)
    expect((await pell.call('POST /api/captures/:id/filing', { params: { id }, body })).body.also).toEqual([
      'Bea Quay',
    ]);
  // The sender may stand there already, of an earlier message.
  const [bea, ...others] = (await pell.call('GET /api/people', { query: { q: 'bea quay' } })).body.items;
  expect([others.length, (await said(bea?.id ?? '')).sort()]).toEqual([0, ['Nine bikes', 'Ten bikes']]);
  expect((await house.count('people')) - people).toBeLessThanOrEqual(2);
});

it('an address is refused where nobody else is on the message', async () => {
  const { id } = await capture(message('pell@wharfside.example', 'mara@wharfside.example', 'Eleven bikes'));
  const body = { also: [{ address: 'zoe@dell.example', person: 'new' as const }] };
  expect((await pell.call('POST /api/captures/:id/filing', { params: { id }, body })).status).toBe(422);
});
