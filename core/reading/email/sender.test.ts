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

  it('of a portal that writes for somebody, whoever the answers go to', async () => {
    const { claims } = await readEmail(
      new TextEncoder().encode(
        'From: "Rui via Contactos" <notify@contactos.example>\r\nReply-To: rui.moreira@oficinamoreira.example\r\nTo: sales@wharfside.example\r\nSubject: x\r\n\r\nPreciso de 2 reboques.\r\n',
      ),
      { ours: OURS },
    );
    expect(claims.map(({ field, value }) => `${field} ${value}`)).toContain(
      'email rui.moreira@oficinamoreira.example',
    );
    expect(claims.map(({ value }) => value)).not.toContain('notify@contactos.example');
  });

  it('with an unquoted comma in its header, the one mailbox it means', async () =>
    expect(await whose(message('Holt, Maren <maren@holtbakery.example>', PELL, 'x', 'Hello'))).toBe(
      'maren@holtbakery.example',
    ));
});

describe('who signs', () => {
  const facts = async (from: string, body: string): Promise<string[]> =>
    (await readEmail(message(from, PELL, 'Bikes', body), { ours: OURS })).claims.map(
      ({ field, value, normalized }) => `${field} ${normalized ?? value}`,
    );

  it('for a firm whose mailbox it is, by order', async () => {
    const read = await facts(
      'Finkel Raumausstattung <info@finkel-raum.example>',
      'Guten Tag,\n\nwir suchen ein Lastenrad.\n\nMit freundlichen Grüßen\ni.A. Carola Finkel\n\nFinkel Raumausstattung\nTel. 030 231259988',
    );
    expect(read).toContain('fullName Carola Finkel');
    expect(read).toContain('companyName Finkel Raumausstattung');
  });

  it('beside somebody else, whose number stands behind their name', async () => {
    const read = await facts(
      'Elspeth Rooke <elspeth@rooketallis.example>',
      'Hello,\n\ntwo trailers please.\n\nElspeth Rooke and Jim Tallis\nRooke & Tallis Gardens\nElspeth 07700 900583 | Jim 07700 900584',
    );
    expect(read).toContain('phone +447700900583');
    expect(read.join()).not.toMatch(/900584|Jim/);
  });

  it('above the press office, and the sender’s own lines stay', async () => {
    const read = await facts(
      'Isolde Farren <isolde@farrenevents.example>',
      'Hi,\n\nten bikes please.\n\nIsolde Farren\nEvent Producer\nFarren Events\n07700 900391\nPress: Max Orr\nmax@orrpress.example\n07700 900392',
    );
    expect(read).toContain('phone +447700900391');
    expect(read.join()).not.toMatch(/900392|orrpress/);
  });

  it('for a list, whose own words are nobody’s firm', async () => {
    const read = await facts(
      'Theodora Banham <theodora.banham@towns.example>',
      'Dear all,\n\nhas anybody tried bikes?\n\nTheodora Banham\n\n--\nYou receive this because you are a member of Low Carbon Towns.\nTo leave, write to leave@list.example',
    );
    expect(read).toContain('fullName Theodora Banham');
    expect(read.join()).not.toMatch(/companyName|leave@/);
  });
});

describe('what stands beside the firm in a signature', () => {
  const factsOf = async (mail: string): Promise<Record<string, string>> => {
    const { claims } = await readEmail(new TextEncoder().encode(mail.replace(/\n/g, '\r\n')), {
      ours: ['wharfside.example'],
      receivedAt: '2026-11-24T10:00:00+00:00',
    });
    return Object.fromEntries(claims.map((claim) => [claim.field, claim.normalized ?? claim.value]));
  };

  it('small print behind a bar takes neither the firm nor the numbers below it', async () => {
    const facts = await factsOf(
      'From: "Beaumont, Cora" <c.beaumont@larkhallschools.example>\nSubject: trikes\n\nHi there\n\nCould someone ring me, mornings best?\n\nCora Beaumont BSc (Hons)\nFacilities Manager\nLarkhall Schools Trust | Registered charity no. 1099999\nDirect: 0191 498 0155\nwww.larkhallschools.example\n',
    );
    expect(facts).toMatchObject({
      fullName: 'Cora Beaumont',
      companyName: 'Larkhall Schools Trust',
      phone: '+441914980155',
    });
  });

  it('a sentence in which a Japanese legal form stands is no firm', async () => {
    const facts = await factsOf(
      'From: =?utf-8?B?5bGx55Sw5aSq6YOO?= <yamada@sakura-bakery.example>\nContent-Type: text/plain; charset=utf-8\nSubject: x\n\nさくらベーカリー株式会社の山田太郎と申します。\nお見積りをお願いいたします。\n\n━━━━━━━━\nさくらベーカリー株式会社\n購買部 部長 山田太郎\nTEL: 03-5550-0199\n━━━━━━━━\n',
    );
    expect(facts).toMatchObject({ fullName: '山田太郎', companyName: 'さくらベーカリー株式会社' });
  });
});
