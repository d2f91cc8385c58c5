import { pick, slip, type Random } from '../crowd/errors';

/** A rep reads and thinks between two things: two seconds at least, eight at most. */
const LEAST_PAUSE = 2000;
const MORE_PAUSE = 6000;

export interface Pair {
  a: string;
  b: string;
}
export type Call = (method: string, path: string, body?: unknown, type?: string) => Promise<unknown>;

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

let serial = 0;
/** A mail by somebody who may be known. */
function mailOf(random: Random, name: string, address: string): string {
  serial++;
  return [
    `From: ${name} <${address}>`,
    'To: rep1@wharfside.example',
    `Subject: ${pick(random, ['Two long bikes', 'A trailer', 'Service plan'])} ${serial}`,
    'Date: Mon, 23 Nov 2026 16:40:00 +0000',
    `Message-ID: <load-${process.pid}-${serial}@bench.example>`,
    '',
    'Could you send a quote before Thursday?',
    '',
    name,
    '',
  ].join('\r\n');
}

/** One rep at work: finds, opens, files what came in, and makes doubles one. */
export async function rep(
  random: Random,
  names: readonly string[],
  pairs: Pair[],
  call: Call,
  rise: number,
  until: number,
): Promise<void> {
  await pause(random() * rise);
  while (performance.now() < until) {
    const name = pick(random, names);
    const what = random();
    if (what < 0.7) {
      // Typed letter by letter, as the field asks: at three, at six, and when it stands.
      for (const length of [3, 6, name.length]) {
        const typed = random() < 0.15 ? slip(random, name.slice(0, length)) : name.slice(0, length);
        const found = (await call('GET', `/api/search?q=${encodeURIComponent(typed)}`)) as {
          items: { kind: string; id: string }[];
        };
        await pause(120);
        const hit = found.items.find((item) => item.kind === 'person');
        if (length === name.length && hit) await call('GET', `/api/people/${hit.id}`);
      }
    } else if (what < 0.9) {
      const key = Math.floor(Date.now() * 1000 + random() * 1e6).toString(36);
      const address = `${name.toLowerCase().replace(/[^a-z]+/g, '')}@firm-${key}.example`;
      const capture = (await call(
        'POST',
        '/api/captures',
        mailOf(random, name, address),
        'message/rfc822',
      )) as {
        id: string;
      };
      await call('POST', `/api/captures/${capture.id}/filing`, { person: 'new', lead: 'new' });
    } else {
      const pair = pairs.pop();
      if (pair) {
        await call('POST', '/api/merges/compare', { kind: 'person', ids: [pair.a, pair.b] });
        await call('POST', '/api/merges', { kind: 'person', survivorId: pair.a, mergedIds: [pair.b] });
      }
    }
    await pause(LEAST_PAUSE + random() * MORE_PAUSE);
  }
}
