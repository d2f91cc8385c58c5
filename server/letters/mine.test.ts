import { createHash, createPublicKey, createVerify } from 'node:crypto';
import { SMTPServer } from 'smtp-server';
import type { AddressInfo } from 'node:net';
import { openPost } from '../outside/post';
import { lettering } from '../testing/lettering';
import { addColleague } from '../testing/roleHolders';
import { useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { sent, begin, last, pass, change, send, show } = lettering(house);

const PNG = Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]), Buffer.alloc(40, 1)]);
const to = (address: string) => [{ way: 'to', address }];

describe('a signature', () => {
  const put = (html: string, version: number) => pell.call('PUT /api/signature', { body: { version, html } });

  it('stands below what was written and above what is quoted, in HTML and in plain text', async () => {
    await put('<p>Pell Garrick<br>Wharfside Cargo Cycles</p><script>x()</script>', 0);
    const { body } = await pell.call('GET /api/signature', {});
    expect(body).toEqual({
      version: 1,
      html: '<p>Pell Garrick<br />Wharfside Cargo Cycles</p>',
      picture: null,
    });
    expect((await put('<p>Older</p>', 0)).status).toBe(409);
    await pell.call('POST /api/signature/picture', { raw: PNG, type: 'image/png' });
    await sent(
      pell,
      { recipients: to('a@sig.example') },
      { subject: 'Hi', html: '<p>Words.</p><p>Ana wrote:</p><blockquote><p>Old</p></blockquote>' },
    );
    const message = await last();
    expect(message.text?.trim()).toBe(
      'Words.\n\n-- \nPell Garrick\nWharfside Cargo Cycles\n\nAna wrote:\n\n> Old',
    );
    expect(message.html).toMatch(/Words\.[\s\S]*Wharfside Cargo Cycles[\s\S]*<img [^>]*>[\s\S]*Ana wrote/);
    const [picture] = message.attachments;
    expect(picture).toMatchObject({ contentDisposition: 'inline', contentType: 'image/png', content: PNG });
    const letter = await begin(pell, { recipients: to('a@sig.example'), words: 'See <you> & me' });
    const preview = await pell.call('GET /api/letters/:id/preview', { params: { id: letter.id } });
    expect(preview.body).toMatchObject({
      from: 'Pell Garrick <pell@wharfside.example>',
      text: 'See <you> & me\n\n-- \nPell Garrick\nWharfside Cargo Cycles',
    });
  });

  it('takes a picture only, and a small one, and it can be removed', async () => {
    const picture = (raw: Buffer, type = 'image/png') =>
      pell.call('POST /api/signature/picture', { raw, type });
    expect((await picture(Buffer.from('<svg onload=x>'))).status).toBe(422);
    expect((await picture(PNG, 'image/jpeg')).status).toBe(422);
    expect((await picture(Buffer.concat([PNG, Buffer.alloc(300_000)]))).status).toBe(422);
    expect((await picture(PNG, 'image/svg+xml')).status).toBe(415);
    await pell.call('DELETE /api/signature/picture', {});
    expect((await pell.call('GET /api/signature', {})).body.picture).toBeNull();
    expect((await ines.call('GET /api/signature', {})).body.html).toBe('');
  });
});

