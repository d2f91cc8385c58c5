import type { Line } from '../email/layers';
import type { Intent } from '../types';
import { readAsks } from './asks';
import { readMoney } from './money';
import { readQuantities } from './quantity';
import { toSentences, type Sentence } from './sentences';
import { readPromises, readStance, type Speaker } from './stance';
import { readWhen } from './when';

const MOST = 60;

/**
 * What a sender wants, in the order it stands in the text: asks, promises, dates and times, sums of money, quantities,
 * what draws them and what holds them back. Stops at 60, by which a letter has said what it wants.
 * @param body the sender's own lines without the signature
 * @param reference ISO 8601 with offset: when it was said, on the sender's clock
 * @param countries likely countries of the sender, for sums that name no currency
 * @param currency ISO 4217 code where the countries tell nothing
 * @param speaker who says it
 */
export function readIntents(
  body: readonly Line[],
  reference: string,
  countries: readonly string[],
  currency = 'EUR',
  speaker: Speaker = 'theirs',
): Intent[] {
  const said = { reference, monthFirst: countries[0] === 'US' };
  const sentences: Sentence[] = [];
  const whens: Intent[] = [];
  const counts: Intent[] = [];
  for (const sentence of toSentences(body)) {
    if (whens.length + counts.length >= MOST) break;
    sentences.push(sentence);
    const dates = readWhen(sentence, said);
    const sums = readMoney(sentence, { countries, currency }).filter((sum) => isClear(sum, dates));
    const things = readQuantities(sentence).filter((thing) => isClear(thing, [...dates, ...sums]));
    whens.push(...dates);
    counts.push(...sums, ...things);
  }
  const promises = readPromises(sentences, whens, speaker);
  const asks = readAsks(sentences, whens).filter(
    (ask) => !promises.some((promise) => promise.span.start === ask.span.start && !/\?/.test(ask.text)),
  );
  return [...asks, ...promises, ...readStance(sentences, speaker), ...whens, ...counts]
    .sort((a, b) => a.span.start - b.span.start)
    .slice(0, MOST);
}

/** Whether an intent shares no word with others, which were surer of it. */
const isClear = (intent: Intent, taken: readonly Intent[]): boolean =>
  !taken.some((one) => one.span.start < intent.span.end && intent.span.start < one.span.end);
