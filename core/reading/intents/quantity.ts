import type { Intent } from '../types';
import { NUMBER_WORDS, readNumber } from './numbers';
import type { Sentence } from './sentences';

const GOODS =
  /^(?:e-?)?(?:cargo|long|e|electric|delivery|box|courier|rear|front|cold|service|charging|spare|rain)?-?(?:bikes?|cycles?|bicycles?|trikes?|trailers?|box(?:es)?|plans?|batter(?:y|ies)|vans?|units?|pieces?|sets?|helmets?|chargers?|racks?|locks?|crates?|covers?|licen[cs]es?|seats?|vehicles?|lastenr[äa]d(?:er|ern)?|r[äa]d(?:er|ern)?|fahrr[äa]der|anh[äa]nger|stück|v[ée]los?|remorques?|bicicletas?|atrelados?|remolques?|bakfietsen|bakfiets|fietsen|aanhangers?|biciclette|rimorchi|cyklar|cykler|lådcyklar|ladcykler)$/iu;
const NOT_GOODS =
  /^(?:o'?clock|am|pm|a\.m|p\.m|uhr|h|hours?|hrs?|minutes?|mins?|days?|weeks?|months?|years?|times?|percent|per|people|persons?|of|or|and|to|in|at|on|by|for|from|with|more|less|other|things?|questions?|points?|options?|words?|km|kilometres?|miles?|kg|m|cm|euros?|pounds|dollars|eur|gbp|usd|chf|k|thousand|million|tage?n?|wochen?|monaten?|monate|jahren?|jahre|stunden?|jours?|semaines?|mois|ans|dias?|semanas?|meses|anos?|años?|dagen|weken|maanden|jaar|st|nd|rd|th|way|staff|employees|colleagues|stops?|streets?|floors?|january|february|march|april|may|june|july|august|september|october|november|december)$/iu;
const WANT =
  /\b(?:need|want|would like|like|order|buy|looking for|interested in|quote|offer|price|get|take|lease|rent|hire|require|replace|brauchen|benötigen|suchen|möchten|angebot|souhait\w+|cherch\w+|devis|besoin|precis\w+|quer\w+|gostar\w+|necesit\w+|busc\w+|zoek\w+|nodig|graag|offerte|vorremmo|cerchiamo)\b/iu;
const PATTERN = new RegExp(
  `(?<![\\p{L}\\d.,:€£$+/-])(?<count>half a dozen|(?:a )?(?:dozen|couple of|pair of)|\\d{1,5}|\\b(?:${NUMBER_WORDS})(?:-(?:${NUMBER_WORDS}))?)\\s*(?:x\\s+)?(?<of>[\\p{L}][\\p{L}'-]*(?: [\\p{L}][\\p{L}'-]*){0,3})`,
  'giu',
);

/** Counts of things wanted or had: "eight long bikes", "12 trailers". Times, dates, sums and distances are not. */
export function readQuantities(sentence: Sentence): Intent[] {
  const intents: Intent[] = [];
  const wanted = WANT.test(sentence.text);
  for (const match of sentence.text.matchAll(PATTERN)) {
    const { count = '', of = '' } = match.groups ?? {};
    const number = readNumber(count);
    const words = of.split(' ');
    if (number === null || number < 1 || NOT_GOODS.test(words[0] ?? '')) continue;
    const head = words.findLastIndex((word) => GOODS.test(word));
    const stop = words.findIndex((word) => NOT_GOODS.test(word));
    let length = head + 1;
    if (head < 0) {
      const plural = words
        .slice(0, stop < 0 ? words.length : stop)
        .findIndex((word) => /s$/.test(word) && word.length > 3);
      if (!wanted || plural < 0 || plural > 2) continue;
      length = plural + 1;
    } else if (stop >= 0 && stop < head) continue;
    const noun = words.slice(0, length).join(' ');
    const end = match.index + match[0].length - of.length + noun.length;
    intents.push({
      kind: 'quantity',
      text: sentence.text.slice(match.index, end),
      value: { count: number, of: noun },
      confidence: head >= 0 ? (wanted ? 0.92 : 0.8) : 0.6,
      span: { part: 'text', start: sentence.at(match.index), end: sentence.at(end - 1) + 1 },
    });
  }
  return intents;
}