describe('a server of one’s own', () => {
  const taken: { user: string; from: string; to: string[]; raw: string }[] = [];
  let refusing: Record<string, [number, string]> = {};
  const server = new SMTPServer({
    authOptional: false,
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: ({ username, password }, _session, done) =>
      password === 'right' ? done(null, { user: username ?? '' }) : done(new Error('no')),
    onRcptTo({ address }, _session, done) {
      const [code, words] = refusing[address] ?? [];
      done(code ? Object.assign(new Error(words), { responseCode: code }) : undefined);
    },
    onData(stream, { user, envelope }, done) {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        taken.push({
          user: String(user),
          from: envelope.mailFrom ? envelope.mailFrom.address : '',
          to: envelope.rcptTo.map(({ address }) => address),
          raw: Buffer.concat(parts).toString(),
        });
        done();
      });
    },
  });
  let port = 0;
  beforeAll(async () => {
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    port = (server.server.address() as AddressInfo).port;
    house.tools.outside.door = { allowed: [`127.0.0.1:${port}`] };
  });
  afterAll(() => new Promise<void>((done) => server.close(done)));
  const put = (by: Client, more: object = {}) =>
    by.call('PUT /api/submission', {
      body: { host: '127.0.0.1', port, secure: false, username: 'ines', password: 'right', ...more },
    });

  it('is tried before it is saved, and a private address is not reached unless it is allowed', async () => {
    expect((await put(ines, { password: 'wrong' })).body.detail).toMatch(
      /^127\.0\.0\.1 was not saved: it does not take this user name and password/,
    );
    expect((await put(ines, { host: '10.0.0.1' })).body.detail).toMatch(/cannot be reached/);
    expect((await ines.call('GET /api/submission', {})).body).toEqual({
      submission: null,
      hasOrganisation: true,
    });
    const { status, body } = await put(ines);
    expect([status, body.submission]).toMatchObject([200, { state: 'works', username: 'ines' }]);
    expect(JSON.stringify(body)).not.toContain('right');
    const [row] = (await house.sequelize.query('SELECT sealed FROM submissions'))[0] as { sealed: string }[];
    expect(row?.sealed).not.toContain('right');
    expect((await put(ines, { version: 7 })).status).toBe(409);
  });

  it('takes the letters of its owner, and says whom it does not take them for', async () => {
    refusing = { 'gone@own.example': [550, '5.1.1 no such user'] };
    house.letters.length = 0;
    const letter = await sent(ines, { recipients: [...to('here@own.example'), ...to('gone@own.example')] });
    expect(taken.at(-1)).toMatchObject({
      ...{ user: 'ines', from: 'ines@wharfside.example', to: ['here@own.example'] },
      raw: expect.stringContaining(`Message-ID: <letter.${letter.id}@wharfside.example>`),
    });
    expect(house.letters).toEqual([]);
    expect(letter.recipients).toMatchObject([{ state: 'sent' }, { state: 'gone', status: '5.1.1' }]);
  });

  it('what is refused for good is kept with the reason, and sent again by hand', async () => {
    refusing = { 'x@own.example': [550, '5.7.1 not today'] };
    const letter = await sent(ines, { recipients: to('x@own.example') });
    expect(letter).toMatchObject({
      state: 'failed',
      trouble: expect.stringMatching(/^It did not go out: .*not today/),
    });
    expect((await ines.call('GET /api/notices', {})).body.items[0]).toMatchObject({
      ...{ kind: 'letter', detail: 'it did not go out' },
    });
    refusing = {};
    const [item] = (await ines.call('GET /api/outbox', {})).body.items;
    expect((await pell.call('POST /api/outbox/:id/retry', { params: { id: item?.id ?? '' } })).status).toBe(
      403,
    );
    expect((await ines.call('POST /api/outbox/:id/retry', { params: { id: item?.id ?? '' } })).status).toBe(
      200,
    );
    await pass();
    expect((await show(ines, letter.id)).state).toBe('sent');
  });

  it('is removed, and the organisation’s sends again', async () => {
    await ines.call('DELETE /api/submission', {});
    await sent(ines, { recipients: to('y@own.example') });
    expect(house.letters).toHaveLength(1);
    expect((await ines.call('DELETE /api/submission', {})).status).toBe(404);
  });

  it('without any server a letter is kept as a draft', async () => {
    const { post } = house.tools.outside;
    house.tools.outside.post = null;
    const letter = await change(ines, await begin(ines, { recipients: to('z@own.example') }), {
      subject: 'Hi',
    });
    const { status, body } = await send(ines, letter);
    house.tools.outside.post = post;
    expect([status, body.detail]).toEqual([409, expect.stringMatching(/No mail server is set up/)]);
    expect((await show(ines, letter.id)).state).toBe('draft');
  });
});

