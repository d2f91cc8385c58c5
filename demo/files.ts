import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { addFile, addFileVersion } from '@emporikon/server/files/add';
import { contentOf } from '@emporikon/server/files/contents';
import PDFDocument from 'pdfkit';

/** A page of words as a PDF. */
async function pdfOf(title: string, lines: readonly string[]): Promise<Buffer> {
  const doc = new PDFDocument({ margin: 64, info: { CreationDate: new Date(0) } });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const ended = new Promise((resolve) => doc.on('end', resolve));
  doc.fontSize(20).text(title).moveDown();
  for (const line of lines) doc.fontSize(11).text(line).moveDown(0.5);
  doc.end();
  await ended;
  return Buffer.concat(parts);
}

/** What was agreed on paper with a person: a plan in two versions, and what their routes ask for. */
export async function loadFiles(
  at: (hoursAgo: number) => Tools,
  actorOf: (name: string) => Actor,
  personId: string,
): Promise<void> {
  const by = <Result>(
    hoursAgo: number,
    name: string,
    command: (context: Context) => Promise<Result>,
  ): Promise<Result> => runInTransaction(at(hoursAgo), actorOf(name), command);
  const plan = (bikes: string): Promise<Buffer> =>
    pdfOf('Fleet plan', [
      `${bikes} long bikes with a cold box of 180 litres each.`,
      'Delivery to Quay 4 in two lots, the first within six weeks of the order.',
      'A service visit every quarter; a bike in repair is replaced on the same day.',
      'Drivers are trained on site on the day of delivery.',
    ]);
  const first = await plan('Six');
  const { id } = await by(120, 'Pell Garrick', (context) =>
    addFile(context, contentOf('Fleet plan.pdf', first), { personId }),
  );
  const second = await plan('Eight');
  await by(46, 'Ines Tolland', (context) => addFileVersion(context, id, contentOf('Fleet plan.pdf', second)));
  const routes = 'Route,Stops,Kilometres,Cold\nBaixa,14,11,yes\nGraça,9,8,yes\nBelém,17,19,no\n';
  await by(70, 'Pell Garrick', (context) =>
    addFile(context, contentOf('Routes and stops.csv', Buffer.from(routes)), { personId }),
  );
}
