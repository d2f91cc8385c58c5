import { createTransport } from 'nodemailer';
import { openMailIntake, type MailIntake } from '../outside/mail';
import { consenting } from '../testing/consenting';
import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();
const { reachable, sent, begin, change, send, pass, show } = lettering(house);
const { consentOf, statesOf, idOf, note, pathOf } = consenting(house);
const ALL = { News: 'withdrawn', Offers: 'withdrawn', Service: 'withdrawn', 'Opens and clicks': 'withdrawn' };

let intake: MailIntake;
beforeAll(async () => {
  intake = await openMailIntake(house.tools, '127.0.0.1', 0, () => undefined);
});
afterAll(() => intake.stop());
let serial = 0;
const write = async (from: string, subject: string, text: string, headers: Record<string, string> = {}) => {
  await createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail({
    ...{ from, to: 'pell@wharfside.example', subject, text, headers },
    messageId: `<stop.${++serial}@theirs.example>`,
  });
  await house.work();
};

describe('a message that asks for no more mail', () => {
  it('withdraws whoever wrote it from everything, filed or not, and keeps their words', async () => {
    const id = await reachable(pell, 'Tiago Brito', 'tiago@alto.example');
    await note(pell, id, { purposeId: await idOf(pell, 'News'), state: 'agreed', words: 'by phone' });
    await write(
      'tiago@alto.example',
      'Re: Spring',
      'Please take me off your mailing list.\n\n> Dear Tiago, please unsubscribe me\n',
    );
    expect(await statesOf(pell, id)).toEqual(ALL);
    expect((await consentOf(pell, id)).history[0]).toMatchObject({
      ...{ how: 'mail', source: 'Re: Spring', address: 'tiago@alto.example', by: null },
      words: expect.stringContaining('take me off your mailing list') as string,
    });
    const waiting = (await pell.call('GET /api/captures', { query: { state: 'waiting' } })).body.items;
    expect(waiting.some(({ subject }) => subject === 'Re: Spring')).toBe(true);
  });

  it('counts for nobody else, not from a machine, and not when it is older than what was agreed since', async () => {
    const id = await reachable(pell, 'Nora Lie', 'nora@lie.example');
    await note(pell, id, { purposeId: await idOf(pell, 'News'), state: 'agreed', words: 'by phone' });
    await write('somebody@else.example', 'unsubscribe', 'unsubscribe');
    await write('nora@lie.example', 'Automatic reply: away', 'Please unsubscribe me.', {
      'Auto-Submitted': 'auto-replied',
    });
    await write(
      'nora@lie.example',
      'Prices',
      'Please stop sending me the old price list, the new one is fine.',
    );
    expect(await statesOf(pell, id)).toEqual({ News: 'agreed' });
    await write('nora@lie.example', 'Stop', 'Unsubscribe', { Date: 'Mon, 06 Jan 2020 10:00:00 +0000' });
    expect((await statesOf(pell, id)).News).toBe('agreed');
  });

  it('by the address in List-Unsubscribe takes the token alone, and leaves nothing in Arrivals', async () => {
    const id = await reachable(pell, 'Olga Ruiz', 'olga@ruiz.example');
    const token = (await pathOf(pell, id)).replace('/u/', '');
    const before = await house.count('captures');
    await write('another.address@ruiz.example', `unsubscribe ${token}`, '');
    expect(await statesOf(pell, id)).toEqual(ALL);
    expect(await house.count('captures')).toBe(before);
    await write('another.address@ruiz.example', `unsubscribe ${token.slice(0, -2)}xx`, 'forged');
    expect(await house.count('captures')).toBe(before + 1);
  });
});

