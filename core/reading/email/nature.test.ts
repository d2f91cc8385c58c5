import { readEmail } from './read';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text.replace(/\n/g, '\r\n'));
const natureOf = async (headers: string, from = 'Ada Crumb <ada@crumb.example>'): Promise<string | null> => {
  const raw = `From: ${from}\nTo: Pell <pell@wharfside.example>\nSubject: Spring\n${headers}\n\nHello,\n\nour news.\n`;
  return (await readEmail(encode(raw), { ours: ['wharfside.example'] })).message.nature ?? null;
};

describe('a message that no person wrote', () => {
  it.each([
    ['List-Unsubscribe: <mailto:leave@crumb.example>', 'newsletter', 'RFC 2369 §3.2'],
    [
      'List-Unsubscribe: <https://crumb.example/u/1>\nList-Unsubscribe-Post: List-Unsubscribe=One-Click',
      'newsletter',
      'RFC 8058 §8.1',
    ],
    ['Precedence: bulk', 'newsletter', 'common practice'],
    ['Auto-Submitted: auto-replied', 'automatic reply', 'RFC 3834 §5'],
    ['Auto-Submitted: auto-replied; owner-email="ada@crumb.example"', 'automatic reply', 'RFC 3834 §5'],
    ['Auto-Submitted: auto-generated', 'notice', 'RFC 3834 §5'],
    [
      'MIME-Version: 1.0\nContent-Type: multipart/report; report-type=delivery-status; boundary=b',
      'notice',
      'RFC 6522 §3',
    ],
  ])('is known by %s (%s, %s)', async (headers, nature) => {
    expect(await natureOf(headers)).toBe(nature);
  });

  it('is known by a sender whom nobody answers', async () => {
    for (const from of ['no-reply@crumb.example', 'MAILER-DAEMON@crumb.example', 'bounce+17@crumb.example'])
      expect(await natureOf('X-A: b', from)).toBe('notice');
  });
});

describe('a message that a person wrote', () => {
  it.each([
    ['with no such header', 'X-A: b'],
    ['that says so (RFC 3834 §5)', 'Auto-Submitted: no'],
    [
      'to a group that handed it on (RFC 2369 §3.4, RFC 2919)',
      'List-Id: <sales.wharfside.example>\nList-Post: <mailto:sales@wharfside.example>\nList-Unsubscribe: <mailto:x@wharfside.example>\nPrecedence: list',
    ],
  ])('%s', async (_, headers) => {
    expect(await natureOf(headers)).toBeNull();
  });

  it('on a web form whose sender answers nobody, but whose Reply-To does', async () => {
    expect(await natureOf('Reply-To: ada@crumb.example', 'Shop <noreply@shop.example>')).toBeNull();
  });

  it('is not taken for a machine by a name that only begins like one', async () => {
    for (const from of ['norbert@crumb.example', 'alertus.smith@crumb.example', 'bouncer@crumb.example'])
      expect(await natureOf('X-A: b', from)).toBeNull();
  });

  it('of ours is never one of them', async () => {
    expect(await natureOf('List-Unsubscribe: <mailto:x@y.example>', 'pell@wharfside.example')).toBeNull();
  });
});
