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
  /^promised (?!us\b|me\b)|^(?:will|'ll|to) (?:also |then )?(?:send|call|ring|mail|email|quote|prepare|check|follow up|arrange|book|order|visit|write|bring|draft)\b/;
/** "Still have to send them the sheet": nobody is named, and so it is for whoever writes the note. */
const OWE =
  /^(?:still |we |i |also )*(?:have|need|got|must|should)(?: still)?(?: to)? (?:get back|come back|reply|answer|send|call|ring|write|mail|email|check|find out|ask|prepare|quote|book|bring|tell|give|let|try)\b/;
/** "We'll draw up a plan" */
const WE_WILL =
  /^(?:we|i)(?:'ll| will|'re to| are to|'m to| am to) (?!be |see |meet |talk |speak |stay |stick |need )[a-z]+/;
/** What was talked about is not left where they have something to do. */
const ASKED_ABOUT = /\basked about\b/;
/** "I fit them next Tuesday": what is done on a day to come. */
const ANNOUNCED =
  /^(?:i|we) (?!was|were|had|did|spoke|met|saw|said|told|have|am|are|got|left)[a-z]+(?<!ed) .*\b(?:next|tomorrow|tonight|later|on (?:mon|tues|wednes|thurs|fri)day)\b/;
/** "Get back to them": whoever has to is not they. */
const TO_THEM = /\b(?:to|tell|send|call|ring|ask|give|let|show|mail|email) (?:them|him|her)\b/;
const THEY = /^(?:s?he|they)\b/;
/** Whether what is left is for those who were spoken with. */
const isTheirs = (said: string): boolean =>
  LEFT_TO_THEM.test(said) && !WILL.test(said) && !OWE.test(said) && (!TO_THEM.test(said) || THEY.test(said));
/** "She presents it to the owners, needs slides from us": each has something to do. */
const FROM_US = /\bfrom (?:me|us)\b/;
/** What was answered at once is not left. */
const ANSWERED =
  /^(?:called|rang|phoned|came by|dropped by) (?:just |only )?to (?:say|thank|tell|let|report|praise)\b|\b(?:told|answered|explained to|informed) (?!us\b|me\b)[a-z]+\b(?!.*\b(?:i|we)(?:'d|'ll| would| will)\b)/;

/** Where somebody else becomes the subject: "we prepare the contract, Tom checks the insurance". */
const NEXT_SUBJECT =
  /[,;](?= (?:and |but )?(?:we|i|I(?! (?:said|promised|told))|s?he|they|\p{Lu}\p{Ll}+)(?:'(?:ll|m|re|d|s))? )|,? but (?=\S)/u;

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
  const sentences = toSentences(linesOf(text)).flatMap((sentence) =>
    sentence.text.split(NEXT_SUBJECT).map((clause) => ({ ...sentence, text: clause.trim() })),
  );
  const said = sentences.map((sentence) => ({ text: sentence.text, flat: certain(flat(sentence.text)) }));
  const promises = readPromises(sentences, [], 'ours').flatMap((one) =>
    one.kind === 'promise'
      ? [
          {
            text: one.text,
            isTheirs:
              one.value.by === 'theirs' &&
              !WILL.test(flat(one.text)) &&
              !(TO_THEM.test(flat(one.text)) && !THEY.test(flat(one.text))),
          },
        ]
      : [],
  );
  const told = new Set(promises.map((one) => one.text));
  const left = said.map((one) => ({
    text: one.text,
    toThem: isTheirs(one.flat),
    willDo: [WILL, WE_WILL, ANNOUNCED].some((pattern) => pattern.test(one.flat)),
    fromUs: FROM_US.test(one.flat),
    toUs: (LEFT_TO_US.test(one.flat) || OWE.test(one.flat)) && !ANSWERED.test(one.flat),
  }));
  const theirPromises = [
    ...promises.filter((one) => one.isTheirs).map((one) => one.text),
    ...left.filter((one) => one.toThem).map((one) => one.text),
  ];
  return {
    asks: [
      ...readAsks(sentences, [])
        .map((ask) => ask.text)
        .filter(
          (ask) =>
            !told.has(ask) && !isTheirs(flat(ask)) && !DECLINES.test(flat(ask)) && !ANSWERED.test(flat(ask)),
        ),
      ...left.filter((one) => one.toUs && (!one.toThem || one.fromUs) && !one.willDo).map((one) => one.text),
    ].filter((ask) => !theirPromises.length || !ASKED_ABOUT.test(flat(ask))),
    promises: [
      ...promises.filter((one) => !one.isTheirs).map((one) => one.text),
      ...left.filter((one) => one.willDo).map((one) => one.text),
    ],
    theirPromises,
    accepts: said.some((one) => !one.flat.endsWith('?') && ACCEPTS.test(one.flat)),
    declines: said.some((one) => DECLINES.test(one.flat)),
  };
}
