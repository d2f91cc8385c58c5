import type { SheetPart, SheetReading } from '@emporikon/core/ledger/callSheet';

export interface LitStretch {
  text: string;
  part: SheetPart | '';
}

/** The note cut where its parts begin and end; of two that overlap the one that begins first is shown. */
export function cutLit(text: string, lit: SheetReading['lit']): LitStretch[] {
  const pieces: LitStretch[] = [];
  let from = 0;
  for (const { start, end, part } of lit) {
    if (start < from || end > text.length) continue;
    pieces.push({ text: text.slice(from, start), part: '' }, { text: text.slice(start, end), part });
    from = end;
  }
  return [...pieces, { text: text.slice(from), part: '' }];
}
