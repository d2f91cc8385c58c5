import de from './pageTexts/de.json';
import en from './pageTexts/en.json';
import es from './pageTexts/es.json';
import fr from './pageTexts/fr.json';
import it from './pageTexts/it.json';
import nl from './pageTexts/nl.json';
import pt from './pageTexts/pt.json';

/** What the page says on which people choose what they are written to about, by language. */
const TEXTS: Readonly<Record<string, typeof en>> = { en, de, es, fr, it, nl, pt };
export type PageTexts = typeof en;
/** The languages of that page, and what each calls itself. */
export const PAGE_LANGUAGES: readonly { code: string; name: string }[] = [
  { code: 'en', name: 'English' },
  { code: 'de', name: 'Deutsch' },
  { code: 'es', name: 'Español' },
  { code: 'fr', name: 'Français' },
  { code: 'it', name: 'Italiano' },
  { code: 'nl', name: 'Nederlands' },
  { code: 'pt', name: 'Português' },
];

export const textsOf = (language: string): PageTexts => TEXTS[language] ?? en;

/** Puts values into the places of a text: `{address}`. */
export const withValues = (text: string, values: Readonly<Record<string, string>>): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole);

const MOST_RANGES = 30;

/**
 * The language of ours that a reader prefers, by what their browser says (RFC 9110, 12.5.4: ranges with weights; a range
 * matches whatever begins with it, RFC 4647, 3.3.1); null where none of theirs is ours.
 */
export function preferredLanguage(acceptLanguage: string): string | null {
  const wanted = acceptLanguage
    .split(',')
    .slice(0, MOST_RANGES)
    .map((range, position) => {
      const [tag = '', ...parameters] = range.split(';').map((part) => part.trim().toLowerCase());
      const weight = parameters.find((one) => one.startsWith('q='));
      return { code: tag.split('-')[0] ?? '', weight: weight ? Number(weight.slice(2)) || 0 : 1, position };
    })
    .filter(({ code, weight }) => weight > 0 && Object.hasOwn(TEXTS, code))
    .sort((a, b) => b.weight - a.weight || a.position - b.position);
  return wanted[0]?.code ?? null;
}

/** The language that is mostly written in a country, where it is one of ours (Unicode CLDR, territories; from memory). */
const OF_COUNTRY: Readonly<Record<string, string>> = {
  ...{ DE: 'de', AT: 'de', CH: 'de', LI: 'de', FR: 'fr', MC: 'fr', LU: 'fr', BE: 'nl', NL: 'nl', IT: 'it' },
  ...{ SM: 'it', ES: 'es', MX: 'es', AR: 'es', CL: 'es', CO: 'es', PE: 'es', UY: 'es', PT: 'pt', BR: 'pt' },
};
export const languageOfCountry = (country: string): string => OF_COUNTRY[country] ?? 'en';