/** The checks of RFC 6376, 6.1 for relaxed canonicalization, written out for this test alone. */
function isSigned(raw: string, publicKey: string): boolean {
  const [head = '', body = ''] = [
    raw.slice(0, raw.indexOf('\r\n\r\n')),
    raw.slice(raw.indexOf('\r\n\r\n') + 4),
  ];
  const fields = head.replace(/\r\n[ \t]+/g, ' ').split('\r\n');
  const relaxed = (field: string): string => {
    const at = field.indexOf(':');
    return `${field.slice(0, at).trim().toLowerCase()}:${field
      .slice(at + 1)
      .replace(/[ \t]+/g, ' ')
      .trim()}`;
  };
  const signature = fields.find((field) => /^dkim-signature:/i.test(field)) ?? '';
  const tag = (name: string): string =>
    new RegExp(`(?:^|;)\\s*${name}=([^;]*)`).exec(signature.slice(15))?.[1]?.replace(/\s+/g, '') ?? '';
  const signed = tag('h')
    .split(':')
    .map((name) => fields.find((field) => field.toLowerCase().startsWith(`${name.toLowerCase()}:`)))
    .filter((field) => field !== undefined)
    .map((field) => `${relaxed(field)}\r\n`);
  const own = relaxed(signature).replace(/(;\s*b=)[^;]*/, '$1');
  const canonBody = `${body
    .replace(/[ \t]+\r\n/g, '\r\n')
    .replace(/[ \t]+/g, ' ')
    .replace(/(?:\r\n)*$/, '')}\r\n`;
  const bodyHash = createHash('sha256').update(canonBody).digest('base64');
  const key = createPublicKey({ key: Buffer.from(publicKey, 'base64'), type: 'spki', format: 'der' });
  return (
    bodyHash === tag('bh') &&
    createVerify('sha256')
      .update(signed.join('') + own.trimEnd())
      .verify(key, tag('b'), 'base64')
  );
}

describe('mail of our domain', () => {
  const records: Record<string, string[] | null> = {};
  let joss: Client;
  beforeAll(async () => {
    house.tools.outside.texts = (host) => Promise.resolve(host in records ? (records[host] ?? null) : []);
    await addColleague('joss', 'admin');
    joss = await house.as('joss@wharfside.example');
  });
  const domains = async () => (await mara.call('GET /api/mail-domains', {})).body.items;
  const makeKey = (by: Client, domain = 'wharfside.example') =>
    by.call('POST /api/mail-domains/:domain/key', { params: { domain } });

  it('is signed once there is a key, and the signature holds (RFC 6376)', async () => {
    expect((await makeKey(pell)).status).toBe(403);
    expect((await makeKey(joss, 'other.example')).status).toBe(404);
    expect((await makeKey(joss)).status).toBe(201);
    const [domain] = await domains();
    const [, dkim] = domain?.records ?? [];
    expect(dkim).toMatchObject({
      kind: 'DKIM',
      state: 'missing',
      host: expect.stringMatching(/^letters\d{8}\._domainkey\.wharfside\.example$/),
    });
    records[dkim?.host ?? ''] = [dkim?.wanted ?? ''];
    expect((await domains())[0]?.records[1]).toMatchObject({ state: 'right', wanted: '' });
    house.letters.length = 0;
    await sent(pell, { recipients: to('signed@x.example') });
    const mail = house.letters.at(-1);
    if (!mail?.sign) throw new Error('not signed');
    const raws: string[] = [];
    const server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['STARTTLS', 'AUTH'],
      onData(stream, _session, done) {
        let raw = '';
        stream.on('data', (part: Buffer) => (raw += part.toString('latin1')));
        stream.on('end', () => {
          raws.push(raw);
          done();
        });
      },
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    await openPost(
      `127.0.0.1:${(server.server.address() as AddressInfo).port}`,
      'x@wharfside.example',
    ).handOver(mail);
    await new Promise<void>((done) => server.close(done));
    const publicKey = /p=(\S+)/.exec(dkim?.wanted ?? '')?.[1] ?? '';
    const [raw = ''] = raws;
    expect(isSigned(raw, publicKey)).toBe(true);
    expect(isSigned(raw.replace('Hello', 'Hallo'), publicKey)).toBe(false);
    expect(isSigned(raw.replace(/^Subject: Hello/m, 'Subject: Other'), publicKey)).toBe(false);
  });

  it('says what to write where a record is missing or wrong, and where the name servers are silent', async () => {
    const states = async () => (await domains())[0]?.records.map(({ state }) => state);
    expect(await states()).toEqual(['missing', 'right', 'missing']);
    records['wharfside.example'] = ['v=spf1 mx +all'];
    records['_dmarc.wharfside.example'] = null;
    expect(await states()).toEqual(['wrong', 'right', 'unknown']);
    records['wharfside.example'] = ['v=spf1 mx -all', 'some other text'];
    records['_dmarc.wharfside.example'] = ['v=DMARC1; p=reject'];
    expect(await states()).toEqual(['right', 'right', 'right']);
    expect((await pell.call('GET /api/mail-domains', {})).status).toBe(403);
  });

  it('is signed no more once the key is removed', async () => {
    await joss.call('DELETE /api/mail-domains/:domain/key', { params: { domain: 'wharfside.example' } });
    await sent(pell, { recipients: to('plain@x.example') });
    expect(house.letters.at(-1)?.sign).toBeUndefined();
  });
});
