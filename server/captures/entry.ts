import { ownWords } from '@emporikon/core/ledger/statements';
import { headingOf } from '@emporikon/core/reading/heading';
import type { Context } from '../commands/context';
import type { Capture } from '../db/models/captures';
import { LedgerEntry, type LedgerKind } from '../db/models/ledger';
import { User } from '../db/models/users';
import { enter, linkEntry, type Concerned } from '../ledger/write';
import { enterConversation } from './conversation';

const KINDS: Record<Capture['kind'], LedgerKind> = {
  email: 'mail',
  text: 'note',
  page: 'note',
  call: 'call',
  form: 'form',
  card: 'note',
  row: 'note',
};

/** So much of what was said stands in the ledger itself; the capture keeps all of it. */
const MOST_KEPT = 20_000;

const headlineOf = (capture: Capture): string => {
  const { subject } = headingOf(capture.kind, capture.message);
  if (capture.kind === 'page') return `Seen on the page “${subject}”`;
  if (capture.kind === 'form') return `Filled in “${subject}”`;
  if (capture.kind === 'card') return 'Came in as a card';
  return subject;
};

/** Which colleague wrote a message of ours: by their address, else by the mailbox it was found in. */
async function ourWriter(context: Context, { message, cameBy }: Capture): Promise<string | null> {
  const email = message.from?.address.toLowerCase() ?? '';
  const user = await User.findOne({ where: { email }, transaction: context.tx });
  return user?.id ?? (cameBy === 'mailbox' ? (context.actor?.id ?? null) : null);
}

/** The Message-ID an entry is found by. Another message that carries the same one is found by its capture alone. */
async function freeMessageId(context: Context, { kind, messageId }: Capture): Promise<string | null> {
  if (kind !== 'email' || !messageId) return null;
  const other = await LedgerEntry.findOne({ where: { messageId }, transaction: context.tx });
  return other ? null : messageId;
}

/**
 * One entry in the ledger of everybody a capture concerns; for a clipped conversation one for each message. A message
 * that stands there already, because a colleague got it too, is linked and not doubled.
 */
export async function enterLedger(context: Context, capture: Capture, about: Concerned): Promise<void> {
  const { message } = capture;
  if (message.page?.kind === 'messages') {
    await enterConversation(context, capture, about);
    return;
  }
  const known = await LedgerEntry.findOne({ where: { captureId: capture.id }, transaction: context.tx });
  if (known) {
    await linkEntry(context, known.id, about);
    return;
  }
  const messageId = await freeMessageId(context, capture);
  const isTold = message.side === 'theirs' || capture.kind !== 'email';
  const facts =
    capture.kind === 'email'
      ? {
          text: message.text,
          subject: message.subject,
          from: message.from ? `${message.from.name} <${message.from.address}>` : '',
          nature: message.nature ?? null,
        }
      : undefined;
  const within = capture.kind === 'page' || capture.kind === 'card' || capture.kind === 'row';
  await enter(
    context,
    {
      at: message.sentAt ? new Date(message.sentAt) : capture.receivedAt,
      side: within ? 'within' : isTold ? (capture.kind === 'call' ? message.side : 'theirs') : 'ours',
      kind: KINDS[capture.kind],
      headline: headlineOf(capture),
      body: capture.kind === 'page' ? '' : (message.digest || message.said).slice(0, 280),
      said: within
        ? ''
        : ownWords(message.text, message.subject, message.from?.name ?? '').slice(0, MOST_KEPT),
      captureId: capture.id,
      actorId: within ? (context.actor?.id ?? null) : isTold ? null : await ourWriter(context, capture),
      messageId,
      thread: capture.thread ?? null,
    },
    about,
    facts,
  );
}
