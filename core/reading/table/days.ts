export type DateHabit = 'day first' | 'month first' | 'year first' | null;

const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');

/** From the Gregorian calendar on, and as far as anybody plans. */
export const [FIRST_DAY, LAST_DAY] = ['1583-01-01', '2999-12-31'] as const;

/**
 * Whether there is such a day, in a year that anybody means. The 30th of February is read as the 1st of March: what does
 * not come back as it went in is none.
 */
export function isCalendarDay(iso: string): boolean {
  const there = new Date(`${iso}T00:00:00Z`);
  return (
    !Number.isNaN(there.getTime()) &&
    there.toISOString().startsWith(iso) &&
    iso >= FIRST_DAY &&
    iso <= LAST_DAY
  );
}

/** A day as a table writes it, in ISO 8601; null when it is none. */
export function readDay(text: string, habit: DateHabit): string | null {
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(text.trim());
  const other = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(text.trim());
  const worded = /^(\d{1,2})\.?[\s-]([a-z]{3})[a-z]*\.?[\s-](\d{4})$/i.exec(text.trim());
  let parts: [string, number, number] | null = null;
  if (iso) parts = [iso[1] ?? '', Number(iso[2]), Number(iso[3])];
  else if (worded)
    parts = [worded[3] ?? '', MONTHS.indexOf((worded[2] ?? '').toLowerCase()) + 1, Number(worded[1])];
  else if (other) {
    const [a, b] = [Number(other[1]), Number(other[2])];
    const isMonthFirst = habit === 'month first' ? b > 12 || a <= 12 : b > 12 && a <= 12;
    const year = other[3] ?? '';
    const full = year.length === 2 ? `${Number(year) > 30 ? '19' : '20'}${year}` : year;
    parts = isMonthFirst ? [full, a, b] : [full, b, a];
  }
  if (!parts) return null;
  const day = `${parts[0]}-${String(parts[1]).padStart(2, '0')}-${String(parts[2]).padStart(2, '0')}`;
  return isCalendarDay(day) ? day : null;
}
