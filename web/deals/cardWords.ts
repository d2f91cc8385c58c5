import type { DealRow } from '@emporikon/contract/deals';
import { counted, plainNumber } from '../shell/format';

const TURNS = { ours: 'our turn', theirs: 'their turn', nobody: '' } as const;

/** The line below the title on a deal's card: what is most worth knowing of it, in a few words. */
export function cardWords(
  { days, nextMove, news, turn }: Pick<DealRow, 'days' | 'nextMove' | 'news' | 'turn'>,
  { isOpen, isLate }: { isOpen: boolean; isLate: boolean },
): string {
  if (!isOpen) return '';
  // What a colleague said on why they changed it stands there until it is read.
  if (news?.sentence) return `“${news.sentence}”`;
  if (!nextMove) return 'no next move';
  return [
    ...(isLate ? [counted(days, 'day')] : []),
    TURNS[turn.turn],
    ...(news ? [`${plainNumber(news.count)} new`] : []),
  ]
    .filter(Boolean)
    .join(', ');
}

/** A chance as it is typed: "60", "60 %"; null for none. @throws for what is no whole number from 0 to 100 */
export function percentOf(text: string): number | null {
  if (!text) return null;
  const percent = Number(text.replace('%', '').replace(',', '.').trim());
  if (!Number.isInteger(percent) || percent < 0 || percent > 100)
    throw new Error('A chance is a whole number from 0 to 100.');
  return percent;
}
