import de from './de.json';
import en from './en.json';
import es from './es.json';
import fr from './fr.json';
import iberian from './iberian.json';
import it from './it.json';
import more from './more.json';
import nl from './nl.json';
import nordic from './nordic.json';
import pt from './pt.json';
import scripts from './scripts.json';

/** What the words are of; a language has only the kinds in which it adds to the others. */
export type Kind =
  | keyof typeof en
  | keyof typeof de
  | keyof typeof es
  | keyof typeof fr
  | keyof typeof it
  | keyof typeof iberian
  | keyof typeof nl
  | keyof typeof nordic
  | keyof typeof pt
  | keyof typeof more
  | keyof typeof scripts;

const LANGUAGES: readonly Partial<Record<Kind, readonly string[]>>[] = [
  en,
  de,
  fr,
  es,
  pt,
  iberian,
  nl,
  it,
  nordic,
  more,
  scripts,
];

/** The words of a kind in all the languages we read. */
export const wordsOf = (kind: Kind): string[] => LANGUAGES.flatMap((words) => words[kind] ?? []);

/** The same as the alternatives of a pattern; the words may themselves be parts of patterns. */
export const alternatives = (kind: Kind): string => wordsOf(kind).join('|');
