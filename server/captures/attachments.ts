import type { Attachment } from '@emporikon/core/reading/email/attachments';
import { requireActor, runInTransaction, type Actor, type Tools } from '../commands/context';
import { Capture } from '../db/models/captures';
import { notFound } from '../http/problems';

/** Types a browser may be told as they are; anything else is bytes to be saved. */
const HARMLESS = new Set([
  'application/pdf',
  'image/png',
  'image/jpeg',
  'image/gif',
  'image/webp',
  'text/plain',
  'text/csv',
  'text/calendar',
  'text/vcard',
  'application/zip',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
]);

export const safeType = (mediaType: string): string =>
  HARMLESS.has(mediaType.toLowerCase()) ? mediaType.toLowerCase() : 'application/octet-stream';

/** A file name that names a file and nothing else: no path, no control characters, no leading dot, at most 120 characters. */
export function safeName(name: string, position: number): string {
  const base = name.normalize('NFC').split(/[/\\]/).at(-1) ?? '';
  const clean = base
    .replace(/[\p{Cc}\p{Cf}\u2028\u2029<>:"|?*]/gu, '')
    .replace(/^[.\s]+|[.\s]+$/g, '')
    .slice(0, 120);
  const reserved = /^(?:con|prn|aux|nul|com\d|lpt\d)(?:\.|$)/i.test(clean);
  return clean && !reserved ? clean : `attachment-${position + 1}`;
}

/** RFC 6266: the name for every reader, and as it is for those who know UTF-8. */
export const disposition = (name: string): string =>
  `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\%]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, (char) => `%${char.charCodeAt(0).toString(16).toUpperCase()}`)}`;

/** A capture with its bytes. @throws 404 where there is none that the actor may see */
export async function loadOriginal(tools: Tools, actor: Actor | null, id: string): Promise<Capture> {
  const capture = await runInTransaction(tools, requireActor({ actor }), ({ tx }) =>
    Capture.findByPk(id, { transaction: tx }),
  );
  if (!capture) throw notFound('There is no such capture.');
  return capture;
}

/** One attachment of a captured message. @throws 404 */
export async function loadAttachment(
  tools: Tools,
  actor: Actor | null,
  captureId: string,
  position: number,
): Promise<Attachment> {
  const capture = await loadOriginal(tools, actor, captureId);
  const found =
    capture.kind === 'email'
      ? await tools.readers.run('readAttachment', { raw: capture.raw, position })
      : null;
  if (!found) throw notFound('There is no such attachment.');
  return found;
}
