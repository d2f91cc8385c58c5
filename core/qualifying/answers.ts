import { fold } from '../people/text';
import type { Sentence } from '../reading/intents/sentences';
import type { Intent, Span } from '../reading/types';

export interface QuestionFacts {
  id: string;
  label: string;
  help: string;
}

export interface ProposedAnswer {
  questionId: string;
  /** The sentence, as it stands in the message. */
  text: string;
  span: Span;
  /** 0 to 1. */
  confidence: number;
}

interface Topic {
  /** What a question of this topic is called. */
  asks: RegExp;
  /** What was read that answers it. */
  kinds: readonly Intent['kind'][];
  /** Words that speak of it, in the languages most mail comes in. */
  words: RegExp;
}

const TOPICS: readonly Topic[] = [
  {
    asks: /\b(need|want|carry|what for|use case|requirement|bedarf|brauch|besoin|necesid|behov)/i,
    kinds: ['quantity'],
    words:
      /\b(need|want|looking for|interested in|would like|carry|deliver|replace|brauch\w*|such\w*|möcht\w*|besoin|cherch\w*|necesit\w*|precis\w*|procur\w*|zoek\w*|søker|letar)\b/gi,
  },
  {
    asks: /\b(tim|when|start|deadline|by what date|zeit|wann|quand|cuándo|när)/i,
    kinds: ['date'],
    words:
      /\b(by|before|start\w*|spring|summer|autumn|winter|season|month|quarter|week|year|ab|bis|anfang|frühjahr|printemps|avant|antes|primavera|voor|innan)\b/gi,
  },
  {
    asks: /\b(budget|spend|price|money|afford|cost|preis|geld|prix|precio|orçamento)/i,
    kinds: ['money'],
    words:
      /\b(budget|spend|afford|cost\w*|financ\w*|set aside|price|lease|kost\w*|finanz\w*|prix|precio|preço|orçamento)\b/gi,
  },
  {
    asks: /\b(decid|sign|who else|say|approv|authority|entscheid|décid|decid|beslut)/i,
    kinds: [],
    words:
      /\b(sign\w*|decid\w*|decision|approv\w*|board|committee|boss|director|partner|owner|my (?:wife|husband|brother|sister|father|mother)|has a say|entscheid\w*|chef\w*|vorstand|décid\w*|patron\w*|decide|jefe|sócio|beslut\w*)\b/gi,
  },
  {
    asks: /\b(now|today|current|at the moment|already|today's|heute|actuel|hoy|idag)/i,
    kinds: [],
    words:
      /\b(now|today|currently|at the moment|so far|already|use|run|heute|derzeit|bisher|actuellement|hoy|idag)\b/gi,
  },
  {
    asks: /\b(other|compar|competit|alternativ|elsewhere|wettbewerb|concurr)/i,
    kinds: [],
    words:
      /\b(other (?:offer|quote|supplier)s?|compar\w*|competit\w*|alternativ\w*|elsewhere|also asked|vergleich\w*|andere\w* angebot\w*|concurr\w*)\b/gi,
  },
  {
    asks: /\b(heard|found us|how did|recommend|referr|erfahren|connu)/i,
    kinds: [],
    words:
      /\b(heard|recommend\w*|saw you|found you|told us|met you|fair|empf\w*|gesehen|recommand\w*|recomend\w*)\b/gi,
  },
];
const WORTH = { read: 3, word: 1.2, shared: 1.5, asked: -2.5, long: -0.5 };
/** From which sum of signs a sentence is proposed. */
const ENOUGH = 2.4;
const FEW = new Set(
  'what when where which that this they them their have with your does would could much many from want need also else who how are the and for can'.split(
    ' ',
  ),
);

const stems = (text: string): Set<string> =>
  new Set(
    fold(text)
      .split(/[^\p{L}\p{N}]+/u)
      .filter((word) => word.length >= 4 && !FEW.has(word))
      .map((word) => word.slice(0, 6)),
  );

function weigh(
  question: QuestionFacts,
  topics: readonly Topic[],
  sentence: { text: string; start: number; end: number },
  intents: readonly Intent[],
): number {
  const inside = intents.filter(
    ({ span }) => span.part === 'text' && span.start >= sentence.start && span.end <= sentence.end,
  );
  const kinds = new Set(topics.flatMap((topic) => topic.kinds));
  const read = Math.max(
    0,
    ...inside.filter((one) => kinds.has(one.kind)).map((one) => one.confidence * WORTH.read),
  );
  const words = topics.reduce((sum, topic) => sum + (sentence.text.match(topic.words)?.length ?? 0), 0);
  const own = stems(`${question.label} ${question.help}`);
  const shared = [...stems(sentence.text)].filter((stem) => own.has(stem)).length;
  return (
    read +
    Math.min(2, words) * WORTH.word +
    Math.min(2, shared) * WORTH.shared +
    (!read && /\?\s*$/.test(sentence.text) ? WORTH.asked : 0) +
    (sentence.text.length > 260 ? WORTH.long : 0)
  );
}

/**
 * The sentence of a message that answers each question, where one does: by what was read in it, by words of the topic,
 * and by words it shares with the question. A mere question of theirs is no answer, though one that names a
 * count or a sum is; and a day by which we owe them something
 * is ours to keep and not their timing.
 */
export function proposeAnswers(
  questions: readonly QuestionFacts[],
  sentences: readonly Sentence[],
  intents: readonly Intent[],
): ProposedAnswer[] {
  const theirs = intents.filter(
    (intent) =>
      intent.kind !== 'date' ||
      !intents.some((ask) => ask.kind === 'ask' && ask.value.due === intent.value.at),
  );
  const placed = sentences.map((sentence) => ({
    text: sentence.text,
    start: sentence.start,
    end: sentence.at(sentence.text.length),
  }));
  return questions.flatMap((question) => {
    const named = TOPICS.filter((topic) => topic.asks.test(question.label));
    // What a question is called says what it is about; the help only where the name does not.
    const topics = named.length ? named : TOPICS.filter((topic) => topic.asks.test(question.help));
    const [best] = placed
      .map((sentence) => ({ sentence, weight: weigh(question, topics, sentence, theirs) }))
      .sort((a, b) => b.weight - a.weight || a.sentence.start - b.sentence.start);
    if (!best || best.weight < ENOUGH) return [];
    const { text, start, end } = best.sentence;
    return {
      questionId: question.id,
      text: text.replace(/\s+/g, ' '),
      span: { part: 'text' as const, start, end },
      confidence: Math.min(0.95, best.weight / (best.weight + 1.5)),
    };
  });
}
