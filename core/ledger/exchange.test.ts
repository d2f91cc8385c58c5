import { readExchange } from './exchange';

const options = { ours: ['wharfside.example'], at: '2026-12-01T00:00:00Z' };
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const mail = (from: string, day: number, text: string, subject = 'Bikes'): string =>
  `From sender@example.org Mon Nov ${day} 09:00:00 2026\nFrom: ${from}\nTo: somebody@example.org\nSubject: ${subject}\nDate: Mon, ${day} Nov 2026 09:00:00 +0000\n\n${text}\n\n`;
const line = (over: Record<string, unknown>): string =>
  JSON.stringify({
    at: '2026-11-02T09:00:00Z',
    side: 'theirs',
    kind: 'mail',
    text: 'How much is it?',
    ...over,
  });

describe('a mailbox file', () => {
  it('is read by who wrote what, without what is quoted', async () => {
    const file =
      mail('Ines <ines@padariasol.example>', 2, 'Could you send the price list?') +
      mail('Pell Garrick <pell@wharfside.example>', 3, 'Here it is.\n\n> Could you send the price list?');
    expect(await readExchange(bytes(file), options)).toMatchObject({
      turn: 'nobody',
      since: expect.stringContaining('2026-11-03') as string,
    });
    expect((await readExchange(bytes(file), { ...options, at: '2026-11-02T12:00:00Z' })).turn).toBe('ours');
  });

  it('keeps a quoted “From ” within its message (RFC 4155), over any ends of lines', async () => {
    const file = (
      mail(
        'ines@padariasol.example',
        2,
        'It is ready.\n\n>From Monday on you can fetch it. When will you come?',
      ) + mail('no-reply@parcels.example', 4, 'Your parcel is on its way. Questions?')
    ).replace(/\n/g, '\r\n');
    expect((await readExchange(bytes(file), options)).turn).toBe('ours');
  });
});

describe('a line of JSON an entry', () => {
  it('is read with its outcome and its headers; empty lines do not count', async () => {
    const lines = [
      line({}),
      '',
      line({
        side: 'ours',
        kind: 'call',
        outcome: 'voicemail',
        text: 'left a message',
        at: '2026-11-03T09:00:00Z',
      }),
      line({
        text: 'Away until Monday?',
        headers: { 'Auto-Submitted': 'auto-replied' },
        at: '2026-11-04T09:00:00Z',
      }),
    ];
    expect(await readExchange(bytes(lines.join('\n')), options)).toEqual({
      turn: 'ours',
      since: '2026-11-02T09:00:00Z',
      because: 'they asked: How much is it?',
    });
  });

  it.each([
    ['not json', 'line 1: no JSON'],
    ['[1]', 'line 1: no object'],
    [line({ at: 'soon' }), 'line 1: at is no time: soon'],
    [line({ side: 'mine' }), 'line 1: side is ours or theirs'],
    [line({ kind: 'fax' }), /^line 1: kind is one of mail, call/],
    [line({ outcome: 'rang' }), /^line 1: outcome is one of spoke/],
    [line({ text: 5 }), 'line 1: text is no text'],
  ])('is refused with its number and why: %s', async (text, why) => {
    await expect(readExchange(bytes(text), options)).rejects.toThrow(why);
  });

  it('an empty file is an exchange in which nothing was said', async () => {
    expect(await readExchange(bytes(''), options)).toEqual({
      turn: 'nobody',
      since: null,
      because: 'nothing said yet',
    });
  });
});
