import type { Line } from '../email/layers';
import type { Intent } from '../types';
import { readAsks } from './asks';
import { readMoney } from './money';
import { readQuantities } from './quantity';
import { toSentences } from './sentences';
import { readWhen } from './when';

/**
 * What a sender wants, in the order it stands in the text: asks, dates and times, sums of money, quantities.
 * @param body the sender's own lines without the signature
 * @param reference ISO 8601 with offset: when it was said, on the sender's clock
 * @param countries likely countries of the sender, for sums that name no currency
 */
export function readIntents(
  body: readonly Line[],
  reference: string,
  countries: readonly string[],
): Intent[] {
  const sentences = toSentences(body);
  const said = { reference, monthFirst: countries[0] === 'US' };
  const whens = sentences.flatMap((one) => readWhen(one, said));
  const free = (intent: Intent): boolean =>
    !whens.some((when) => when.span.start < intent.span.end && intent.span.start < when.span.end);
  const moneys = sentences.flatMap((one) => readMoney(one, countries));
  const clear = (intent: Intent): boolean =>
    free(intent) &&
    !moneys.some((money) => money.span.start < intent.span.end && intent.span.start < money.span.end);
  const quantities = sentences.flatMap(readQuantities).filter(clear);
  return [...readAsks(sentences, whens), ...whens, ...moneys, ...quantities]
    .sort((a, b) => a.span.start - b.span.start)
    .slice(0, 60);
}
