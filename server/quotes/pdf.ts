import { decimalOf, minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import type { QuoteContent, QuoteLine } from '@emporikon/core/lifecycle/quotes';
import { INK, LEFT, MADDER, Paper, SOFT, type Face } from '../paper/paper';

const PERIODS = { once: '', month: 'a month', year: 'a year' } as const;

/** Columns of the table of lines: where each begins and how wide it is, in points. */
const COLUMNS = {
  name: [LEFT, 210],
  quantity: [272, 46],
  unit: [322, 76],
  less: [402, 40],
  tax: [446, 34],
  net: [484, 56],
} as const;
type Column = keyof typeof COLUMNS;

export interface QuotePrint {
  number: string;
  issuedOn: string;
  validUntil: string;
  content: QuoteContent;
}

const sum = (minor: number, currency: string): string => {
  const digits = minorDigits(currency);
  return new Intl.NumberFormat('en-GB', {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  }).format(Number(decimalOf(minor, currency)));
};
const day = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  }).format(new Date(`${iso}T00:00:00Z`));

/** The words under a line's name: its code, and how it recurs. */
function under(line: QuoteLine): string {
  const recurs =
    line.charged === 'once'
      ? ''
      : `${PERIODS[line.charged]}, for ${line.periods} ${line.charged}${line.periods === 1 ? '' : 's'}`;
  return [line.code, recurs].filter(Boolean).join(' · ');
}

class Page extends Paper {
  constructor(private readonly quote: QuotePrint) {
    super({
      title: `Quote ${quote.number}`,
      author: quote.content.issuer.split('\n')[0] ?? '',
      at: new Date(`${quote.issuedOn}T00:00:00Z`),
    });
  }

  cell(column: Column, words: string, face: Face = 'text', colour = INK): number {
    const [x, width] = COLUMNS[column];
    return this.write(words, { x, width, face, colour, align: column === 'name' ? 'left' : 'right' });
  }

  /** Begins a new page where so much does not fit any more. */
  room(height: number, again: () => void = () => undefined): void {
    if (this.y + height < this.doc.page.height - 72) return;
    this.doc.addPage();
    this.y = 56;
    again();
  }

  heads(): void {
    const { currency } = this.quote.content;
    for (const [column, words] of [
      ['name', 'What'],
      ['quantity', 'Quantity'],
      ['unit', `Each, ${currency}`],
      ['less', 'Less'],
      ['tax', 'Tax'],
      ['net', 'Net'],
    ] as const) {
      const [x, width] = COLUMNS[column];
      this.write(words, { x, width, size: 8, colour: SOFT, align: column === 'name' ? 'left' : 'right' });
    }
    this.y += 14;
    this.rule();
    this.y += 5;
  }
}

function head(page: Page, { number, issuedOn, validUntil, content }: QuotePrint): void {
  const [firm = '', ...address] = content.issuer.split('\n');
  page.y = 56;
  page.write(firm || 'Quote', { face: 'head', size: 17, width: 280 });
  page.write(`Quote ${number}`, {
    face: 'head',
    size: 13,
    colour: MADDER,
    x: 330,
    width: page.right - 330,
    align: 'right',
  });
  page.y += 24;
  const left = address.length
    ? page.write(address.join('\n'), { size: 8.5, colour: SOFT, width: 260 })
    : page.y;
  const right = page.write(`${day(issuedOn)}\nvalid until ${day(validUntil)}\n${content.from}`, {
    size: 9,
    x: 330,
    width: page.right - 330,
    align: 'right',
  });
  page.y = Math.max(left, right) + 12;
  page.rule(INK, 1);
  page.y += 14;
  page.y = page.write([content.attention, ...content.to].filter(Boolean).join('\n'), { size: 10.5 }) + 14;
  page.y = page.write(content.title, { face: 'head', size: 13 }) + 10;
}

function lines(page: Page, { content }: QuotePrint): void {
  page.heads();
  for (const line of content.lines) {
    const { doc } = page;
    doc.font('text').fontSize(9.5);
    const height = doc.heightOfString(line.name, { width: COLUMNS.name[1] }) + (under(line) ? 12 : 0) + 8;
    page.room(height, () => page.heads());
    const top = page.y;
    page.cell('quantity', line.quantity);
    page.cell('unit', sum(line.unitMinor, content.currency));
    page.cell('less', Number(line.discountPercent) ? `${line.discountPercent}%` : '', 'text', SOFT);
    page.cell('tax', `${line.taxPercent}%`, 'text', SOFT);
    page.cell('net', sum(line.netMinor, content.currency), 'strong');
    page.y = page.cell('name', line.name);
    if (under(line)) page.y = page.write(under(line), { size: 8, colour: SOFT, width: COLUMNS.name[1] });
    page.y = Math.max(page.y, top + 14) + 4;
    page.rule();
    page.y += 5;
  }
}

function totals(page: Page, { content }: QuotePrint): void {
  const rows: [string, number, boolean][] = [
    ['Net', content.netMinor, false],
    ...content.taxes.map((tax): [string, number, boolean] => [
      `Tax ${tax.percent}% on ${sum(tax.netMinor, content.currency)}`,
      tax.taxMinor,
      false,
    ]),
    [`Total, ${content.currency}`, content.grossMinor, true],
  ];
  page.room(rows.length * 16 + 20);
  page.y += 4;
  for (const [words, minor, isTotal] of rows) {
    const face = isTotal ? 'strong' : 'text';
    const size = isTotal ? 11 : 9.5;
    page.write(words, { x: 300, width: 150, face, size, align: 'right' });
    page.write(sum(minor, content.currency), { x: 455, width: page.right - 455, face, size, align: 'right' });
    page.y += isTotal ? 20 : 15;
  }
  if (!content.terms) return;
  page.doc.font('text').fontSize(9);
  page.room(Math.min(300, page.doc.heightOfString(content.terms, { width: page.right - LEFT }) + 20));
  page.y += 8;
  page.write(content.terms, { size: 9, colour: SOFT });
}

function feet(page: Page, { number }: QuotePrint): void {
  const { count } = page.doc.bufferedPageRange();
  for (let at = 0; at < count; at++) {
    page.doc.switchToPage(at);
    page.doc.page.margins.bottom = 0;
    page.y = page.doc.page.height - 44;
    page.write(number, { size: 8, colour: SOFT, width: 200 });
    page.write(`page ${at + 1} of ${count}`, {
      size: 8,
      colour: SOFT,
      x: page.right - 200,
      width: 200,
      align: 'right',
    });
  }
}

/** A quote as a printable document, PDF on A4. The same quote always prints the same. */
export async function printQuote(quote: QuotePrint): Promise<Buffer> {
  const page = new Page(quote);
  head(page, quote);
  lines(page, quote);
  totals(page, quote);
  feet(page, quote);
  return page.end();
}
