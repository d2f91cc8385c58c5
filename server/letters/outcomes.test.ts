import { createTransport } from 'nodemailer';
import { openMailIntake, type MailIntake } from '../outside/mail';
import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines } = useHouse();
const { headlines } = saying(pell);
const { sent, show, begin, change, send, pass, reachable: add } = lettering(house);

let intake: MailIntake;
beforeAll(async () => {
  intake = await openMailIntake(house.tools, '127.0.0.1', 0, () => undefined);
});
afterAll(() => intake.stop());
const reachable = (name: string, email: string): Promise<string> => add(pell, name, email);
const come = (raw: string, from = ''): Promise<unknown> =>
  createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail({
    envelope: { from, to: ['pell@wharfside.example'] },
    raw: raw.replace(/\r?\n/g, '\r\n'),
  });
const idOf = (letter: { id: string }): string => `<letter.${letter.id}@wharfside.example>`;
let serial = 0;
const report = (
  messageId: string,
  fields: string,
): string => `From: Mail Delivery System <MAILER-DAEMON@mx.example>
To: pell@wharfside.example
Subject: Undelivered Mail Returned to Sender
Message-ID: <report.${++serial}@mx.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status; boundary="b"

--b
Content-Type: text/plain

It did not go through.
--b
Content-Type: message/delivery-status

Reporting-MTA: dns; mx.example

${fields}
--b
Content-Type: text/rfc822-headers

Message-ID: ${messageId}
Subject: Hello
--b--
`;
const failed = (address: string, status = '5.1.1', words = 'user unknown') =>
  `Final-Recipient: rfc822; ${address}\nAction: failed\nStatus: ${status}\nDiagnostic-Code: smtp; 550 ${words}\n`;
const captures = (): Promise<number> => house.count('captures');

it('a delivery report is noted on the letter and for everybody who sees it, and does not wait in Arrivals', async () => {
  const ana = await reachable('Ana Leça', 'ana@padaria.example');
  const letter = await sent(pell, { about: { personId: ana } });
  const before = await captures();
  await come(report(idOf(letter), failed('ana@padaria.example')));
  expect((await show(pell, letter.id)).recipients).toMatchObject([
    { state: 'gone', status: '5.1.1', words: '550 user unknown' },
  ]);
  const [entry] = (await ines.call('GET /api/ledger', { query: { personId: ana } })).body.items;
  expect(entry?.letter).toMatchObject([{ state: 'gone' }]);
  expect(await captures()).toBe(before);
  expect((await pell.call('GET /api/notices', {})).body.items).toMatchObject([
    { kind: 'letter', title: 'Hello', detail: 'Ana Leça: address no longer exists' },
  ]);
  const next = await begin(pell, { about: { personId: ana } });
  expect(next.warnings).toEqual(['Ana Leça (ana@padaria.example) could not be reached at this address.']);
});

it('says delivered, delayed and full, and a later “delivered” does not hide that it came back', async () => {
  const bea = await reachable('Bea Box', 'bea@box.example');
  const letter = await sent(pell, { about: { personId: bea } });
  const state = async () => (await show(pell, letter.id)).recipients[0]?.state;
  await come(
    report(idOf(letter), 'Final-Recipient: rfc822; bea@box.example\nAction: delayed\nStatus: 4.4.1\n'),
  );
  expect(await state()).toBe('delayed');
  const delivered = 'Final-Recipient: rfc822; bea@box.example\nAction: relayed\nStatus: 2.0.0\n';
  await come(report(idOf(letter), delivered));
  expect(await state()).toBe('delivered');
  await come(report(idOf(letter), failed('bea@box.example', '5.2.2', 'mailbox full')));
  expect(await state()).toBe('full');
  await come(report(idOf(letter), delivered));
  expect(await state()).toBe('full');
});

it('a forged report changes nothing: of a letter that is not there, of an address it did not go to, of another’s draft', async () => {
  const cal = await reachable('Cal Care', 'cal@care.example');
  const letter = await sent(pell, { about: { personId: cal } });
  const draft = await begin(ines, { recipients: [{ way: 'to', address: 'cal@care.example' }] });
  const before = await captures();
  await come(
    report('<letter.00000000-0000-4000-8000-000000000000@wharfside.example>', failed('cal@care.example')),
  );
  await come(report(idOf(letter), failed('other@care.example')));
  await come(report(idOf(draft), failed('cal@care.example')));
  await come(report('<guess@wharfside.example>', failed('cal@care.example')));
  expect((await show(pell, letter.id)).recipients[0]?.state).toBe('sent');
  expect((await show(ines, draft.id)).recipients[0]?.state).toBeNull();
  // What is no report of ours is kept as any message is.
  expect(await captures()).toBe(before + 4);
});

