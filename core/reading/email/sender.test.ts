import { readEmail } from './read';
import { isOurs } from './sender';

const OURS = ['wharfside.example', 'helper@agency.example'];
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text.replace(/\n/g, '\r\n'));
const message = (from: string, to: string, subject: string, body: string): Uint8Array =>
  bytes(`From: ${from}\nTo: ${to}\nSubject: ${subject}\nDate: Tue, 24 Nov 2026 10:00:00 +0000\n\n${body}\n`);
const inner = (from: string, to: string, subject: string): string =>
  `---------- Forwarded message ---------\nFrom: ${from}\nDate: Mon, 23 Nov 2026 at 18:00\nSubject: ${subject}\nTo: ${to}\n\n`;
const whose = async (raw: Uint8Array, ours: string[] = OURS): Promise<string | undefined> =>
  (await readEmail(raw, { ours })).claims.find((claim) => claim.field === 'email')?.value;

const MAREN = 'Maren Holt <maren@holtbakery.example>';
const PELL = 'Pell Garrick <pell@wharfside.example>';
const MARA = 'Mara Quill <mara@wharfside.example>';

describe('whose message it is', () => {
  it.each([
    ['ours by its domain', 'Pell@Wharfside.example', true],
    ['ours by a domain below', 'pell@mail.wharfside.example', true],
    ['ours by its address', 'helper@agency.example', true],
    ['not ours beside a helper', 'other@agency.example', false],
    ['not ours by a likeness', 'pell@notwharfside.example', false],
  ])('an address is %s', (_, address, expected) => expect(isOurs(address, OURS)).toBe(expected));

  it('a prospect’s own', async () =>
    expect(await whose(message(MAREN, PELL, 'Bikes', 'Hello'))).toBe('maren@holtbakery.example'));

  it('handed on by a colleague, the first sender’s', async () =>
    expect(
      await whose(message(MARA, PELL, 'Fwd: Bikes', `Yours?\n\n${inner(MAREN, MARA, 'Bikes')}Hello`)),
    ).toBe('maren@holtbakery.example'));

  it('handed on twice in our house, still the first sender’s', async () => {
    const twice = `See below.\n\n${inner(MARA, PELL, 'Fwd: Bikes')}For you.\n\n${inner(MAREN, MARA, 'Bikes')}Hello`;
    expect(await whose(message(PELL, 'ines@wharfside.example', 'Fwd: Fwd: Bikes', twice))).toBe(
      'maren@holtbakery.example',
    );
    expect(await whose(message(PELL, 'ines@wharfside.example', 'Fwd: Fwd: Bikes', twice), [])).toBe(
      'maren@holtbakery.example',
    );
  });

  it('of a prospect who hands on somebody else’s, the prospect’s', async () => {
    const porter = 'Bob Higgs <porter@holtbakery.example>';
    const supplier = 'Una Frame <una@frames.example>';
    for (const other of [porter, supplier])
      expect(
        await whose(
          message(MAREN, PELL, 'Fwd: Sizes', `Will it fit?\n\n${inner(other, MAREN, 'Sizes')}92 cm`),
        ),
      ).toBe('maren@holtbakery.example');
  });

  it('of what we wrote ourselves, the first outsider’s it went to', async () => {
    const { claims, message: view } = await readEmail(
      message(PELL, `${MARA}, ${MAREN}`, 'Our offer', 'Dear Maren\n\nPell Garrick\n+44 7700 900456'),
      { ours: OURS },
    );
    expect(view.side).toBe('ours');
    expect(claims.map((claim) => claim.value)).toEqual(['Maren Holt', 'maren@holtbakery.example']);
  });

  it('of a reply, the facts we wrote in the quotation are not theirs', async () => {
    const reply = `Yes, Tuesday.\n\nMaren Holt\n\nOn Mon, 23 Nov 2026 at 09:00, Pell Garrick <pell@wharfside.example> wrote:\n> Tuesday?\n> Pell Garrick\n> Sales, Wharfside Cargo Cycles\n> +44 7700 900456`;
    const { claims } = await readEmail(message(MAREN, PELL, 'Re: Tuesday', reply), { ours: OURS });
    expect(claims.map((claim) => claim.field)).toEqual(['fullName', 'email']);
  });

  it('with an unquoted comma in its header, the one mailbox it means', async () =>
    expect(await whose(message('Holt, Maren <maren@holtbakery.example>', PELL, 'x', 'Hello'))).toBe(
      'maren@holtbakery.example',
    ));
});
