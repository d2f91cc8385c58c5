import { decodeHtml, kindOfFile, readCall, readCardFile, readTableFile, readThing } from './read';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const latin = (text: string): Uint8Array => Uint8Array.from(Buffer.from(text, 'latin1'));

describe('what a file is', () => {
  it.each([
    ['a.eml', '', 'email'],
    ['A.HTML', '', 'page'],
    ['card.vcf', '', 'card'],
    ['note.txt', '', 'call'],
    ['people.tsv', '', 'table'],
    ['unnamed', 'BEGIN:VCARD\nEND:VCARD', 'card'],
    ['unnamed', '\ufeff  <!doctype html><p>x', 'page'],
    ['archive.bin', 'PK\u0003\u0004', 'table'],
    ['unnamed', 'From: a@b.example\n\nhello', 'email'],
    ['unnamed', '', 'email'],
  ] as const)('%s with %j is %s', (name, start, kind) => {
    expect(kindOfFile(name, bytes(start))).toBe(kind);
  });
});

describe('a page in another encoding', () => {
  it('is read as it says itself, and by its bytes where it says nothing or nonsense', () => {
    expect(decodeHtml(latin('<meta charset="iso-8859-1"><p>Café Müller'))).toContain('Café Müller');
    expect(decodeHtml(bytes('<meta charset="utf-8"><p>Café Müller'))).toContain('Café Müller');
    expect(decodeHtml(bytes('<meta charset="klingon"><p>Café Müller'))).toContain('Café Müller');
    expect(decodeHtml(latin('<p>Café Müller'))).toContain('Café Müller');
  });
});

describe('the note of a call', () => {
  it('is ours when we called, and theirs when they did', () => {
    const call = { from: '+442079460018', to: '+442079460000', startedAt: '2026-11-27T10:00:00Z' };
    const of = (direction: 'in' | 'out') =>
      readCall('spoke to Ines Duarte, needs 8 bikes', { call: { ...call, direction } as never }).message;
    expect([of('in').side, of('out').side]).toEqual(['theirs', 'ours']);
    expect(of('in').from).toEqual({ name: 'Ines Duarte', address: '+442079460018' });
    expect(of('in').sentAt).toBe('2026-11-27T10:00:00Z');
  });

  it('of nobody has no sender', () => {
    expect(readCall('no answer').message.from).toBeNull();
  });
});

describe('a file of cards', () => {
  const card = (name: string, mail: string): string =>
    `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:${name}\r\nEMAIL:${mail}\r\nEND:VCARD\r\n`;

  it('says of each claim which card it is of, and where it stands', () => {
    const text = card('Ines Duarte', 'ines@sol.example') + card('Bo Lund', 'bo@lund.example');
    const { claims, records, message } = readCardFile(bytes(text));
    expect([records, message.subject]).toEqual([2, '2 cards']);
    expect(
      claims.filter((claim) => claim.field === 'email').map(({ record, value }) => [record, value]),
    ).toEqual([
      [0, 'ines@sol.example'],
      [1, 'bo@lund.example'],
    ]);
    for (const { span, value } of claims)
      if (span) expect(message.text.slice(span.start, span.end)).toBe(value);
  });

  it('with one card is that card, and its claims need no number', () => {
    const { claims, message } = readCardFile(bytes(card('Ines Duarte', 'ines@sol.example')));
    expect([message.subject, message.from]).toEqual(['Ines Duarte', { name: 'Ines Duarte', address: '' }]);
    expect(claims.every((claim) => claim.record === undefined)).toBe(true);
  });

  it('with none in it, or one that is cut off, says so', () => {
    expect(readCardFile(bytes('hello')).notices).toEqual(['there is no card in it']);
    const { notices } = readCardFile(bytes(`${card('Ines', 'i@sol.example')}BEGIN:VCARD\r\nFN:Cut`));
    expect(notices.length).toBe(1);
  });
});

describe('a table', () => {
  it('gives the claims of each row its number, and the faults of the file', async () => {
    const { claims, records } = await readTableFile(
      bytes('Name,Email\nInes Duarte,ines@sol.example\n\nBo Lund,bo@lund.example\n'),
    );
    expect(records).toBe(2);
    expect(
      claims.filter((claim) => claim.field === 'fullName').map(({ record, value }) => [record, value]),
    ).toEqual([
      [0, 'Ines Duarte'],
      [1, 'Bo Lund'],
    ]);
    const open = await readTableFile(bytes('Name,Email\n"Ines,ines@sol.example\n'));
    expect(open.notices.join()).toMatch(/row \d+:/);
  });
});

describe('text that does not say what it is', () => {
  it.each([
    ['spoke to Ines Duarte at Padaria Sol, needs 8 bikes, call back friday', 'text'],
    ['Hello Pell,\n\ncould you send a price for 8 bikes?\n\nBest wishes,\nInes Duarte', 'text'],
    ['From: Ines <ines@sol.example>\nSubject: Bikes\n\nneeds 8 bikes, call Ines Duarte', 'email'],
  ] as const)('%j is read as %s', async (text, kind) => {
    expect((await readThing('text', bytes(text))).kind).toBe(kind);
  });
});
