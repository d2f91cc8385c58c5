import { companyLikeness } from '../../people/companies';
import { setCase } from '../../people/names';
import { flatten, RELATIVE, weekdayOf } from '../intents/dateWords';
import { isSpokenNumber } from '../intents/numbers';
import { isFamilyName } from '../lexicon/names';
import { titleLikeness } from '../signature/words';
import type { Claim } from '../types';

const UNLIKELY = 0.4;
const PARTED = 0.7;
const PARTICLE =
  /^(?:de|da|do|dos|das|di|del|della|du|des|la|le|of|at|from|for|van|von|der|bei|chez|w|z|på|i|hos)$/i;
/** A firm that was found behind somebody's name goes on to the next mark, for so many words. */
const REST = /^[^,.;:()\n\d]{0,80}/;
const MOST_WORDS = 5;
const GOES_ON = /^\s(?:de|des|du|di|da|do|della|del|dos)\s/i;
/** "rang hester vane": words that lead up to a name, where nothing has a capital. */
const LEADS =
  /^(?:rang|called|phoned|spoke|texted|emailed|wants|needs|says|said|asked|will|would|has|is|was|hat|ruft|veut|quiere|quer|vuole|wil|vill|vil|chce)\s/;

/** "Marlow pharmacies tues 1 dec": the day that follows a firm in a line without capitals is none of its name. */
export function untilWhen(claim: Claim, note: string): Claim {
  if (claim.field !== 'companyName' || !claim.span) return claim;
  const written = note.slice(claim.span.start, claim.span.end);
  let words = written.split(/\s+/);
  // "mairie de corval huit triporteurs": where nothing has a capital, a number begins something else.
  const count = words.findIndex(
    (word, at) => (at > 0 || words.length > 2) && /^\p{Ll}/u.test(word) && isSpokenNumber(word),
  );
  if (count > 0) words = words.slice(0, count);
  while (words.length > 1 && (isWhen(words.at(-1) ?? '') || SMALL_WORD.test(words.at(-1) ?? ''))) words.pop();
  const { length } = words.join(' ');
  // Nothing in it has a capital, though the note has some.
  const isSaid = /^\p{Ll}/u.test(written) && !/[\p{Lu}\d]/u.test(written) && note !== note.toLowerCase();
  if ((isSaid && companyLikeness(written) < 1) || LEADS.test(written))
    return { ...claim, confidence: Math.min(claim.confidence, UNLIKELY) };
  return length === written.length || words.join(' ') !== written.slice(0, length)
    ? claim
    : {
        ...claim,
        value: claim.value.slice(0, length),
        span: { ...claim.span, end: claim.span.start + length },
      };
}
/** A firm ends in none of these: "partners are". */
const SMALL_WORD =
  /^(?:he|she|they|we|it|er|sie|il|elle|hun|han|hon|is|are|was|and|or|the|of|at|for|in|on|to|with|who|but|und|oder|ist|sind|für|mit|et|ou|est|pour|avec|y|es|para|con|e|é|com|per|ed|en|met|voor|och|og|är|er|med|i|z|a|je|ja|on)$/;
const isWhen = (word: string): boolean => {
  const flat = flatten(word).replace(/\.$/, '');
  return /^\p{Ll}/u.test(word) && (weekdayOf(flat) > 0 || RELATIVE[flat] !== undefined);
};

type Word = RegExpExecArray | RegExpMatchArray;
const isFirmWord = (word: string, index: number, first: number, words: readonly Word[]): boolean =>
  companyLikeness(word) > 0 &&
  titleLikeness(word) === 0 &&
  // "Flores" is a family name as well, but not the third behind "de".
  (!isFamilyName(word) || (index > first + 1 && PARTICLE.test(words[index - 1]?.[0] ?? '')));

/**
 * "directeur des opérations clinique des tilleuls", "luz ospina de flores de la sabana": what is a firm by its words is no part of
 * the title or name before it.
 */
export function partedFromFirm(claim: Claim, all: readonly Claim[], note: string): Claim[] {
  const { field, span } = claim;
  if (!span || (field !== 'fullName' && field !== 'jobTitle')) return [claim];
  const words = [...note.slice(span.start, span.end).matchAll(/\S+/g)];
  const first = field === 'fullName' ? 2 : 1;
  const at = words.findIndex(
    ([word], index) =>
      index >= first &&
      // "reuben asher asher antiques": the firm is called like its owner.
      ((field === 'fullName' && word.toLowerCase() === words[index - 1]?.[0].toLowerCase()) ||
        isFirmWord(word, index, first, words)),
  );
  // "Head of estates" is a post, whatever else is called so; "… clinique des tilleuls" goes on.
  if (at < 0 || (field === 'jobTitle' && !GOES_ON.test(note.slice(span.end)))) return [claim];
  let last = at - 1;
  while (last > 0 && PARTICLE.test(words[last]?.[0] ?? '')) last--;
  const end = span.start + (words[last]?.index ?? 0) + (words[last]?.[0].length ?? 0);
  const written = note.slice(span.start, end);
  const kept: Claim = {
    ...claim,
    value: field === 'fullName' ? setCase(written) : written,
    confidence: Math.min(claim.confidence, PARTED),
    span: { ...span, end },
  };
  if (all.some((other) => other.field === 'companyName')) return [kept];
  const start = span.start + (words[at]?.index ?? 0);
  const rest = (REST.exec(note.slice(start))?.[0] ?? '').trimEnd().split(' ').slice(0, MOST_WORDS).join(' ');
  const firm: Claim = {
    ...kept,
    field: 'companyName',
    value: setCase(rest),
    span: { ...span, start, end: start + rest.length },
  };
  return [kept, untilWhen(firm, note)];
}
