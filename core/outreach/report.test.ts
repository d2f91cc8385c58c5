import { deliveryStateOf } from './deliveryStatus';
import { readReport } from './report';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text.replace(/\r?\n/g, '\r\n'));
const read = (text: string) => readReport(bytes(text));

const reportOf = (groups: string, more = '') => `From: Mail Delivery Subsystem <MAILER-DAEMON@cs.utk.example>
Subject: Returned mail
To: <owner@cs.utk.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status; boundary="RAA14128.773615765/CS.UTK.EDU"

--RAA14128.773615765/CS.UTK.EDU

The original message was received at Sat, 2 Jul 1994 17:10:28 -0400
from root@localhost

--RAA14128.773615765/CS.UTK.EDU
content-type: message/delivery-status

${groups}
--RAA14128.773615765/CS.UTK.EDU
content-type: message/rfc822

Message-ID: <letter.1@wharfside.example>
Subject: Bikes
To: x@y.example

Hello
${more}--RAA14128.773615765/CS.UTK.EDU--
`;
const about = ['<letter.1@wharfside.example>'];

// The recipients of the examples in RFC 3464, appendix E, from memory.
it('RFC 3464 E.1: a report of one recipient, given up after five days', async () => {
  expect(
    await read(
      reportOf(`Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;louisl@larry.slip.umd.edu
Final-Recipient: rfc822;louisl@larry.slip.umd.edu
Action: failed
Status: 4.0.0
Diagnostic-Code: smtp; 426 connection timed out
Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400
`),
    ),
  ).toEqual({
    kind: 'delivery',
    about,
    addresses: [
      {
        address: 'louisl@larry.slip.umd.edu',
        state: 'refused',
        status: '4.0.0',
        words: '426 connection timed out',
      },
    ],
  });
});

it('RFC 3464 E.2: a report of several recipients, each with its own end', async () => {
  const report = await read(
    reportOf(`Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;arathib@vnet.ibm.com
Final-Recipient: rfc822;arathib@vnet.ibm.com
Action: failed
Status: 5.0.0 (permanent failure)
Diagnostic-Code: smtp;
  550 'arathib@vnet.IBM.COM' is not a registered gateway user
Remote-MTA: dns; vnet.ibm.com

Original-Recipient: rfc822;johnh@hpnjld.njd.hp.com
Final-Recipient: rfc822;johnh@hpnjld.njd.hp.com
Action: delayed
Status: 4.0.0 (hpnjld.njd.jp.com: host name lookup failure)

Original-Recipient: rfc822;wsnell@sdcc13.ucsd.edu
Final-Recipient: rfc822;wsnell@sdcc13.ucsd.edu
Action: failed
Status: 5.0.0
Diagnostic-Code: smtp; 550 user unknown
Remote-MTA: dns; sdcc13.ucsd.edu
`),
  );
  expect(
    report?.kind === 'delivery' && report.addresses.map(({ address, state }) => [address, state]),
  ).toEqual([
    ['arathib@vnet.ibm.com', 'refused'],
    ['johnh@hpnjld.njd.hp.com', 'delayed'],
    ['wsnell@sdcc13.ucsd.edu', 'gone'],
  ]);
});

it.each([
  ['failed', '5.1.1', '550 no such user', 'gone'],
  ['failed', '5.1.2', 'host not found', 'gone'],
  ['failed', '5.2.2', '552 mailbox full', 'full'],
  ['delayed', '4.2.2', 'over quota', 'full'],
  ['delayed', '4.4.1', 'connection timed out', 'delayed'],
  ['failed', '5.7.1', 'message rejected as spam', 'refused'],
  ['failed', '5.7.1', '550 user unknown', 'refused'],
  ['failed', '5.0.0', '550 5.0.0 mailbox unavailable: user unknown', 'gone'],
  ['failed', '5.0.0', 'Quota exceeded for this mailbox', 'full'],
  ['failed', '4.4.7', 'unknown user host timed out', 'refused'],
  ['delivered', '2.1.5', '', 'delivered'],
  ['relayed', '2.0.0', '', 'delivered'],
  ['failed', '2.0.0', '', 'refused'],
  ['', '5.2.1', '', 'gone'],
])('RFC 3463: %s %s “%s” is %s', (action, status, words, state) => {
  expect(deliveryStateOf(action, status, words)).toBe(state);
});

it('takes the code that the last server gave where the summary says nothing', async () => {
  const report = await read(
    reportOf(
      'Reporting-MTA: dns; a\n\nFinal-Recipient: rfc822; <A@B.example>\nAction: failed\nStatus: 5.0.0\nDiagnostic-Code: smtp; 550-5.1.1 The email account that you tried to reach\n does not exist\n',
    ),
  );
  expect(report).toMatchObject({ addresses: [{ address: 'a@b.example', status: '5.1.1', state: 'gone' }] });
});

// Common practice: what these servers write where nobody asked for a report in a form for machines.
it('reads the report of a qmail server', async () => {
  expect(
    await read(`From: MAILER-DAEMON@mx.example
To: pell@wharfside.example
Subject: failure notice

Hi. This is the qmail-send program at mx.example.
I'm afraid I wasn't able to deliver your message to the following addresses.
This is a permanent error; I've given up. Sorry it didn't work out.

<ana@padaria.example>:
Sorry, no mailbox here by that name. (#5.1.1)

<rui@padaria.example>:
203.0.113.5 does not like recipient.
Remote host said: 552 5.2.2 mailbox full

--- Below this line is a copy of the message.

Return-Path: <pell@wharfside.example>
Message-ID: <letter.2@wharfside.example>
To: nobody@else.example
`),
  ).toMatchObject({
    kind: 'delivery',
    about: ['<letter.2@wharfside.example>'],
    addresses: [
      { address: 'ana@padaria.example', status: '5.1.1', state: 'gone' },
      { address: 'rui@padaria.example', status: '5.2.2', state: 'full' },
    ],
  });
});

