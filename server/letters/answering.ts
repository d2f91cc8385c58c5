import type { In } from '@emporikon/contract';
import {
  forwardSubject,
  replyRecipients,
  replySubject,
  threadHeaders,
  type Recipients,
} from '@emporikon/core/outreach/replying';
import { escapeText } from '@emporikon/core/reading/html';
import { DateTime } from 'luxon';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { Capture } from '../db/models/captures';
import { invalid, notFound } from '../http/problems';
import type { Parent } from '../reading/parent';
import { letterHtml, paragraphs } from './html';

type Answers = NonNullable<In<'POST /api/letters', 'body'>['answers']>;

/** What a letter takes over from the message that it answers or hands on. */
export interface Answering extends Recipients {
  captureId: string;
  subject: string;
  html: string;
  inReplyTo: string | null;
  references: string[];
}

const MOST_QUOTED = 60_000;

const written = ({ name, address }: { name: string; address: string }): string =>
  escapeText(name && name !== address ? `${name} <${address}>` : address);

function quoteOf(parent: Parent, actor: Actor, how: Answers['how']): string {
  const sent = parent.sentAt ? DateTime.fromISO(parent.sentAt, { zone: actor.timeZone }) : null;
  const body = letterHtml(parent.html ?? paragraphs(parent.text)).slice(0, MOST_QUOTED);
  const from = parent.from ? written(parent.from) : 'somebody';
  if (how !== 'forward') {
    const when = sent?.isValid ? ` on ${sent.toFormat('ccc d LLL yyyy, HH:mm')}` : '';
    return `<p></p><p>${from} wrote${when}:</p><blockquote>${letterHtml(body)}</blockquote>`;
  }
  const head = [
    `From: ${from}`,
    ...(sent?.isValid ? [`Date: ${sent.toFormat('ccc d LLL yyyy, HH:mm')}`] : []),
    `Subject: ${escapeText(parent.subject)}`,
    `To: ${parent.to.slice(0, 20).map(written).join(', ')}`,
  ];
  return `<p></p><p>Forwarded message:</p><blockquote><p>${head.join('<br>')}</p>${letterHtml(body)}</blockquote>`;
}

/**
 * Reads the message that is answered. Outside a transaction, because it was made by somebody else.
 * @throws 404 for a message one may not see, 422 for what is no message
 */
export async function readAnswered(
  tools: Tools,
  actor: Actor,
  { captureId, how }: Answers,
): Promise<Answering> {
  const capture = await runInTransaction(tools, actor, ({ tx }) =>
    Capture.findByPk(captureId, { transaction: tx }),
  );
  if (!capture) throw notFound('There is no such message.');
  if (capture.kind !== 'email') throw invalid('Only a mail can be answered or handed on by mail.');
  const parent = await tools.readers.run('readParent', { raw: capture.raw });
  const isOurs = (address: string): boolean => address === actor.email.toLowerCase();
  const recipients =
    how === 'forward' ? { to: [], cc: [] } : replyRecipients(parent, isOurs, how === 'reply all');
  const thread =
    how === 'forward'
      ? { inReplyTo: null, references: [] }
      : threadHeaders(capture.messageId ?? null, capture.message.references);
  return {
    ...recipients,
    ...thread,
    captureId,
    subject: how === 'forward' ? forwardSubject(parent.subject) : replySubject(parent.subject),
    html: quoteOf(parent, actor, how),
  };
}
