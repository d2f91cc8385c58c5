import { voteCountries } from '../signature/countries';
import { numbersIn } from '../signature/pieces';
import type { Outline } from './outline';

/** So much of a page is enough to say where it is from. */
const ENOUGH = 6000;
/** What the language of a page is worth beside what is written on it; a region is said, a language only hints at one. */
const [SAYS_REGION, HINTS] = [8, 5];

/** The region of a language tag, by the platform's own data (Unicode CLDR, likely subtags): `ja` is spoken in Japan. */
function regionOf(language: string): string | null {
  try {
    return new Intl.Locale(language).maximize().region ?? null;
  } catch {
    return null;
  }
}

/**
 * Where the numbers of a page are likely from, likeliest first: by its language, the addresses, legal forms and numbers on it.
 * @param country where whoever reads it is
 */
export function countriesOfPage(
  text: string,
  { language }: Outline,
  host: string | null,
  country: string | undefined,
): string[] {
  const shown = text.slice(0, ENOUGH);
  const votes = new Map(voteCountries(shown, numbersIn(shown), host, shown, null));
  const region = language ? regionOf(language) : null;
  if (region && !/^en$/i.test(language))
    votes.set(region, (votes.get(region) ?? 0) + (/-\p{Lu}/iu.test(language) ? SAYS_REGION : HINTS));
  const ranked = [...votes].sort((a, b) => b[1] - a[1]).map(([one]) => one);
  return [...new Set([...ranked, ...(country ? [country] : []), 'GB'])];
}