it('reads the report of an Exim server', async () => {
  expect(
    await read(`From: Mail Delivery System <Mailer-Daemon@mx.example>
X-Failed-Recipients: ana@padaria.example
Subject: Mail delivery failed: returning message to sender
References: <letter.3@wharfside.example>

This message was created automatically by mail delivery software.

A message that you sent could not be delivered to one or more of its
recipients. This is a permanent error. The following address(es) failed:

  ana@padaria.example
    host mx.padaria.example [203.0.113.9]
    SMTP error from remote mail server after RCPT TO:<ana@padaria.example>:
    550 5.1.1 unknown user
`),
  ).toMatchObject({
    about: ['<letter.3@wharfside.example>'],
    addresses: [{ address: 'ana@padaria.example', status: '5.1.1', state: 'gone' }],
  });
});

it('a warning that a server still tries is no failure', async () => {
  expect(
    await read(`From: Mail Delivery System <Mailer-Daemon@mx.example>
Subject: Warning: message delayed 24 hours
In-Reply-To: <letter.4@wharfside.example>

The message has been delayed. No action is required on your part.
The address to which the message has not yet been delivered is:

  ana@padaria.example
`),
  ).toMatchObject({ addresses: [{ address: 'ana@padaria.example', state: 'delayed' }] });
});

// After the second example of RFC 5965, appendix B, from memory; its Message-ID has no brackets.
it('RFC 5965: a complaint, with whom the message went to', async () => {
  const complaint = (type: string) => `From: <abusedesk@example.com>
Date: Thu, 8 Mar 2005 17:40:36 -0400
Subject: FW: Earn money
To: <abuse@example.net>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=feedback-report; boundary="part1_13d.2e68ed54_boundary"

--part1_13d.2e68ed54_boundary
Content-Type: text/plain; charset="US-ASCII"

This is an email abuse report for an email message received from IP 192.0.2.1.

--part1_13d.2e68ed54_boundary
Content-Type: message/feedback-report

Feedback-Type: ${type}
User-Agent: SomeGenerator/1.0
Version: 1
Original-Mail-From: <somespammer@example.net>
Original-Rcpt-To: <user@example.com>
Arrival-Date: Thu, 8 Mar 2005 14:00:00 EDT
Source-IP: 192.0.2.1

--part1_13d.2e68ed54_boundary
Content-Type: message/rfc822

From: <somespammer@example.net>
To: <Undisclosed Recipients>
Subject: Earn money
Message-ID: 8787KJKJ3K4J3K4J3K4J3.mail@example.net

Spam Spam Spam
--part1_13d.2e68ed54_boundary--
`;
  expect(await read(complaint('abuse'))).toEqual({
    kind: 'complaint',
    about: ['<8787KJKJ3K4J3K4J3K4J3.mail@example.net>'],
    address: 'user@example.com',
  });
  expect(await read(complaint('not-spam'))).toBeNull();
});

const away = (body: string, subject = 'Out of office'): string => `From: Ana Leça <Ana@padaria.example>
To: pell@wharfside.example
Subject: ${subject}
Date: Mon, 21 Dec 2026 10:00:00 +0000
Auto-Submitted: auto-replied
In-Reply-To: <letter.5@wharfside.example>
Content-Type: text/plain; charset=utf-8

${body}
`;
it.each([
  ['I am out of the office from 21 December until 4 January.', '2027-01-04'],
  [
    'Thank you for your mail. I will be back on Monday 4 January 2027. In urgent cases call Rui.',
    '2027-01-04',
  ],
  ['Ich bin bis zum 8.1.2027 nicht im Büro.', '2027-01-08'],
  ['Je suis absente du 21 décembre jusqu’au 3 janvier.', '2027-01-03'],
  ['Estaré fuera hasta el 7 de enero.', '2027-01-07'],
  ['Ik ben afwezig tot en met 2 januari.', '2027-01-02'],
  ['Sono fuori ufficio fino al 6 gennaio.', '2027-01-06'],
  ['Thanks, we got your message and answer within two days.', null],
])('RFC 3834: “%s” says until %s', async (body, until) => {
  expect(await read(away(body))).toEqual({
    kind: 'away',
    about: ['<letter.5@wharfside.example>'],
    from: 'ana@padaria.example',
    until,
  });
});

it('an ordinary message is none, whatever is attached to it', async () => {
  expect(
    await read('From: Ana <ana@padaria.example>\nSubject: Bikes\n\nI am away until Friday.\n'),
  ).toBeNull();
  expect(await read('')).toBeNull();
  expect(await read('Content-Type: multipart/report; boundary=x\n\n--x\n')).toBeNull();
});

it('is through with a report of very many lines and fields', async () => {
  const began = performance.now();
  const many = 'Final-Recipient: rfc822; a@b.example\nAction: failed\nStatus: 5.1.1\n\n'.repeat(20_000);
  const report = await read(reportOf(`Reporting-MTA: dns; a\n\n${many}`));
  expect(report?.kind === 'delivery' && report.addresses.length).toBe(199);
  await read(`From: mailer-daemon@x.example\nSubject: failure notice\n\n${'a@b.example\n'.repeat(200_000)}`);
  await read(away('until '.repeat(100_000)));
  expect(performance.now() - began).toBeLessThan(20_000);
});