describe('what mail servers say of an address', () => {
  const report = (messageId: string, address: string, action: string, status: string): string =>
    [
      'From: MAILER-DAEMON@mx.example',
      'To: pell@wharfside.example',
      'Subject: Delivery report',
      `Message-ID: <report.${++serial}@mx.example>`,
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary=b',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'About your mail.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mx.example',
      '',
      `Final-Recipient: rfc822; ${address}`,
      `Action: ${action}`,
      `Status: ${status}`,
      '',
      '--b',
      'Content-Type: text/rfc822-headers',
      '',
      `Message-ID: ${messageId}`,
      '',
      '--b--',
      '',
    ].join('\r\n');
  const come = async (raw: string): Promise<void> => {
    await createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail({
      envelope: { from: '', to: ['pell@wharfside.example'] },
      raw,
    });
    await house.work();
  };
  const reachOf = async (id: string): Promise<unknown> => (await consentOf(pell, id)).addresses[0]?.reach;

  it('full, gone or good again, and another address is good until they say otherwise', async () => {
    const address = 'box@full.example';
    const id = await reachable(pell, 'Box Full', address);
    const write = async (): Promise<string> => {
      const words = { subject: 'Hello', html: '<p>Hello</p>' };
      const letter = await change(pell, await begin(pell, { about: { personId: id } }), words);
      await send(pell, letter, { anyway: true });
      await pass();
      return `<letter.${letter.id}@wharfside.example>`;
    };
    await come(report(await write(), address, 'failed', '5.2.2'));
    expect(await reachOf(id)).toBe('full');
    expect((await begin(pell, { about: { personId: id } })).warnings).toEqual([
      'The mailbox of Box Full (box@full.example) was full.',
    ]);
    await come(report(await write(), address, 'delivered', '2.0.0'));
    expect(await reachOf(id)).toBe('good');
    await come(report(await write(), address, 'failed', '5.1.1'));
    const [gone] = (await consentOf(pell, id)).addresses;
    expect(gone).toMatchObject({ reach: 'gone' });
    const params = { id: gone?.contactId ?? '' };
    await pell.call('PATCH /api/contacts/:id', {
      params,
      body: { version: gone?.version, value: 'new@full.example' },
    });
    expect(await reachOf(id)).toBe('good');
  });

  it('a complaint withdraws from everything', async () => {
    const id = await reachable(pell, 'Com Plaint', 'com@plaint.example');
    const letter = await sent(pell, { about: { personId: id } });
    await come(
      [
        'From: abuse@mx.example',
        'To: pell@wharfside.example',
        'Subject: Complaint',
        `Message-ID: <report.${++serial}@mx.example>`,
        'MIME-Version: 1.0',
        'Content-Type: multipart/report; report-type=feedback-report; boundary=b',
        '',
        '--b',
        'Content-Type: text/plain',
        '',
        'Spam.',
        '--b',
        'Content-Type: message/feedback-report',
        '',
        'Feedback-Type: abuse',
        'User-Agent: Some/1.0',
        'Version: 1',
        'Original-Rcpt-To: com@plaint.example',
        '',
        '--b',
        'Content-Type: message/rfc822',
        '',
        `Message-ID: <letter.${letter.id}@wharfside.example>`,
        'Subject: Hello',
        '',
        'Hello',
        '--b--',
        '',
      ].join('\r\n'),
    );
    expect(await statesOf(pell, id)).toEqual(ALL);
    expect((await consentOf(pell, id)).history[0]).toMatchObject({ how: 'complaint', source: 'Hello' });
  });
});

it('a letter that waits does not go to somebody who withdraws meanwhile, until its writer says so', async () => {
  const id = await reachable(pell, 'Late Word', 'late@word.example');
  const letter = await change(pell, await begin(pell, { about: { personId: id } }), {
    subject: 'Tomorrow',
    html: '<p>Tomorrow</p>',
  });
  const at = new Date(house.tools.now().getTime() + 3_600_000).toISOString();
  await send(pell, letter, { at });
  await write('late@word.example', 'Please', 'I would like to unsubscribe.');
  await pass(2 * 3_600_000);
  const held = await show(pell, letter.id);
  expect([held.state, held.trouble]).toEqual([
    'failed',
    expect.stringContaining('Late Word withdrew consent'),
  ]);
  const [row] = (await pell.call('GET /api/outbox', {})).body.items;
  expect(
    (await pell.call('POST /api/outbox/:id/retry', { params: { id: row?.id ?? '' } })).status,
  ).toBeLessThan(300);
  await pass(3 * 3_600_000);
  expect((await show(pell, letter.id)).state).toBe('sent');
});
