/** What stands behind a figure that is so many times as much. */
export const SCALE: Record<string, number> = {
  k: 1e3,
  tsd: 1e3,
  thousand: 1e3,
  mil: 1e3,
  mille: 1e3,
  tausend: 1e3,
  duizend: 1e3,
  mila: 1e3,
  tys: 1e3,
  tis: 1e3,
  tusen: 1e3,
  tusind: 1e3,
  tuhatta: 1e3,
  lakh: 1e5,
  lakhs: 1e5,
  lac: 1e5,
  lacs: 1e5,
  m: 1e6,
  mio: 1e6,
  mn: 1e6,
  mln: 1e6,
  million: 1e6,
  crore: 1e7,
  crores: 1e7,
};
/** The same as alternatives of a pattern, longest first; a full stop may stand behind the short ones. */
export const SCALE_WORDS = Object.keys(SCALE)
  .sort((a, b) => b.length - a.length)
  .join('|');
const FIGURE = new RegExp(`^(\\d[\\d., ]*\\d|\\d)(?:[.,]-|,–)?\\s*(?:(${SCALE_WORDS})\\.?)?$`);

/**
 * Reads figures as people write them: `40,000`, `40.000`, `40 000`, `12.500,50`, `1,250.5`, `40k`.
 * A lone separator before exactly three digits groups thousands; before one or two it is the decimal sign.
 * @returns the number, or null when the text is none
 */
export function readFigure(text: string): number | null {
  const clean = plainFigure(text);
  const match = FIGURE.exec(clean);
  if (!match?.[1]) return null;
  const written = match[1].replace(/ /g, '');
  const lastComma = written.lastIndexOf(',');
  const lastDot = written.lastIndexOf('.');
  const decimalAt = Math.max(lastComma, lastDot);
  const both = lastComma >= 0 && lastDot >= 0;
  const digitsAfter = written.length - decimalAt - 1;
  const sign = written[decimalAt] ?? '';
  const isDecimal = decimalAt >= 0 && (both || (written.split(sign).length === 2 && digitsAfter !== 3));
  const plain = isDecimal
    ? `${written.slice(0, decimalAt).replace(/[.,]/g, '')}.${written.slice(decimalAt + 1)}`
    : written.replace(/[.,]/g, '');
  const value = Number(plain) * (SCALE[match[2] ?? ''] ?? 1);
  return Number.isFinite(value) ? value : null;
}

/** Lower case, with spaces for all that may stand between thousands. */
export const plainFigure = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .replace(/[\u00a0\u202f']/g, ' ');
