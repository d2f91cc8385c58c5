import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const capture = async (raw: string) => (await pell.call('POST /api/captures', { raw })).body;
describe('capturing', () => {
  it('answers 201 with the capture, its reading and its verdict', async () => {
    const { status, body } = await pell.call('POST /api/captures', { raw: mail() });
    expect(status).toBe(201);
    expect(body.claims.map((claim) => claim.field)).toEqual([
      'fullName',
      'jobTitle',
      'companyName',
      'email',
      'phone',
    ]);
    expect(body.claims.find((claim) => claim.field === 'phone')).toMatchObject({
      normalized: '+351910555014',
      type: 'mobile',
    });
    expect(body.intents.map((intent) => intent.kind)).toContain('quantity');
    expect(body.verdict.person).toEqual({ kind: 'new', matches: [] });
    expect(body.proposedMove).toMatchObject({ title: 'Send the quote', kind: 'mail' });
  });

  it('keeps the bytes unchanged, and the same bytes once', async () => {
    const raw = mail();
    const first = await pell.call('POST /api/captures', { raw });
    const again = await pell.call('POST /api/captures', { raw });
    expect([again.status, again.body.id]).toEqual([200, first.body.id]);
    expect(
      (
        await house.app.inject({
          url: `/api/captures/${first.body.id}/raw`,
          headers: { authorization: await token() },
        })
      ).body,
    ).toBe(raw);
    await expect(
      house.sequelize.query(`UPDATE captures SET raw = 'x' WHERE id = '${first.body.id}'`),
    ).rejects.toThrow('immutable');
  });

  it('takes pasted text, whole message or not', async () => {
    const pasted = await pell.call('POST /api/captures', {
      raw: 'Hi, could you call me on my mobile 07700 900123?\n\nThanks,\nHugo Marsden',
      type: 'text/plain',
    });
    expect(pasted.body.kind).toBe('text');
    expect(pasted.body.claims.find((claim) => claim.field === 'fullName')?.value).toBe('Hugo Marsden');
    expect(
      (await pell.call('POST /api/captures', { raw: mail(), type: 'text/plain; charset=utf-8' })).body.kind,
    ).toBe('email');
  });

  it('refuses nothing, too much and what it does not read, each with a problem document', async () => {
    const empty = await pell.call('POST /api/captures', { raw: '' });
    const blank = await pell.call('POST /api/captures', { raw: ' \r\n ', type: 'text/plain' });
    const large = await pell.call('POST /api/captures', { raw: Buffer.alloc(25 * 1024 * 1024, 'a') });
    const picture = await pell.call('POST /api/captures', { raw: 'x', type: 'image/png' });
    expect([empty.status, blank.status, large.status, picture.status]).toEqual([422, 422, 413, 415]);
    expect(large.headers['content-type']).toContain('application/problem+json');
    expect(large.body.detail).toContain('20 MB');
  });

  it.each([
    ['not an email', 'just some words'],
    [
      'a truncated one',
      'From: Ines Duarte <ines@padariasol.example>\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-',
    ],
    [
      'NUL and broken characters',
      'From: a@b.example\r\nSubject: =?utf-8?B?7aC9?=\r\n\r\n\0\ufffd and \u0000 more',
    ],
  ])('reads %s harmlessly', async (_, raw) => {
    const { status, body } = await pell.call('POST /api/captures', { raw });
    expect(status).toBe(201);
    expect((await pell.call('GET /api/captures/:id', { params: { id: body.id } })).status).toBe(200);
  });
});

async function token(): Promise<string> {
  return `Bearer ${(await pell.call('POST /api/tokens', { body: { name: 'test' } })).body.token}`;
}

describe('showing', () => {
  it('an HTML message has no script, no style and nothing remote, and is marked where it was read', async () => {
    const raw =
      'From: Noor el Haddad <noor@dekorenaar.example>\r\nContent-Type: text/html\r\n\r\n<p onclick="x()">Hi</p><script>alert(1)</script><img src="https://track.example/p.gif"><a href="javascript:alert(1)">link</a><style>@import "https://x.example"</style><p>Best,<br>Noor el Haddad<br>Inkoper</p><iframe src="https://x.example"></iframe>';
    const { id } = await capture(raw);
    const response = await house.app.inject({
      url: `/api/captures/${id}/message`,
      headers: { authorization: await token() },
    });
    expect(response.headers['content-security-policy']).toContain("default-src 'none'");
    expect(response.body).not.toMatch(/script|onclick|track\.example|javascript:|@import|iframe/);
    expect(response.body).toMatch(/<mark data-read="[0-9a-f-]{36}" tabindex="0">Inkoper<\/mark>/);
  });
});
