import PDFDocument from 'pdfkit';
import type { Client, House } from './harness';

/** A PDF with these words, a page each. */
export async function pdfSaying(...pages: string[]): Promise<Buffer> {
  const doc = new PDFDocument({ autoFirstPage: false });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const ended = new Promise((resolve) => doc.on('end', resolve));
  for (const words of pages) doc.addPage().text(words);
  doc.end();
  await ended;
  return Buffer.concat(parts);
}

/** Adds files to records and reads them again. */
export const filing = (house: House) => ({
  put: (by: Client, name: string, bytes: Buffer | string, where: Record<string, string>) =>
    by.call('POST /api/files', {
      raw: Buffer.from(bytes),
      type: 'application/octet-stream',
      query: { name, ...where },
    }),
  putVersion: (by: Client, id: string, bytes: Buffer | string, name?: string) =>
    by.call('POST /api/files/:id/versions', {
      params: { id },
      raw: Buffer.from(bytes),
      type: 'application/octet-stream',
      query: name ? { name } : {},
    }),
  files: async (by: Client, query: Record<string, string>) =>
    (await by.call('GET /api/files', { query })).body.items,
  file: async (by: Client, id: string) => (await by.call('GET /api/files/:id', { params: { id } })).body,
  contents: (): Promise<number> => house.count('file_contents'),
});
