const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg(?:e|A|iOS)?\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\/|FxiOS\//, 'Firefox'],
  [/Chrom(?:e|ium)\/|CriOS\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/iPhone|iPad/, 'iOS'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X|Macintosh/, 'macOS'],
  [/Linux|X11/, 'Linux'],
];
const firstOf = (names: typeof BROWSERS, said: string): string | undefined =>
  names.find(([pattern]) => pattern.test(said))?.[1];

/** What a browser says it is, in words (common practice; what it says may be wrong). */
export function deviceOf(said: string): string {
  const [browser, system] = [firstOf(BROWSERS, said), firstOf(SYSTEMS, said)];
  if (browser && system) return `${browser} on ${system}`;
  return browser ?? system ?? (said ? said.split(/[\s/]/)[0] : undefined) ?? 'Unknown device';
}
