import * as chrono from 'chrono-node';
import { DateTime, FixedOffsetZone } from 'luxon';
import type { Intent } from '../types';
import type { Sentence } from './sentences';

type Reader = Pick<chrono.Chrono, 'parse'>;

const LANGUAGES: readonly [RegExp, Reader][] = [
  [/\b(?:und|nicht|wir|bitte|können|uhr|montag|dienstag|mittwoch|donnerstag|freitag)\b/iu, chrono.de.casual],
  [/\b(?:nous|vous|pouvez|merci|lundi|mardi|mercredi|jeudi|vendredi)\b/iu, chrono.fr.casual],
  [/\b(?:obrigad[oa]|podem?|não|segunda|terça|quarta|quinta|sexta|amanhã)\b/iu, chrono.pt.casual],
  [/\b(?:gracias|puede|lunes|martes|miércoles|jueves|viernes|mañana)\b/iu, chrono.es.casual],
  [/\b(?:graag|kunt|maandag|dinsdag|woensdag|donderdag|vrijdag|morgen)\b/iu, chrono.nl.casual],
];
const TRIGGER =
  /\d|\b(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?\b|tomorrow|today|tonight|next|this (?:week|month|afternoon|morning)|end of|jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec|\bin (?:a|one|two|three|four|five|six|ten|a few)\b|montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag|morgen|heute|nächst|woche|lundi|mardi|mercredi|jeudi|vendredi|samedi|demain|prochain|segunda|terça|quarta|quinta|sexta|amanhã|lunes|martes|miércoles|jueves|viernes|mañana|maandag|dinsdag|woensdag|donderdag|vrijdag|volgende/iu;

/** What comes before a weekday that is over: "thank you for the call on Friday". */
const PAST =
  /\b(?:thanks?(?: you)?|danke|merci|obrigad[oa]|gracias|bedankt|met|spoke|talked|called|saw|visited|was|were|wrote|sent|received|last|since|our (?:call|talk|chat|meeting|conversation))\b[^,;]*$/iu;

/** A point in time as a person said it. `at` carries the offset it was said in; all-day times stand at local midnight. */
export interface Moment {
  at: string;
  allDay: boolean;
  text: string;
  start: number;
  end: number;
}

/** The reader for a stretch of text: English, and the language its words belong to besides. */
export function readersFor(text: string): Reader[] {
  const other = LANGUAGES.map(([pattern, reader]) => ({
    reader,
    hits: text.slice(0, 4000).match(new RegExp(pattern, 'giu'))?.length ?? 0,
  }))
    .filter((one) => one.hits >= 1)
    .sort((a, b) => b.hits - a.hits)[0];
  return other && other.hits >= 2
    ? [other.reader, chrono.en.casual]
    : other
      ? [chrono.en.casual, other.reader]
      : [chrono.en.casual];
}

/**
 * Finds the dates and times in one sentence (chrono-node), resolved forward from `reference` in its own offset.
 * @param text one sentence
 * @param reference ISO 8601 with offset: the moment and the clock of whoever speaks
 * @param zone IANA name, when the speaker's zone is known and summer time may lie between
 */
export function findMoments(
  text: string,
  reference: string,
  readers: readonly Reader[] = [chrono.en.casual],
  zone?: string,
): Moment[] {
  if (!TRIGGER.test(text)) return [];
  const now = DateTime.fromISO(reference, zone ? { zone } : { setZone: true });
  if (!now.isValid) return [];
  for (const reader of readers) {
    const found = reader
      .parse(text, { instant: now.toJSDate(), timezone: now.offset }, { forwardDate: true })
      .map((result) => toMoment(result, now, text, zone))
      .filter((moment): moment is Moment => moment !== null);
    if (found.length) return found;
  }
  return [];
}

function toMoment(result: chrono.ParsedResult, now: DateTime, text: string, named?: string): Moment | null {
  const { start } = result;
  const dated = start.isCertain('day') || start.isCertain('weekday') || start.isCertain('month');
  const timed = start.isCertain('hour');
  if (!dated && !timed) return null;
  if (/^(?:now|\d{1,4}|may|march|sat|sun|mar|second)$/i.test(result.text.trim())) return null;
  if (!start.isCertain('day') && PAST.test(text.slice(0, result.index))) return null;
  const stated = start.isCertain('timezoneOffset') ? start.get('timezoneOffset') : null;
  const zone =
    stated !== null ? FixedOffsetZone.instance(stated) : (named ?? FixedOffsetZone.instance(now.offset));
  let at = DateTime.fromObject(
    {
      year: start.get('year') ?? now.year,
      month: start.get('month') ?? now.month,
      day: start.get('day') ?? now.day,
      hour: timed ? (start.get('hour') ?? 0) : 0,
      minute: timed ? (start.get('minute') ?? 0) : 0,
    },
    { zone },
  );
  if (timed && !start.isCertain('meridiem') && at.hour > 0 && at.hour < 7) at = at.plus({ hours: 12 });
  if (
    !at.isValid ||
    at.toMillis() < now.startOf('day').toMillis() ||
    at.toMillis() > now.plus({ years: 5 }).toMillis()
  )
    return null;
  return {
    at: at.toISO({ suppressMilliseconds: true }) ?? '',
    allDay: !timed,
    text: result.text,
    start: result.index,
    end: result.index + result.text.length,
  };
}

/** The dates and times a sentence names, as intents. */
export function readWhen(sentence: Sentence, reference: string, readers: readonly Reader[]): Intent[] {
  return findMoments(sentence.text, reference, readers).map((moment) => ({
    kind: 'when',
    text: moment.text,
    value: { at: moment.at, allDay: moment.allDay },
    confidence: 0.9,
    span: { part: 'text', start: sentence.at(moment.start), end: sentence.at(moment.end - 1) + 1 },
  }));
}
