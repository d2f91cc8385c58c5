import { readEmail } from './read';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text.replace(/\n/g, '\r\n'));
const HEAD =
  'To: pell@wharfside.example\nDate: Mon, 23 Nov 2026 10:00:00 +0000\nContent-Type: text/plain; charset=utf-8\n';
const read = async (from: string, body: string, headers = '', subject = 'New'): Promise<string[]> => {
  const raw = `From: ${from}\n${headers}Subject: ${subject}\n${HEAD}\n${body}\n`;
  const { claims } = await readEmail(encode(raw), { ours: ['wharfside.example'] });
  return claims
    .map(({ field, value, normalized }) => `${field}=${field === 'phone' ? normalized : value}`)
    .sort();
};
const ORSON = [
  'companyName=Delby Cork',
  'email=orson@delby.example',
  'fullName=Orson Delby',
  'phone=+442079460123',
];
const FORM =
  'Name: Orson Delby\nCompany: Delby Cork\nEmail: orson@delby.example\nPhone: 020 7946 0123\nMessage: Do you rent?';

describe('whom a program writes about', () => {
  it.each([
    ['a form on our own site', 'Website <wordpress@wharfside.example>'],
    ['a form somebody else keeps', 'no-reply@formpost.example'],
    ['a portal', 'Trade Leads <leads@portal.example>'],
    ['a portal with a name in other words', 'Kontaktformular <formular@portal.example>'],
  ])('%s', async (_, from) =>
    expect(
      await read(from, `New enquiry\n\n${FORM}\n\n-- \nSent by Formpost, help@formpost.example`),
    ).toEqual(ORSON),
  );

  it('by halves of a name', async () =>
    expect(
      await read(
        'no-reply@formpost.example',
        'First name: Orson\nLast name: Delby\nE-mail: orson@delby.example',
      ),
    ).toEqual(['email=orson@delby.example', 'fullName=Orson Delby']));
  it('by questions, and not by what the program signs with', async () =>
    expect(
      await read(
        'Trade Leads <leads@portal.example>',
        `Your name? Orson Delby\nWhat is your company? Delby Cork\nYour email? orson@delby.example\nYour phone? 020 7946 0123\nHow did you find us? A friend\n\nTrade Leads, 1 High Street, Leeds. Tel. 0113 496 0000`,
      ),
    ).toEqual(ORSON));
  it('in a sentence, with the address behind the name', async () =>
    expect(
      await read(
        'Website <noreply@wharfside.example>',
        'Orson Delby (orson@delby.example) has asked for a brochure.',
      ),
    ).toEqual(['email=orson@delby.example', 'fullName=Orson Delby']));
  it('by whom an answer goes to', async () =>
    expect(
      await read('form@portal.example', 'Somebody wrote: do you rent?', 'Reply-To: orson@delby.example\n'),
    ).toEqual(['email=orson@delby.example']));
  it('who left a message', async () =>
    expect(
      await read(
        'Voicemail <voicemail@exchange.example>',
        'Caller: 020 7946 0123\nLength: 0:31\n\n"This is Orson Delby from Delby Cork. Ring me back."',
      ),
    ).toEqual(['companyName=Delby Cork', 'fullName=Orson Delby', 'phone=+442079460123']));
  it('and nobody, where it is the program itself that has something to say', async () =>
    expect(
      await read('Billing <no-reply@cloud.example>', 'Your invoice is ready.\n\nQuestions? +44 20 7946 0700'),
    ).toEqual([]));
  it('but a person who writes labels is who wrote', async () =>
    expect(
      await read('Ada Crumb <ada@crumb.example>', `Pell, here is the man to ask:\n\n${FORM}\n\nAda Crumb`),
    ).toEqual(expect.arrayContaining(['email=ada@crumb.example', 'fullName=Ada Crumb'])));
});

describe('what is an event about somebody, and not somebody', () => {
  it('what could not be delivered (RFC 3464), or is said to be so by a mail system', async () => {
    const lost =
      'Your message to Carla Nunes <carla@nunes.example> could not be delivered. Call 020 7946 0044.';
    expect(
      await read('postmaster@gate.example', lost, '', 'Delivery has failed to these recipients'),
    ).toEqual([]);
    expect(await read('MAILER-DAEMON@gate.example', lost, '', 'Undelivered Mail Returned to Sender')).toEqual(
      [],
    );
  });
  it('an absence, whose stand-in is not the one who is away', async () => {
    const away = 'I am away until Monday. Please ask Beth Orchard, beth@crumb.example, 020 7946 0777.';
    for (const subject of [
      'Automatic reply: quote',
      'Out of office: quote',
      'Abwesenheitsnotiz: Angebot',
      'Réponse automatique : devis',
    ])
      expect(await read('Ada Crumb <ada@crumb.example>', away, '', subject)).toEqual([
        'email=ada@crumb.example',
        'fullName=Ada Crumb',
      ]);
  });
});

