import { CLIPPER_ORIGIN } from '@emporikon/contract/clipper';
import { mail, useHouse } from '../testing/harness';
import { disposition, safeName, safeType } from './attachments';

const { house, pell, mara } = useHouse();

const PROFILE = (name: string, more = ''): string =>
  `<!doctype html><title>${name}</title><script type="application/ld+json">{"@context":"https://schema.org","@type":"Person","name":"${name}","jobTitle":"Buyer","worksFor":{"@type":"Organization","name":"Lisière"}${more}}</script><h1>${name}</h1>`;
const clip = (raw: string, url: string) =>
  pell.call('POST /api/captures', { raw, type: 'text/html', query: { by: 'clipper', url } });
const file = (id: string, body: object = {}) =>
  pell.call('POST /api/captures/:id/filing', { params: { id }, body });

describe('a page', () => {
  const url = 'https://rollcall.example/people/odile';
  it('is captured with its reading and filed with owner, tags, note, deal and next move', async () => {
    const { status, body } = await clip(PROFILE('Odile Marchetti', ',"email":"odile@lisiere.example"'), url);
    expect([status, body.kind, body.page?.kind]).toEqual([201, 'page', 'profile']);
    const { items } = (await pell.call('GET /api/users')).body;
    const ines = items.find((item) => item.name === 'Ines Tolland')?.id;
    const filed = await file(body.id, {
      as: 'deal',
      ownerId: ines,
      tags: ['Fair', 'fair', 'Lyon'],
      note: 'Met at the fair.',
      deal: { title: 'Eleven bikes', amountMinor: 4_400_000, currency: 'EUR' },
      nextMove: { title: 'Call her', kind: 'call', dueAt: '2026-12-01T09:00:00Z', allDay: false },
    });
    expect(filed.status).toBe(201);
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: filed.body.person.id } });
    expect(person).toMatchObject({
      tags: ['Fair', 'Lyon'],
      owner: { name: 'Ines Tolland' },
      background: { value: 'Met at the fair.' },
    });
    expect(person.deals.map((deal) => [deal.name, deal.amountMinor])).toEqual([['Eleven bikes', 4_400_000]]);
    expect(person.nextMove?.title).toBe('Call her');
  });

  it('is known again by its address, whatever else changed on it', async () => {
    const { body } = await clip(PROFILE('Odile Marchetti', ',"jobTitle":"Head of Buying"'), url);
    expect(body.verdict.person.kind).toBe('same');
    expect(body.known?.person.name).toBe('Odile Marchetti');
    expect(body.verdict.person.matches[0]?.reasons.map((reason) => reason.text)).toContain(
      'same profile page',
    );
  });

  it('of a list files several, each with its own result, and one that is maybe somebody waits', async () => {
    const list = `<h1>People</h1><ul>${['Ana Reis', 'Rui Gomes', 'Odile Marchetti'].map((name) => `<li class="h-card"><a class="p-name u-url" href="https://rollcall.example/people/${name.replace(' ', '-').toLowerCase()}">${name}</a> <span class="p-job-title">Baker</span>, <span class="p-org">Forno</span></li>`).join('')}</ul>`;
    const { body } = await clip(list, 'https://rollcall.example/people');
    expect(body.listed.map((one) => [one.name, one.verdict])).toEqual([
      ['Ana Reis', 'new'],
      ['Rui Gomes', 'new'],
      ['Odile Marchetti', 'maybe'],
    ]);
    const { body: done } = await pell.call('POST /api/captures/:id/listed', {
      params: { id: body.id },
      body: { rows: [0, 2, 9], tags: ['list'] },
    });
    expect(done.results.map((result) => result.outcome)).toEqual(['filed', 'maybe', 'refused']);
    const again = await pell.call('POST /api/captures/:id/listed', {
      params: { id: body.id },
      body: { rows: [0] },
    });
    expect(again.body.results[0]?.outcome).toBe('known');
  });

  it('of a conversation goes into the ledger message by message, and never twice', async () => {
    const thread = (count: number): string =>
      `<h1>Messages with Wiebke Harms</h1><ol class="h-feed">${[
        'Hello Wiebke, a long bike?',
        'Could you send a price for four?',
        'Gladly.',
        'Thank you!',
      ]
        .slice(0, count)
        .map(
          (text, at) =>
            `<li class="h-entry"><span class="p-author h-card">${at % 2 ? 'Wiebke Harms' : 'Pell Garrick'}</span><time class="dt-published" datetime="2026-11-1${at}T10:00:00Z"></time><data class="u-uid" value="w-${at}"></data><p class="e-content">${text}</p></li>`,
        )
        .join('')}</ol>`;
    const first = await clip(thread(3), 'https://rollcall.example/messages/wiebke');
    expect(first.body.page?.kind).toBe('messages');
    const filed = await file(first.body.id);
    expect(filed.body.person.name).toBe('Wiebke Harms');
    const ledger = async () =>
      (
        await pell.call('GET /api/ledger', { query: { personId: filed.body.person.id, fold: 'no' } })
      ).body.items.map((item) => item.side);
    expect(await ledger()).toEqual(['ours', 'theirs', 'ours']);
    const later = await clip(thread(4), 'https://rollcall.example/messages/wiebke');
    expect(later.body.page?.conversation.map((one) => one.filed)).toEqual([true, true, true, false]);
    expect(later.body.verdict.person).toMatchObject({
      kind: 'same',
      matches: [{ id: filed.body.person.id }],
    });
    await file(later.body.id);
    expect(await ledger()).toEqual(['theirs', 'ours', 'theirs', 'ours']);
  });

  it('shows no script, style or remote picture of what was clipped', async () => {
    const { body } = await clip(
      `${PROFILE('Eve Black')}<script>alert(1)</script><img src="https://spy.example/x.png" onerror="alert(1)"><svg onload="alert(1)"><script>1</script></svg><a href="javascript:alert(1)">x</a><iframe src="https://spy.example"></iframe>`,
      'https://x.example/eve',
    );
    const page = await house.app.inject({ url: `/api/captures/${body.id}/message`, headers: await auth() });
    expect(page.statusCode).toBe(200);
    expect(page.body).not.toMatch(/<script|<img|<svg|<iframe|javascript:|onerror|onload/i);
    expect(page.headers['content-security-policy']).toContain("default-src 'none'");
  });
});

