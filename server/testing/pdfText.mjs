// Prints the text of a PDF that comes in, a JSON string for each page.
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

const parts = [];
for await (const part of process.stdin) parts.push(part);
const document = await getDocument({ data: new Uint8Array(Buffer.concat(parts)), verbosity: 0 }).promise;
const pages = [];
for (let at = 1; at <= document.numPages; at++) {
  const { items } = await (await document.getPage(at)).getTextContent();
  pages.push(
    items
      .map((item) => item.str ?? '')
      .join(' ')
      .replace(/\s+/g, ' '),
  );
}
process.stdout.write(JSON.stringify(pages));
