import { MOST_MINOR, minorDigits } from '../lifecycle/minorUnits';
import { readFigure } from '../reading/intents/figures';

/**
 * A sum as it was typed, in minor units of its currency: `40,000`, `40.000`, `£12.50`, `40k`. Null when nothing was typed.
 * @throws Error in words for the person, when it is no sum
 */
export function minorOf(text: string, currency: string): number | null {
  const typed = text.replace(/[^\d.,\s'km-]/gi, '').trim();
  if (!text.trim()) return null;
  const amount = readFigure(typed);
  if (amount === null || amount < 0) throw new Error(`“${text}” is not a sum.`);
  const minor = Math.round(amount * 10 ** minorDigits(currency));
  if (minor > MOST_MINOR) throw new Error(`“${text}” is too large a sum.`);
  return minor;
}