describe('whose details stand in a mail', () => {
  const sign = 'Ada Crumb\nBuyer\nCrumb & Co\n020 7946 0123';
  const own = [
    'companyName=Crumb & Co',
    'email=ada@crumb.example',
    'fullName=Ada Crumb',
    'jobTitle=Buyer',
    'phone=+442079460123',
  ];
  it.each([
    [
      'what is added under the signature',
      `Fine.\n\n${sign}\n\nPS our new man is Jo Reid, jo@crumb.example, 020 7946 0199`,
    ],
    ['an assistant', `Fine.\n\n${sign}\nAssistant: Jo Reid, jo@crumb.example, 020 7946 0199`],
    ['a stand-in below', `Fine.\n\n${sign}\n\nVertretung:\nJo Reid\n020 7946 0199`],
    [
      'a list',
      `Fine.\n\n${sign}\n\n_______________________________________________\ntrade mailing list\ntrade@lists.example`,
    ],
    [
      'a frame',
      `Fine.\n\n+------------------+\n| Ada Crumb        |\n| Buyer            |\n| Crumb & Co       |\n| 020 7946 0123    |\n+------------------+`,
    ],
    ['two who sign together', `Fine.\n\nAda Crumb & Jo Reid\nBuyer\nCrumb & Co\n020 7946 0123`],
  ])('not %s', async (_, body) => expect(await read('Ada Crumb <ada@crumb.example>', body)).toEqual(own));

  it('behind a list that writes itself into From, whom Reply-To names', async () =>
    expect(
      await read(
        'Ada Crumb via trade <trade@lists.example>',
        'Rims going cheap.\n\nAda Crumb',
        'Reply-To: ada@crumb.example\nList-Id: <trade.lists.example>\nList-Post: <mailto:trade@lists.example>\n',
      ),
    ).toEqual(['email=ada@crumb.example', 'fullName=Ada Crumb']));
  it('in the words of a picture, where the signature is nothing else', async () => {
    const html = '<p>Fine.</p><img src="cid:1" alt="Ada Crumb | Buyer | Crumb &amp; Co | 020 7946 0123">';
    const raw = `From: Ada Crumb <ada@crumb.example>\nSubject: Re\n${HEAD.replace('text/plain', 'text/html')}\n${html}\n`;
    const { claims } = await readEmail(encode(raw), { ours: ['wharfside.example'] });
    expect(claims.map(({ field }) => field)).toEqual([
      'fullName',
      'jobTitle',
      'companyName',
      'email',
      'phone',
    ]);
    expect(claims.find(({ field }) => field === 'phone')?.span).toBeUndefined();
  });
});

describe('forms and portals by other hands', () => {
  it('ask questions', async () =>
    expect(
      await read(
        'Formbox <notifications@formbox.example>',
        'What is your name?\nOrson Delby\nWhich company?\nDelby Cork\nYour e-mail address\norson@delby.example\nPhone number\n020 7946 0123',
      ),
    ).toEqual(ORSON));
  it('name a buyer, and the address made of the name', async () =>
    expect(
      await read(
        'Bikefinder <no-reply@bikefinder.example>',
        'You can answer Orson directly at orson.delby@postbox.example. His number is 07700 900321.\n\nhelp@bikefinder.example, 020 7946 0100',
        '',
        'Orson Delby wants to know more',
      ),
    ).toEqual(['email=orson.delby@postbox.example', 'fullName=Orson Delby', 'phone=+447700900321']));
  it('write from a box that nobody reads, however that is called', async () =>
    expect(
      await read(
        'Rollcall <messages-noreply@rollcall.example>',
        'Orson Delby\nBuyer at Delby Cork\n\nDo you do demo days?',
        '',
        'Orson Delby sent you a message',
      ),
    ).toEqual(['companyName=Delby Cork', 'fullName=Orson Delby', 'jobTitle=Buyer']));
});

it('a namesake of the firm is somebody, and the firm is what the sender calls itself', async () => {
  expect(
    await read(
      'Birchall & Sons Ltd <accounts@birchall.example>',
      'We think it is paid.\n\nRegards\nMoira Birchall\nAccounts',
    ),
  ).toEqual([
    'companyName=Birchall & Sons Ltd',
    'email=accounts@birchall.example',
    'fullName=Moira Birchall',
  ]);
});