async function auth(): Promise<{ authorization: string }> {
  const { body } = await pell.call('POST /api/tokens', { body: { name: 'test' } });
  return { authorization: `Bearer ${body.token}` };
}

describe('cards, calls and forms', () => {
  it('of a file of cards become a capture each', async () => {
    const card = (name: string): string =>
      `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:${name}\r\nN:${name.split(' ').reverse().join(';')};;;\r\nEMAIL:${name.replace(' ', '.').toLowerCase()}@cards.example\r\nEND:VCARD\r\n`;
    const { status, body } = await pell.call('POST /api/captures', {
      raw: card('Ada Card') + card('Bo Card'),
      type: 'text/vcard',
    });
    expect([status, body.kind, body.others.length]).toEqual([201, 'card', 1]);
    const filed = await file(body.id);
    expect(filed.body).toMatchObject({ person: { name: 'Ada Card' }, lead: null });
    const none = await pell.call('POST /api/captures', { raw: 'BEGIN:VCARD', type: 'text/vcard' });
    expect(none.status).toBe(422);
  });

  it('come as JSON, and say which part is wrong when they do not', async () => {
    const call = await pell.call('POST /api/captures', {
      raw: JSON.stringify({
        kind: 'call',
        direction: 'in',
        from: '+351910555014',
        to: '+442079460100',
        startedAt: '2026-11-24T10:00:00Z',
        text: 'Ines Duarte, Padaria Sol. wants 8 long bikes',
      }),
      type: 'application/json',
    });
    expect(call.body).toMatchObject({ kind: 'call', state: 'waiting' });
    expect(call.body.claims.map((claim) => claim.field)).toEqual(['fullName', 'companyName', 'phone']);
    const form = await pell.call('POST /api/captures', {
      raw: JSON.stringify({
        kind: 'form',
        form: 'Ask us',
        answers: {
          Name: 'Tom Bell',
          Email: 'tom@bell.example',
          Message: 'Could you send a quote for four bikes?',
        },
      }),
      type: 'application/json',
    });
    expect(form.body.claims.map((claim) => claim.field)).toEqual(['fullName', 'email']);
    expect(form.body.intents.map((intent) => intent.kind)).toContain('quantity');
    const bad = await pell.call('POST /api/captures', {
      raw: '{"kind":"call","direction":"sideways"}',
      type: 'application/json',
    });
    expect([bad.status, bad.body.fields]).toEqual([
      422,
      expect.objectContaining({ direction: expect.any(String) }),
    ]);
    expect((await pell.call('POST /api/captures', { raw: '{', type: 'application/json' })).status).toBe(422);
  });
});

it('a message at two colleagues is one capture and one ledger entry', async () => {
  const raw = mail({ from: 'Gil Twice <gil@twice.example>' });
  const first = await pell.call('POST /api/captures', { raw });
  const second = await pell.call('POST /api/captures', { raw: `Received: by another\r\n${raw}` });
  expect([second.status, second.body.id]).toEqual([200, first.body.id]);
});

