import type { Line } from '../reading/email/layers';
import { readAsks } from '../reading/intents/asks';
import { toSentences } from '../reading/intents/sentences';
import { readPromises } from '../reading/intents/stance';
import { certain, flat, phrases } from './turnPatterns';

/** What the note of a call or a meeting says is left to be done. */
export interface NoteStatements {
  /** By whoever wrote the note: what they were asked for or wanted. */
  asks: string[];
  /** By whoever wrote the note: what they will do. */
  promises: string[];
  /** By those who were spoken with. */
  theirPromises: string[];
  accepts: boolean;
  declines: boolean;
}

const LEFT_TO_US = phrases('leftToUs');
const LEFT_TO_THEM = phrases('leftToThem');
const ACCEPTS = phrases('accepts');
const DECLINES = phrases('declines');
/** "Will send the contract", with nobody named: the writer of the note will. */
const WILL =
  /^(?:will|'ll|to) (?:also |then )?(?:send|call|ring|mail|email|quote|prepare|check|follow up|arrange|book|order|visit|write|bring|draft)\b/;
/** What was answered at once is not left. */
const ANSWERED =
  /\b(?:told|answered|explained to) (?:him|her|them)\b(?!.*\b(?:i|we)(?:'d|'ll| would| will)\b)/;

const linesOf = (text: string): Line[] => {
  let start = 0;
  return text.split('\n').map((line) => {
    const at = start;
    start += line.length + 1;
    return { text: line, start: at };
  });
};

/** Reads what the note of a call or a meeting leaves open. */
export function readNoteStatements(text: string): NoteStatements {
  const sentences = toSentences(linesOf(text));
  const said = sentences.map((sentence) => ({ text: sentence.text, flat: certain(flat(sentence.text)) }));
  const promises = readPromises(sentences, [], 'ours').flatMap((one) =>
    one.kind === 'promise'
      ? [{ text: one.text, isTheirs: one.value.by === 'theirs' && !WILL.test(flat(one.text)) }]
      : [],
  );
  const told = new Set(promises.map((one) => one.text));
  const left = said.map((one) => ({
    text: one.text,
    toThem: LEFT_TO_THEM.test(one.flat),
    willDo: WILL.test(one.flat),
    toUs: LEFT_TO_US.test(one.flat) && !ANSWERED.test(one.flat),
  }));
  return {
    asks: [
      ...readAsks(sentences, [])
        .map((ask) => ask.text)
        .filter((ask) => !told.has(ask) && !LEFT_TO_THEM.test(flat(ask)) && !DECLINES.test(flat(ask))),
      ...left.filter((one) => one.toUs && !one.toThem && !one.willDo).map((one) => one.text),
    ],
    promises: [
      ...promises.filter((one) => !one.isTheirs).map((one) => one.text),
      ...left.filter((one) => one.willDo).map((one) => one.text),
    ],
    theirPromises: [
      ...promises.filter((one) => one.isTheirs).map((one) => one.text),
      ...left.filter((one) => one.toThem).map((one) => one.text),
    ],
    accepts: said.some((one) => !one.flat.endsWith('?') && ACCEPTS.test(one.flat)),
    declines: said.some((one) => DECLINES.test(one.flat)),
  };
}
