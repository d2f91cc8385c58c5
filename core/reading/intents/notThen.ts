import type { DateTime } from 'luxon';
import { alternatives, type Kind } from '../../words/compile';
import { flatten } from './dateWords';
import type { FoundDay } from './dates';

const words = (kind: Kind): string => flatten(alternatives(kind));
const PREPOSITION = String.raw`(?:on|last|this|the|at|am|le|les|la|las|el|los|il|op|na|nas|da|pa|den|w|we)`;

/** What comes before a weekday that is over: "thank you for the call on Friday". */
const PAST =
  /\b(?:thanks?(?: you)?|danke|merci|obrigad[oa]|gracias|bedankt|grazie|met|spoke|talked|called|saw|visited|was|were|wrote|sent|received|last|since|our (?:call|talk|chat|meeting|conversation))\b[^,;]*$/;
/** The same, right before the day. */
const TOOK_PLACE = new RegExp(
  String.raw`\b(?:${words('tookPlace')})(?:\s(?:me|us|him|her|them|back|again|it|out|off|twice|once|already|earlier|late|early))?(?:\s${PREPOSITION})?\s$`,
);
/** What makes a weekday behind it a habit: "every Tuesday". */
const EACH =
  /\b(?:every|each|most|jeden|jede[nrs]?|chaque|tous les|todos os|todas as|todos los|cada|elke|iedere|ogni|varje|hver|kazdy|joka)\s(?:other\s|second\s)?$/;
/** "Absent le mercredi", "il lunedì è chiusa": with the article and no date, every one of them; not "avant le mercredi". */
const WITH_ARTICLE =
  /(?<!\b(?:avant|d'ici|des|pour|jusqu'au|entro|per|prima|dal|prossimo)\s)\b(?:le\s(?=(?:lun|mar|mercre|jeu|vendre|same)di\b|dimanche)|il\s(?=(?:lune|marte|mercole|giove|vener)di\b|sabato)|la\s(?=domenica\b))(?![a-z]+\s(?:\d|prochain|prossim|en\s(?:huit|quinze)))/g;