describe('fields of the house’s own', () => {
  it('take claims where Settings send them', async () => {
    const made = await mara.call('POST /api/fields', { body: { label: 'Role in the firm' } });
    expect(made.body.field.key).toBe('role_in_the_firm');
    await mara.call('PUT /api/field-mappings', {
      body: { field: 'jobTitle', target: 'custom:role_in_the_firm' },
    });
    await mara.call('PUT /api/field-mappings', { body: { field: 'address', target: 'nowhere' } });
    const { body } = await clip(
      PROFILE('Mapped Person', ',"address":"1 High St, York YO1 1AA"'),
      'https://rollcall.example/people/mapped',
    );
    const { body: filed } = await file(body.id);
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: filed.person.id } });
    expect([person.jobTitle.value, person.address.value]).toEqual([null, null]);
    expect(person.custom.filter(({ value }) => value)).toMatchObject([
      { key: 'role_in_the_firm', value: 'Buyer', claim: { field: 'jobTitle' } },
    ]);
    await mara.call('PUT /api/field-mappings', { body: { field: 'jobTitle', target: 'own' } });
    expect(
      (await pell.call('PUT /api/field-mappings', { body: { field: 'jobTitle', target: 'own' } })).status,
    ).toBe(403);
    expect(
      (await mara.call('PUT /api/field-mappings', { body: { field: 'email', target: 'nowhere' } })).status,
    ).toBe(422);
    expect(
      (await mara.call('PUT /api/field-mappings', { body: { field: 'url', target: 'custom:nothing' } }))
        .status,
    ).toBe(422);
  });
});

describe('attachments', () => {
  it.each([
    ['../../etc/passwd', 'passwd'],
    ['C:\\Windows\\system32\\cmd.exe', 'cmd.exe'],
    ['...hidden', 'hidden'],
    ['a\u202Egnp.exe', 'agnp.exe'],
    ['CON', 'attachment-1'],
    ['line\r\nbreak.txt', 'linebreak.txt'],
    ['', 'attachment-1'],
    ['<script>.html', 'script.html'],
  ])('called %j are saved as %s', (name, safe) => expect(safeName(name, 0)).toBe(safe));
  it('have a type that no browser runs', () => {
    expect(
      ['text/html', 'image/svg+xml', 'application/javascript', 'application/xhtml+xml'].map(safeType),
    ).toEqual(Array(4).fill('application/octet-stream'));
    expect(safeType('Application/PDF')).toBe('application/pdf');
  });
  // Source: RFC 6266 §5, both forms of the name; RFC 8187 for the second.
  it('keep their name in every script', () =>
    expect(disposition('Preis€.pdf')).toBe(
      `attachment; filename="Preis_.pdf"; filename*=UTF-8''Preis%E2%82%AC.pdf`,
    ));
  it('come back byte for byte', async () => {
    const raw = `From: A B <ab@att.example>\r\nMessage-ID: <att@test.example>\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=x\r\n\r\n--x\r\nContent-Type: text/plain\r\n\r\nhello\r\n--x\r\nContent-Type: text/html; name="../evil.html"\r\nContent-Disposition: attachment; filename="../evil.html"\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from('<script>1</script>').toString('base64')}\r\n--x--\r\n`;
    const { body } = await pell.call('POST /api/captures', { raw });
    expect(body.attachments).toMatchObject([{ name: 'evil.html' }]);
    const got = await house.app.inject({ url: body.attachments[0]?.href ?? '', headers: await auth() });
    expect([
      got.statusCode,
      got.body,
      got.headers['content-type'],
      got.headers['x-content-type-options'],
    ]).toEqual([200, '<script>1</script>', 'application/octet-stream', 'nosniff']);
    expect(got.headers['content-disposition']).toContain('filename="evil.html"');
    expect(
      (await house.app.inject({ url: `/api/captures/${body.id}/attachments/7`, headers: await auth() }))
        .statusCode,
    ).toBe(404);
  });
});

describe('the clipper', () => {
  const post = async (origin: string, headers: Record<string, string>) =>
    house.app.inject({
      method: 'POST',
      url: '/api/recognise',
      headers: { origin, ...headers },
      payload: { fullName: 'Ana Reis' },
    });
  it('may call from its own origin with an access token', async () => {
    const answer = await post(CLIPPER_ORIGIN, await auth());
    expect([answer.statusCode, answer.headers['access-control-allow-origin']]).toEqual([200, CLIPPER_ORIGIN]);
    const before = await house.app.inject({
      method: 'OPTIONS',
      url: '/api/captures',
      headers: { origin: CLIPPER_ORIGIN, 'access-control-request-method': 'POST' },
    });
    expect([before.statusCode, before.headers['access-control-allow-origin']]).toEqual([204, CLIPPER_ORIGIN]);
  });
  it('is refused without one, and so is every other extension and site', async () => {
    expect((await post(CLIPPER_ORIGIN, {})).statusCode).toBe(401);
    for (const origin of [
      'chrome-extension://abcdefghijklmnopabcdefghijklmnop',
      'https://rollcall.example',
      'null',
    ]) {
      const answer = await post(origin, await auth());
      expect([origin, answer.statusCode, answer.headers['access-control-allow-origin']]).toEqual([
        origin,
        403,
        undefined,
      ]);
    }
  });
});
