import { letterText } from '@emporikon/core/outreach/plainText';
import MailComposer from 'nodemailer/lib/mail-composer';
import { letterHtml, splitQuote, wholeHtml } from './html';

interface Named {
  name: string;
  address: string;
}

/** A letter with all that it goes out with. */
export interface Sealed {
  messageId: string;
  from: Named;
  to: readonly Named[];
  cc: readonly Named[];
  /** They get it, and its header does not name them. */
  bcc: readonly Named[];
  subject: string;
  html: string;
  inReplyTo: string | null;
  references: readonly string[];
  date: Date;
  signature: { html: string; picture: Buffer | null; pictureType: string | null };
  files: readonly { name: string; content: Buffer }[];
  /** The HTML that mail programs show, where it is not what was written: with links by way of ours, and the mark of an open. */
  shown?: { html: string; mark: string };
}

type Written = Pick<Sealed, 'html' | 'signature'>;
const pictureName = (type: string): string => `picture.${type.replace('image/', '').replace('jpeg', 'jpg')}`;

/** The plain text of a letter: its own words, what stands below it behind the line of RFC 3676 §4.3, then what it quotes. */
export function plainText({ html, signature }: Written): string {
  const [own, quoted] = splitQuote(html);
  const below = letterText(signature.html);
  return [letterText(own), below ? `-- \n${below}` : '', letterText(quoted)].filter(Boolean).join('\n\n');
}

/** What a reader sees, without the picture, which is not a part of it. */
export function shownHtml({ html, signature }: Written): string {
  const [own, quoted] = splitQuote(html);
  return `${own}${letterHtml(signature.html)}${quoted}`;
}

/** The message of a letter (RFC 5322): the same bytes whenever it is composed, so that a second try is the same message. */
export async function compose(letter: Sealed): Promise<Buffer> {
  const { messageId, signature, from, to, cc, subject, inReplyTo, references, date, files } = letter;
  const id = messageId.replace(/[<>]/g, '');
  const picture =
    signature.picture && signature.pictureType
      ? [
          {
            cid: `picture.${id}`,
            filename: pictureName(signature.pictureType),
            contentType: signature.pictureType,
            contentDisposition: 'inline' as const,
            content: signature.picture,
          },
        ]
      : [];
  const node = new MailComposer({
    messageId,
    from,
    to: [...to],
    cc: [...cc],
    subject,
    date,
    ...(inReplyTo ? { inReplyTo } : {}),
    ...(references.length ? { references: [...references] } : {}),
    text: plainText(letter),
    html: wholeHtml(
      letter.shown?.html ?? letter.html,
      { html: signature.html, pictureId: picture[0]?.cid ?? null },
      letter.shown?.mark,
    ),
    attachments: [...picture, ...files.map(({ name, content }) => ({ filename: name, content }))],
    baseBoundary: id.replace(/[^A-Za-z0-9]/g, '').slice(0, 40),
    disableFileAccess: true,
    disableUrlAccess: true,
  }).compile();
  return node.build();
}