it('an automatic reply says until when they are away, is kept as a message, and answers nothing', async () => {
  const dan = await reachable('Dan Away', 'dan@away.example');
  const letter = await sent(pell, { about: { personId: dan } });
  const before = await captures();
  await come(`From: Dan Away <dan@away.example>
To: pell@wharfside.example
Subject: Out of office
Date: Mon, 21 Dec 2026 10:00:00 +0000
Message-ID: <away.${++serial}@away.example>
Auto-Submitted: auto-replied
In-Reply-To: ${idOf(letter)}

I am away until 4 January.
`);
  expect((await show(pell, letter.id)).recipients).toMatchObject([
    { state: 'sent', awayUntil: '2027-01-04', answeredAt: null },
  ]);
  expect(await captures()).toBe(before + 1);
});

it('a complaint is noted on whom the letter went to', async () => {
  const eve = await reachable('Eve Complaint', 'eve@complaint.example');
  const letter = await sent(pell, { about: { personId: eve } });
  await come(`From: <abuse@isp.example>
To: pell@wharfside.example
Subject: FW: Hello
Message-ID: <arf.${++serial}@isp.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=feedback-report; boundary="b"

--b
Content-Type: text/plain

An abuse report.
--b
Content-Type: message/feedback-report

Feedback-Type: abuse
User-Agent: Some/1.0
Version: 1
Original-Rcpt-To: <eve@complaint.example>

--b
Content-Type: message/rfc822

Message-ID: ${idOf(letter)}
Subject: Hello

Hello
--b--
`);
  expect((await show(pell, letter.id)).recipients[0]?.state).toBe('complaint');
});

describe('a follow-up unless they answer', () => {
  const followUp = { title: 'Call them', kind: 'call', dueAt: '2027-03-01T10:00:00.000Z', allDay: true };
  const withFollowUp = async (personId: string, unlessAnswered = true) => {
    const letter = await change(pell, await begin(pell, { about: { personId } }), {
      subject: 'Offer',
      html: '<p>Here it is</p>',
      followUp: { ...followUp, unlessAnswered },
    });
    await send(pell, letter);
    await pass();
    return letter;
  };
  const open = async (personId: string): Promise<number> =>
    house.count(`tasks WHERE person_id = '${personId}' AND done_at IS NULL`);
  const answer = async (from: string, letter: { id: string }, more = ''): Promise<string> => {
    await come(`From: ${from}
To: pell@wharfside.example
Subject: Re: Offer
Date: ${new Date(Date.now() + 120_000).toUTCString().replace('GMT', '+0000')}
Message-ID: <answer.${++serial}@them.example>
In-Reply-To: ${idOf(letter)}
References: ${idOf(letter)}
${more}
Yes please.
`);
    const { items } = (await pell.call('GET /api/captures', { query: { limit: '1' } })).body;
    return items[0]?.id ?? '';
  };

  it('is set when the letter goes out, and dropped when they answer', async () => {
    const id = await reachable('Fay Follow', 'fay@follow.example');
    const letter = await withFollowUp(id);
    expect(await open(id)).toBe(1);
    const captureId = await answer('Fay Follow <fay@follow.example>', letter);
    expect(await open(id)).toBe(1);
    await pell.call('POST /api/captures/:id/filing', { params: { id: captureId }, body: {} });
    await house.work();
    expect(await open(id)).toBe(0);
    expect((await show(pell, letter.id)).recipients[0]?.answeredAt).not.toBeNull();
    expect(await headlines({ personId: id })).toContain('Re: Offer');
  });

  it('stays where it is to come in any case, and where nobody has answered', async () => {
    const gil = await reachable('Gil Given', 'gil@given.example');
    const kept = await withFollowUp(gil, false);
    const captureId = await answer('Gil Given <gil@given.example>', kept);
    await pell.call('POST /api/captures/:id/filing', { params: { id: captureId }, body: {} });
    await house.work();
    expect(await open(gil)).toBe(1);
    const hal = await reachable('Hal Silent', 'hal@silent.example');
    await withFollowUp(hal);
    const { body } = await pell.call('POST /api/captures', {
      raw: `From: hal@silent.example\r\nSubject: Out of office\r\nAuto-Submitted: auto-replied\r\nMessage-ID: <${++serial}@silent.example>\r\n\r\nAway.\r\n`,
    });
    await pell.call('POST /api/captures/:id/filing', {
      params: { id: body.id },
      body: { person: hal },
    });
    await house.work();
    expect(await open(hal)).toBe(1);
  });

  it('a call from them answers as well; what was said before the letter does not', async () => {
    const id = await reachable('Ivy Call', 'ivy@call.example');
    await withFollowUp(id);
    const enter = (at: Date) =>
      pell.call('POST /api/ledger/entries', {
        body: {
          ...{ kind: 'call', side: 'theirs', headline: 'Rang', outcome: 'spoke', about: [{ personId: id }] },
          at: at.toISOString(),
        },
      });
    await enter(new Date(Date.now() - 86_400_000));
    await house.work();
    expect(await open(id)).toBe(1);
    house.tools.now = () => new Date(Date.now() + 300_000);
    await enter(new Date(Date.now() + 240_000));
    await house.work();
    house.tools.now = () => new Date();
    expect(await open(id)).toBe(0);
  });
});