/** A day somebody cannot, or that was only weighed. */
const NOT_FREE =
  /\b(?:can'?t|cannot|can not|couldn'?t|won'?t|kann nicht|ne peut pas|no puede|nao pode|non puo|kan niet|kan inte|kan ikke)\s(?:do|make|come|le|el|na|on|am|op)?\s?$|,\s(?:and\s)?(?:not|nicht|pas|no|nao|non|niet|inte|ikke|nie|ne|ei)\s(?:on\s|am\s|le\s|el\s|na\s|op\s|pa\s|den\s|il\s|w\s|v\s|ve\s)?$/;
/** "Any day but Friday". */
const EXCEPT =
  /\b(?:but|except|au(?:ss|\u00df)er|sauf|excepto|exceto|menos|tranne|behalve|unntatt|undtagen|utom|oprocz)(?:\s(?:on|am|le|el|na|il|op|pa|den))?\s$/;
/** "Letzten Freitag", "venerdì scorso", "Montag angerufen": it is over. */
const LAST_BEFORE = new RegExp(String.raw`\b(?:${words('lastDay')})(?:\s${PREPOSITION})?\s$`);
const LAST_BEHIND = new RegExp(String.raw`^\s(?:${words('lastBehind')})\b`);
const SPOKEN_BEHIND =
  /^\s(?:(?:schon|bereits|nochmal|auch|al|nog|weer)\s){0,2}(?:angerufen|zuruckgerufen|telefoniert|gesprochen|getroffen|gebeld|teruggebeld|gesproken|langs\sgeweest)\b(?!\s(?:werden|wird|worden))/;
/** "On holiday next week": a day on which somebody is not there; not "back from holiday on Monday". */
const AWAY_ON = new RegExp(
  String.raw`\b(?:${words('onHoliday')})(?:\s(?:all|the|whole|die|ganze|toute|toda|tutta|hele|hela|for))*(?:\s${PREPOSITION})?\s$`,
);
const AWAY_BEHIND = new RegExp(String.raw`^\s(?:noch\s|aussi\s|todavia\s|nog\s)?(?:${words('onHoliday')})\b`);
const BACK = new RegExp(String.raw`\b(?:${words('backFrom')})\b[^,;.]{0,24}$`);
/** Until when somebody is away: of two days, the other is meant. */
const AWAY_UNTIL =
  /\b(?:off|away|out|on leave|on holiday|ill|sick|weg|verreist|krank|urlaub|absente?|en vacances|en conges|fuera|de vacaciones|fora|de ferias|in ferie|op vakantie|ziek|bortrest|pa ferie|borta)\s(?:til|till|until|bis|jusqu['\u2019](?:a|au)|hasta(?:\sel)?|ate|fino\sa|tot|tills)(?:\s(?:the|zum|le|el|den))?\s$/;
const CLOSED = words('isClosed');
const CLOSED_BEFORE = new RegExp(String.raw`\b(?:${CLOSED})(?:\s${PREPOSITION})?\s$`);
const CLOSED_BEHIND = new RegExp(
  String.raw`^\s(?:(?:is|are|ist|est|es|esta|e|er|ar|je|jest|on|is\s[a-z]+|elle\sest|il\sest)\s)?(?:${CLOSED})\b`,
);
const OWN_NAME = new RegExp(String.raw`\b(?:${words('besideDay')})\s$`);
const OF_THE_DAY = new RegExp(String.raw`^(?:\s(?:night|morning|evening))?\s(?:${words('behindDay')})\b`);
const EVERY_WEEK = new RegExp(String.raw`\b(?:${words('everyWeek')})\b`);
const ANNIVERSARY = new RegExp(String.raw`\b(?:${words('anniversary')})\b[^,;.]{0,24}$`);
/** "Monday's delivery", but "Monday's fine". */
const POSSESSIVE =
  /^['’]s\s(?!(?:fine|good|ok|okay|great|better|best|perfect|off|out|the|a|an|free|open|possible|when|my|his|her|our|too|no|not|busy|bad|full|it)\b)\p{L}/u;
/** "Monday to Friday", "Mo-Fr": hours of business, and no appointment. */
const TO_ANOTHER = /^\s?(?:-|\u2013|to|till?|til|bis|au|al|a|ate|tot(?: en met)?|t\/m|do|through|thru)\s?$/;
const MOVED_FROM =
  /\b(?:moved|changed|shifted|put back|verschoben|deplace|cambiado|mudou|spostato|verzet|flyttet|flyttad)\b/;
const AGO = /^\s(?:ago|vor|auparavant|atras)\b/;
/** What is said further away than this is said of something else; and a list of a thousand days is read in time. */
const NEAR = 120;
/** A day without a year that lies so far ahead has just been. */
const ROLLED_OVER_DAYS = 200;

/**
 * Whether a day that a sentence names is not one on which something will be: what took place then, what is so each week, when
 * somebody is never there, or a day that is part of another name.
 * @param flat the sentence as `flatten` gives it
 * @param days all the days it names
 */
export function isNotThen(flat: string, days: readonly FoundDay[], day: FoundDay, today: DateTime): boolean {
  const before = flat.slice(Math.max(0, day.start - NEAR), day.start);
  const behind = flat.slice(day.end, day.end + NEAR);
  if (AGO.test(behind)) return true;
  const isOver = day.day.diff(today, 'days').days > ROLLED_OVER_DAYS;
  const hasBeen = PAST.test(before) || TOOK_PLACE.test(before);
  if (isOver && (hasBeen || ANNIVERSARY.test(before))) return true;
  if (LAST_BEFORE.test(before) || LAST_BEHIND.test(behind) || SPOKEN_BEHIND.test(behind)) return true;
  if ((AWAY_ON.test(before) || AWAY_BEHIND.test(behind)) && !BACK.test(before)) return true;
  if (AWAY_UNTIL.test(before) && days.indexOf(day) < days.length - 1) return true;
  if (!day.byWeekday) return false;
  if (isWithArticle(flat, day)) return true;
  if (hasBeen || EACH.test(before) || NOT_FREE.test(before) || OWN_NAME.test(before)) return true;
  if (EXCEPT.test(before)) return true;
  if (CLOSED_BEFORE.test(before) || CLOSED_BEHIND.test(behind)) return true;
  if (OF_THE_DAY.test(behind) || POSSESSIVE.test(behind) || EVERY_WEEK.test(flat)) return true;
  return isOfRange(flat, days, day);
}

const isWithArticle = (flat: string, { start }: FoundDay): boolean => {
  WITH_ARTICLE.lastIndex = Math.max(0, start - 3);
  const match = WITH_ARTICLE.exec(flat);
  return match !== null && match.index + match[0].length === start;
};

function isOfRange(flat: string, days: readonly FoundDay[], day: FoundDay): boolean {
  const at = days.indexOf(day);
  const joins = (left: FoundDay | undefined, right: FoundDay | undefined): boolean =>
    left !== undefined &&
    right !== undefined &&
    right.byWeekday &&
    left.byWeekday &&
    TO_ANOTHER.test(flat.slice(left.end, right.start));
  if (joins(day, days[at + 1])) return true;
  // Of what was moved from one day to another, the other is meant.
  return joins(days[at - 1], day) && !MOVED_FROM.test(flat);
}
