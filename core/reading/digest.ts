import { tidy } from '../people/text';
import { toSentences, type Sentence } from './intents/sentences';
import type { Line } from './email/layers';
import type { Intent } from './types';

const LONGEST = 240;
/** How much a kind of intent says about what a text is for. */
const WEIGHT: Record<Intent['kind'], number> = {
  ask: 4,
  promise: 2.5,
  objection: 3,
  interest: 2,
  money: 2,
  quantity: 2,
  date: 1,
};
const GREETING =
  /^(?:hi|hello|hey|dear|good (?:morning|afternoon|evening)|hallo|guten (?:tag|morgen)|liebe[r]?|sehr geehrte|bonjour|ol[aá]|bom dia|boa tarde|hola|buenos|beste|ciao|hej)\b/i;
const POLITE =
  /\b(?:hope (?:you|this|all)|thank(?:s| you)|my name is|look(?:ing)? forward|best wishes|kind regards)\b/i;

function weigh(sentence: Sentence, index: number, intents: readonly Intent[]): number {
  const end = sentence.start + sentence.text.length;
  const kinds = new Set(
    intents
      .filter(
        (intent) =>
          intent.span.part === 'text' && intent.span.start >= sentence.start && intent.span.end <= end + 1,
      )
      .map((intent) => intent.kind),
  );
  const said = [...kinds].reduce((sum, kind) => sum + WEIGHT[kind], 0);
  const words = sentence.text.split(/\s+/).length;
  return said + (words >= 5 ? 0.5 : -1) - index * 0.05 - (POLITE.test(sentence.text) && !said ? 2 : 0);
}

/**
 * A digest of at most two sentences, taken from the text itself and in its order: those that hold most of what is
 * asked, offered, counted and dated. A sentence longer than 240 characters is cut between words.
 * @param body the lines that are said, without quoting and signature
 * @param intents what was read from them
 */
export function digestOf(body: readonly Line[], intents: readonly Intent[]): string {
  const sentences = toSentences(body).filter(
    (sentence) =>
      tidy(sentence.text).length > 2 &&
      !(GREETING.test(sentence.text) && sentence.text.split(/\s+/).length <= 5),
  );
  const best = sentences
    .map((sentence, index) => ({ sentence, index, weight: weigh(sentence, index, intents) }))
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 2)
    .filter((one, rank) => rank === 0 || one.weight > 1)
    .sort((a, b) => a.index - b.index);
  return best.map(({ sentence }) => shorten(tidy(sentence.text))).join(' ');
}

function shorten(text: string): string {
  if (text.length <= LONGEST) return text;
  const cut = text.slice(0, LONGEST);
  return `${cut.slice(0, Math.max(cut.lastIndexOf(' '), LONGEST / 2))}…`;
}
