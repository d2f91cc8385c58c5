import { splitLayers, type Line } from '../reading/email/layers';
import { readAsks } from '../reading/intents/asks';
import { toSentences, type Sentence } from '../reading/intents/sentences';
import { readPromises, type Speaker } from '../reading/intents/stance';
import { partSignature } from '../reading/signature/block';
import { alternatives } from '../words/compile';
import { certain, flat, phrases } from './turnPatterns';

/** What somebody's own words do to an exchange. */
export interface Statements {
  /** What is asked of whoever is spoken to. */
  asks: string[];
  /** What is asked is to be done, not only to be said. */
  requests: boolean;
  /** What whoever speaks will still do. */
  promises: string[];
  accepts: boolean;
  declines: boolean;
  /** It says that what was proposed does not suit. */
  counters: boolean;
  /** What is asked is whether whoever speaks shall do something: a yes leaves it to them. */
  offers: string[];
  /** What is asked is which of several things with their prices it shall be, or when to call: the answer leaves it to whoever asked. */
  choices: string[];
  /** Something is asked that is no proposal, and nothing comes with it: what was asked first may not be answered by it. */
  asksBack: boolean;
  /** Nothing is in it but what is asked, and thanks. */
  isBare: boolean;
  /** The flat words of what is neither asked nor thanks. */
  besides: string;
  /** It says that there is no answer yet. */
  isNotYet: boolean;
  /** It says yes, which answers a question. */
  agrees: boolean;
  /** Nothing in it but thanks, receipts and goodbyes. */
  isThanks: boolean;
  /** Thanks are in it, whatever else is. */
  thanks: boolean;
  /** An offer of more help, or "no answer needed". */
  ends: boolean;
  /** It tells of something that wants no answer. */
  informs: boolean;
  /** It reports that something is done, has come, or goes well. */
  reports: boolean;
  /** Something comes with it. */
  brings: boolean;
  bringsQuote: boolean;
  /** The flat words of it all. */
  words: string;
}

