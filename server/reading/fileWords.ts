import { decodeText } from '@emporikon/core/formats/encoding';
import { fold } from '@emporikon/core/people/text';
import { isReadablePdf } from './pdfSize';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** Of a long document the beginning is found, of a text so much is shown. */
const MOST_WORDS = 200_000;
const MOST_PAGES = 300;

/** The words of a PDF, page by page. */
async function wordsOfPdf(raw: Uint8Array): Promise<string> {
  if (!isReadablePdf(raw)) return '';
  // The package takes the bytes for itself.
  const task = getDocument({
    data: new Uint8Array(raw),
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    verbosity: 0,
  });
  try {
    const document = await task.promise;
    const pages: string[] = [];
    let length = 0;
    for (let number = 1; number <= Math.min(document.numPages, MOST_PAGES) && length < MOST_WORDS; number++) {
      const page = await document.getPage(number);
      const { items } = await page.getTextContent();
      const text = items.map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : '') : '')).join('');
      pages.push(text);
      length += text.length;
      page.cleanup();
    }
    return pages.join('\n\n');
  } finally {
    await task.destroy();
  }
}

/**
 * The words of a text or a PDF, for finding it and looking at it.
 * @returns the words as they are, and folded for the search; empty for what has none or cannot be read
 */
export async function readFileWords({
  raw,
  preview,
}: {
  raw: Uint8Array;
  preview: string | null;
}): Promise<{ words: string; folded: string }> {
  const words = await (preview === 'pdf'
    ? wordsOfPdf(raw).catch(() => '')
    : preview === 'text'
      ? decodeText(raw).text
      : '');
  // PostgreSQL keeps no NUL, and no half of a pair.
  const kept = words
    .slice(0, MOST_WORDS)
    .replace(/\0/g, '')
    .replace(/[\ud800-\udfff]/gu, '');
  return { words: kept, folded: fold(kept) };
}
