import { INK, LEFT, MADDER, Paper, SOFT } from '../paper/paper';
import type { Summary } from './read';

/** Where the words of a sheet end; below stands who printed it and when. */
const BOTTOM = 770;
const [MARK, END] = [86, 120];
const HALF = 2;

/** As much of some words as fits into so many lines. */
function cut(paper: Paper, words: string, width: number, size: number, lines: number): string {
  const most = lines * size * 1.5;
  // Our type has no arrows.
  const plain = words
    .replace(/\s*→\s*/g, ' to ')
    .replace(/\s+/g, ' ')
    .trim();
  if (paper.heightOf(plain, { width, size }) <= most) return plain;
  let [low, high] = [0, plain.length];
  while (low < high) {
    const middle = Math.ceil((low + high) / HALF);
    if (paper.heightOf(`${plain.slice(0, middle)} …`, { width, size }) <= most) low = middle;
    else high = middle - 1;
  }
  return `${plain.slice(0, low).trimEnd()} …`;
}

/** Facts in two columns, a caption above each value. */
function facts(paper: Paper, all: Summary['facts']): void {
  const width = (paper.right - LEFT - 24) / HALF;
  for (let at = 0; at < all.length && paper.y < BOTTOM / HALF; at += HALF) {
    const top = paper.y;
    const ends = all.slice(at, at + HALF).map(([label, value], column) => {
      const x = LEFT + column * (width + 24);
      paper.y = top;
      paper.y = paper.write(label, { x, width, size: 7.5, colour: SOFT });
      return paper.write(cut(paper, value, width, 9.5, 3), { x, width });
    });
    paper.y = Math.max(...ends) + 5;
  }
}

function line(paper: Paper, { mark, words, below, end }: Summary['sections'][number]['lines'][number]): void {
  const top = paper.y;
  const [x, width] = [LEFT + MARK, paper.right - LEFT - MARK - END];
  const ends = [
    paper.write(cut(paper, mark, MARK - 8, 8.5, 2), { width: MARK - 8, size: 8.5, colour: SOFT }),
    end
      ? paper.write(cut(paper, end, END - 8, 8.5, 2), {
          x: paper.right - END + 8,
          width: END - 8,
          size: 8.5,
          colour: SOFT,
          align: 'right',
        })
      : top,
  ];
  paper.y = paper.write(cut(paper, words, width, 9.5, 2), { x, width, face: below ? 'strong' : 'text' });
  if (below) paper.y = paper.write(cut(paper, below, width, 9, 2), { x, width, size: 9 });
  paper.y = Math.max(paper.y, ...ends) + 4;
}

/** How high a line of a section can be, at most. */
const LINE = 64;

/**
 * One record on one sheet, PDF on A4: what does not fit is cut, and how much more there is is said.
 * @param printed who printed it, and when, for the foot
 */
export async function printSummary(
  summary: Summary,
  printed: { by: string; day: string; at: Date },
): Promise<Buffer> {
  const paper = new Paper({ title: summary.title, author: printed.by, at: printed.at });
  const whole = paper.right - LEFT;
  paper.y = paper.write(cut(paper, summary.title, whole, 19, 2), { face: 'head', size: 19 }) + 2;
  for (const words of summary.under.filter(Boolean))
    paper.y = paper.write(cut(paper, words, whole, 10, 2), { size: 10, colour: SOFT });
  paper.y += 8;
  paper.rule(INK, 1);
  paper.y += 10;
  facts(paper, summary.facts);
  for (const { title, lines, none } of summary.sections) {
    if (paper.y + LINE > BOTTOM) break;
    paper.y += 8;
    paper.y = paper.write(title, { face: 'head', size: 12, colour: MADDER }) + 2;
    paper.rule();
    paper.y += 5;
    if (!lines.length) paper.y = paper.write(none, { colour: SOFT, size: 9 }) + 2;
    for (const [at, one] of lines.entries()) {
      if (paper.y + LINE > BOTTOM) {
        paper.y = paper.write(`and ${lines.length - at} more`, { size: 8.5, colour: SOFT });
        break;
      }
      line(paper, one);
    }
  }
  paper.doc.page.margins.bottom = 0;
  paper.y = paper.doc.page.height - 44;
  paper.write(`${printed.by}, ${printed.day}`, { size: 8, colour: SOFT });
  return paper.end();
}