const THANKS = phrases('thanks');
const AGREES = phrases('agrees');
const OFFERS_MORE = phrases('offersMore');
const ENDS = phrases('endsIt');
const ACCEPTS = phrases('accepts');
const DECLINES = phrases('declines');
const COUNTERS = phrases('counters');
const REQUESTS = phrases('requests');
const OFFERS_CHOICE = phrases('offersChoice');
const INFORMS = phrases('informs');
const REPORTS = phrases('reports');
const OFFERS_TO_DO = phrases('offersToDo');
const REMINDS = phrases('reminds');
const NOT_YET = phrases('notYet');
const SAYS_WHEN = phrases('saysWhen');
/** An order that is announced for another day is not given yet. */
const WILL_ORDER = /(?:^|[ ,])(?:we|i)(?:'ll| will) (?:place|order|sign|confirm|buy|book|pay)\b/;
const PROMISES = phrases('promises');
const QUOTE = phrases('quote');
const BRINGS = phrases('attached');
const GREETING = new RegExp(`^\\s*(?:${alternatives('greeting')})(?![\\p{L}\\p{N}])`, 'iu');
/** Where one sentence asks two things: "is it light and can it be charged indoors?" */
const SECOND_QUESTION = new RegExp(
  `[,;]? (?:and|und|et|e|y|en|och|og|i) (?:also )?(?=(?:${alternatives('secondQuestion')}|tell (?:me|us)|let (?:me|us) know|send (?:me|us)|give (?:me|us)) )`,
);
/** "Send the paperwork": a sentence that begins with what is to be done. */
const BARE_REQUEST = phrases('bareRequest');
/** Said in short, at the end of a wish. */
const SHORT_PLEASE = new RegExp(`(?<![a-z])(?:${alternatives('shortPlease')})[ .!]*$`);
/** "Sim, pode ser" asks for nothing, though it begins as a request does. */
const SHORT_YES =
  /^(?:(?:sim|si|yes|ja|oui|tak|claro)[, ]+)?(?:pode|puede) ser\b|^(?:sim|si|yes|ja|oui|tak|claro)(?: [\p{L}']+){0,4}[.!]*$/u;
/** A sentence of one's own that begins with its verb: "Will go through it". */
const BARE_WILL =
  /^(?:will|shall) (?!you|that|this|it|there|the|be (?!in touch|back|with you|checking|[a-z]+ing|sent|paid|done|[a-z]+ed))[a-z]+/;
/** "Say the word and I'll reserve it": what is promised hangs on what is asked. */
const IN_RETURN = phrases('inReturn');
/** "Thanks for the attached quote" brings nothing. */
const OPENS_WITH_THANKS = new RegExp(`^(?:${alternatives('thanks')})`, 'u');
/** "He will bring four helmets" goes with an appointment, and is no word that is owed. */
const BRINGS_ALONG = /(?:will|'ll) bring\b|\bhow (?:we|i)(?:'ll| will)\b/;
/** More than thanks is in it: something comes, or is going to be. */
const CONTENT =
  /\b(?:(?:it|that|they|this)(?:'ll| will)|here (?:is|are)|(?:it|that|they)(?:'s|'re| is| are) (?:now |all )?(?:online|done|ready|live|on (?:its|the|their)|sorted|fixed|sent|booked|paid|signed|posted))\b|^(?:thanks|thank you)[^,.!;:]{0,40}[,.!;:-]+ ?(?:it's |they're |all |now |just )*(?:posted|shipped|sent|dispatched|ordered|booked|arranged|fixed|replaced|added|changed|updated|corrected|cancelled|refunded|transferred|reserved)\b|\b\d{1,2}[.:]\d{2}\b/;
const SUM = /[€£$]\s?\d|\d\s?(?:€|£|eur|euros?|gbp|kr|zl|each|per )|(?<!\d)\d{1,3}[.,]\d{3}(?!\d)/;
const PER_CENT = /\d ?%/;
/** "Still not received" is no receipt. */
const NEGATED =
  /(?<![\p{L}])(?:not|never|nothing|[a-z]+n't|geen|niets?|niet|kein\w*|nicht|pas|rien|non|nao|inte|ikke|nie|no (?!problem|worries|need|hurry|rush))(?![\p{L}])/u;
const OPEN_QUESTION = phrases('openQuestion');
const NEEDS = phrases('needs');
/** "We need two weeks" asks nothing of whoever reads it. */
const TO_YOU = /\byou(?:r|rs)?\b/;
/** With the answer to it the day is set. */
const ASKS_WHEN = phrases('asksWhen');
const WANTS_TO_TALK = phrases('wantsToTalk');
/** "I'd love to join!" is a yes. */
const ATTENDS =
  /(?:'d| would) (?:love|be (?:happy|glad|delighted)) to (?:join|come|attend|be there|take part)\b/;
/** Beside a question, so few words are a friendly noise: "Hello Bo, gladly!" */
const MOST_NOISE = 4;
/** "Deal?", "¿Cuándo llega?" */
const SHORT_QUESTION = 2;
/** With more words there is something else in it too. */
const [MOST_THANKS, MOST_YES, MOST_GREETING] = [14, 5, 6];

/** "Just so you know, … please …": more than news is in it. */
const STILL_ASKS =
  /\b(?:please|kindly|could you|can you|would you|keep (?:me|us))\b(?! (?:do not|don't|ignore|disregard|excuse|note)\b)/;
/** Where one sentence lists what is asked: "1) price 2) delivery date". */
const LISTED = /\s*(?<![\p{L}\p{N}])\(?\d{1,2}[.)]\s+(?=\p{L})/u;

/** "Would that suit you?": what is asked is whether they agree, and no fact. */
const PROPOSES =
  /\b(?:suits?|works? for|work for|ok(?:ay)?(?: for you| with you)?|convenient|passt|paste|convient|conviendrait|va bene|le va|schikt|agree|happy with|like)\b/;
const isOpen = (ask: string): boolean =>
  !ASKS_WHEN.test(ask) &&
  (OPEN_QUESTION.test(ask) || (!SAYS_WHEN.test(ask) && !OFFERS_TO_DO.test(ask) && !PROPOSES.test(ask)));

/** "Three now, tall box yes": more than a yes is in it. */
const COUNTED = /\d|\b(?:two|three|four|five|six|seven|eight|nine|ten|twelve)\b/;
const countWords = (text: string): number => text.split(' ').length;
const isQuestion = (said: string): boolean => said.endsWith('?');
const isPromise = (said: string): boolean =>
  !isQuestion(said) &&
  !IN_RETURN.test(said) &&
  !BRINGS_ALONG.test(said) &&
  (PROMISES.test(certain(said)) || BARE_WILL.test(said));
const isAnnounced = (said: string): boolean => WILL_ORDER.test(said) && SAYS_WHEN.test(said);
const isThanks = (said: string): boolean =>
  countWords(said) <= MOST_THANKS &&
  !CONTENT.test(said) &&
  !(BRINGS.test(said) && !OPENS_WITH_THANKS.test(said)) &&
  ((THANKS.test(said) && !NEGATED.test(said)) ||
    ENDS.test(said) ||
    OFFERS_MORE.test(said) ||
    (AGREES.test(said) && !COUNTED.test(said) && countWords(said) <= MOST_YES));

/** The sender's own lines, without the signature; a line of thanks is no signature where nothing else was written. */
function ownLines(text: string, subject: string, name: string): Line[] {
  const lines = splitLayers(text, [], subject)[0]?.lines ?? [];
  const { body } = partSignature(lines, name);
  return body.some((line) => line.text.trim()) ? body : lines;
}

/** What somebody wrote themselves in a mail: without quoted messages, and without the signature. */
export const ownWords = (text: string, subject: string, name: string): string =>
  ownLines(text, subject, name)
    .map((line) => line.text)
    .join('\n')
    .trim();

/** What is asked, one a question. */
function asksIn(sentences: readonly Sentence[], promised: ReadonlySet<string>, side: Speaker): string[] {
  const asked = readAsks(sentences, [])
    .map(({ text }) => text)
    .filter((text) => {
      const said = flat(text);
      if (DECLINES.test(said) || ATTENDS.test(said)) return false;
      return text.includes('?') || (!promised.has(text) && !isPromise(said) && !SHORT_YES.test(said));
    });
  const others = sentences
    .map(({ text }) => text.trim())
    .filter((text) => {
      const said = certain(flat(text));
      return (
        OFFERS_CHOICE.test(said) ||
        REMINDS.test(said) ||
        IN_RETURN.test(flat(text)) ||
        (NEEDS.test(said) && (side === 'theirs' || TO_YOU.test(said))) ||
        said.split(/[;:] /).some((part) => BARE_REQUEST.test(part)) ||
        (text.endsWith('?') && countWords(said) <= SHORT_QUESTION) ||
        (SHORT_PLEASE.test(said) && countWords(said) > 2)
      );
    })
    .filter((text) => !asked.includes(text) && !DECLINES.test(flat(text)));
  const each = asked.flatMap((text) => text.split(SECOND_QUESTION)).flatMap(listedIn);
  return [...each, ...others];
}

/** Two and more that are numbered are asked one by one. */
function listedIn(text: string): string[] {
  const parts = text.split(LISTED).map((part) => part.trim());
  const listed = (parts[0] === '' ? parts.slice(1) : parts).filter(Boolean);
  return listed.length > 1 ? listed : [text];
}

/**
 * Reads what somebody's own words, in a mail or a form, leave open and what they settle.
 * @param text as it was written; quoted messages, the greeting and the signature do not count
 * @param sender whose words they are, and the name in the From header, possibly empty
 */
export function readStatements(
  text: string,
  { side, name = '', subject = '' }: { side: Speaker; name?: string; subject?: string },
): Statements {
  const all = toSentences(ownLines(text, subject, name)).filter(
    (sentence) =>
      flat(sentence.text) &&
      !(GREETING.test(sentence.text) && countWords(flat(sentence.text)) < MOST_GREETING),
  );
  const said = all.map((sentence) => flat(sentence.text));
  const isClosing = (one: string): boolean =>
    OFFERS_MORE.test(one) || (ENDS.test(one) && !STILL_ASKS.test(one));
  const open = all.filter((_, at) => !isClosing(said[at] ?? ''));
  const sure = open.map((sentence) => ({ text: sentence.text, flat: certain(flat(sentence.text)) }));
  const read = readPromises(open, [], side)
    .map((promise) => promise.text)
    .filter((text) => ![REMINDS, IN_RETURN, BRINGS_ALONG].some((pattern) => pattern.test(flat(text))));
  const promised = new Set(read);
  const asks = asksIn(open, promised, side);
  const promises = [
    ...read,
    ...sure
      .filter(
        (one) =>
          (isPromise(one.flat) || isAnnounced(one.flat)) &&
          !promised.has(one.text) &&
          !REMINDS.test(one.flat),
      )
      .map((one) => one.text),
  ];
  const words = said.join(' ');
  const isAsked = (one: string): boolean =>
    isQuestion(one) || asks.some((ask) => one.includes(flat(ask)) || flat(ask).includes(one));
  const brings = said.some((one) => BRINGS.test(one));
  return {
    asks,
    requests: asks.some((ask) => REQUESTS.test(flat(ask))),
    promises,
    accepts: sure.some((one) => !isQuestion(one.flat) && !isAnnounced(one.flat) && ACCEPTS.test(one.flat)),
    declines: said.some((one) => DECLINES.test(certain(one))),
    counters: sure.some((one) => COUNTERS.test(one.flat)),
    offers: asks.filter(
      (ask) => OFFERS_TO_DO.test(flat(ask)) && !SAYS_WHEN.test(flat(ask)) && !ASKS_WHEN.test(flat(ask)),
    ),
    choices: asks.filter(
      (ask) =>
        (OFFERS_CHOICE.test(flat(ask)) &&
          (SUM.test(words) || PER_CENT.test(words) || ASKS_WHEN.test(flat(ask)))) ||
        IN_RETURN.test(flat(ask)) ||
        WANTS_TO_TALK.test(flat(ask)),
    ),
    asksBack: asks.length > 0 && !promises.length && !brings && asks.some((ask) => isOpen(flat(ask))),
    isBare: said.every((one) => isAsked(one) || isThanks(one)),
    besides: said.filter((one) => !isAsked(one) && !isThanks(one) && countWords(one) > MOST_NOISE).join(' '),
    isNotYet: side === 'theirs' && said.some((one) => NOT_YET.test(one)),
    agrees: said.some((one) => AGREES.test(one)),
    isThanks: said.length > 0 && !asks.length && !promises.length && said.every(isThanks),
    thanks: said.some((one) => THANKS.test(one) && !NEGATED.test(one)),
    ends: said.some((one) => ENDS.test(one) || OFFERS_MORE.test(one)),
    informs: said.some((one) => INFORMS.test(one)),
    reports: said.some((one) => REPORTS.test(one)),
    brings,
    bringsQuote: said.some(
      (one) => QUOTE.test(one) && !isQuestion(one) && !isPromise(one) && (brings || SUM.test(words)),
    ),
    words,
  };
}
