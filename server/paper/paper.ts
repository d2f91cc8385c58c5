import { createRequire } from 'node:module';
import type PdfDocument from 'pdfkit';

const require = createRequire(import.meta.url);
/** Loaded with the first document: most processes never print one, and it takes 29 MB. */
const pdfkit = (): typeof PdfDocument => require('pdfkit') as typeof PdfDocument;
const font = (family: 'literata' | 'commissioner', file: string): string =>
  require.resolve(`@expo-google-fonts/${family}/${file}`);
const FONTS = {
  head: font('literata', '500Medium/Literata_500Medium.ttf'),
  text: font('commissioner', '400Regular/Commissioner_400Regular.ttf'),
  strong: font('commissioner', '600SemiBold/Commissioner_600SemiBold.ttf'),
};
export type Face = keyof typeof FONTS;
export const INK = '#23201B';
export const SOFT = '#6A6256';
export const RULE = '#DACFBB';
export const MADDER = '#8A2D3B';
/** The margins at the sides, in points. */
export const LEFT = 56;

export interface Writing {
  x?: number;
  width?: number;
  size?: number;
  face?: Face;
  colour?: string;
  align?: 'left' | 'right';
}

/** A printed document in our type, A4, written from top to bottom. */
export class Paper {
  readonly doc: PDFKit.PDFDocument;
  y = 56;

  constructor(info: { title: string; author: string; at: Date }) {
    this.doc = new (pdfkit())({
      size: 'A4',
      margins: { top: 56, bottom: 64, left: LEFT, right: LEFT },
      bufferPages: true,
      info: { Title: info.title, Author: info.author, CreationDate: info.at },
    });
    for (const [name, file] of Object.entries(FONTS)) this.doc.registerFont(name, file);
  }

  get right(): number {
    return this.doc.page.width - LEFT;
  }

  rule(colour = RULE, width = 0.75): void {
    this.doc.moveTo(LEFT, this.y).lineTo(this.right, this.y).lineWidth(width).strokeColor(colour).stroke();
  }

  /** @returns where the words end */
  write(
    words: string,
    {
      x = LEFT,
      width = this.right - LEFT,
      size = 9.5,
      face = 'text',
      colour = INK,
      align = 'left',
    }: Writing = {},
  ): number {
    this.doc.font(face).fontSize(size).fillColor(colour);
    this.doc.text(words, x, this.y, { width, align, lineGap: 1.5 });
    return this.doc.y;
  }

  /** How high words would stand, in points. */
  heightOf(words: string, { width = this.right - LEFT, size = 9.5, face = 'text' }: Writing = {}): number {
    return this.doc.font(face).fontSize(size).heightOfString(words, { width, lineGap: 1.5 });
  }

  /** The document as a file. */
  end(): Promise<Buffer> {
    const parts: Buffer[] = [];
    const done = new Promise<Buffer>((resolve, reject) => {
      this.doc.on('data', (part: Buffer) => parts.push(part));
      this.doc.on('end', () => resolve(Buffer.concat(parts)));
      this.doc.on('error', reject);
    });
    this.doc.end();
    return done;
  }
}
