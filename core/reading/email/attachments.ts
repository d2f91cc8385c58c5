import PostalMime from 'postal-mime';
import { boundHeaders } from './headers';

export interface Attachment {
  name: string;
  mediaType: string;
  content: Uint8Array;
  /** A part of the message itself, such as a picture in its text. */
  isInline: boolean;
}

const MOST = 100;

/** The attachments of a raw message, whole, in the order in which `MessageView.attachments` lists them. Never throws. */
export async function attachmentsOf(raw: Uint8Array): Promise<Attachment[]> {
  try {
    const { attachments } = await PostalMime.parse(boundHeaders(raw).bytes, {
      maxNestingDepth: 60,
      forceRfc822Attachments: true,
    } as object);
    return attachments.slice(0, MOST).map((attachment) => ({
      name: attachment.filename ?? 'unnamed',
      mediaType: attachment.mimeType,
      isInline: attachment.disposition === 'inline' || attachment.related === true,
      content:
        typeof attachment.content === 'string'
          ? new TextEncoder().encode(attachment.content)
          : new Uint8Array(attachment.content),
    }));
  } catch {
    return [];
  }
}
