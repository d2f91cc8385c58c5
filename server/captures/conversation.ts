import { createHash } from 'node:crypto';
import type { Said } from '@emporikon/core/reading/types';
import { nameOverlap } from '@emporikon/core/people/names';
import { tidy } from '@emporikon/core/people/text';
import { weightInWords } from '@emporikon/core/matching/evidence';
import { toProbability, type Verdict } from '@emporikon/core/matching/verdict';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Capture } from '../db/models/captures';
import { LedgerEntry } from '../db/models/ledger';
import { User } from '../db/models/users';
import { enter, type Concerned } from '../ledger/write';

/** A name for one message of a page's conversation, the same whenever the page is clipped. */
export function messageKey(url: string, said: Said): string {
  const page = url.replace(/[#?].*$/, '');
  const own = said.id && !/^https?:/i.test(said.id) ? said.id : (said.id ?? '');
  const mark =
    own ||
    createHash('sha256')
      .update(`${said.from}\n${said.at ?? ''}\n${tidy(said.text)}`)
      .digest('hex')
      .slice(0, 24);
  return /^https?:/i.test(mark) ? `<${mark}>` : `<${mark}@${page}>`;
}

/** Which messages of a clipped conversation stand in the ledger already. */
export async function filedMessages(context: Context, capture: Capture): Promise<Set<string>> {
  const { page } = capture.message;
  if (!page?.conversation.length) return new Set();
  const rows = await LedgerEntry.findAll({
    where: { messageId: page.conversation.map((said) => messageKey(page.url, said)) },
    attributes: ['messageId'],
    transaction: context.tx,
  });
  return new Set(rows.map((row) => row.messageId ?? ''));
}

/** With whom a conversation is, where earlier messages of it stand in somebody's ledger. */
export async function partnerOf(context: Context, capture: Capture): Promise<Verdict | null> {
  const { page } = capture.message;
  if (page?.kind !== 'messages') return null;
  const [row] = await context.sequelize.query<{ id: string; name: string }>(
    `SELECT p.id, p.full_name AS name FROM ledger_entries n JOIN ledger_links k ON k.entry_id = n.id JOIN people p ON p.id = k.person_id
      WHERE n.thread = :thread ORDER BY n.at DESC LIMIT 1`,
    { replacements: { thread: threadOf(page.url) }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row
    ? {
        kind: 'same',
        matches: [
          {
            id: row.id,
            label: row.name,
            probability: toProbability(SAME_CONVERSATION),
            reasons: [
              {
                text: 'same conversation',
                weight: weightInWords(SAME_CONVERSATION),
                bits: SAME_CONVERSATION,
              },
            ],
          },
        ],
      }
    : null;
}

const SAME_CONVERSATION = 17;
const threadOf = (url: string): string => `<${url.replace(/[#?].*$/, '')}>`;

/**
 * Writes a clipped conversation into the ledger, each message once, ours on our side.
 * @returns how many were new
 */
export async function enterConversation(
  context: Context,
  capture: Capture,
  about: Concerned,
): Promise<number> {
  const { page } = capture.message;
  if (!page) return 0;
  const ours = await User.findAll({ attributes: ['id', 'name'], transaction: context.tx });
  const known = await filedMessages(context, capture);
  let count = 0;
  for (const said of page.conversation) {
    const messageId = messageKey(page.url, said);
    if (known.has(messageId) || !said.text) continue;
    known.add(messageId);
    const at = said.at && !Number.isNaN(Date.parse(said.at)) ? new Date(said.at) : capture.receivedAt;
    const writer = ours.find((user) => nameOverlap(user.name, said.from) > 0.9);
    const isOurs = writer !== undefined;
    const text = tidy(said.text);
    await enter(
      context,
      {
        at,
        side: isOurs ? 'ours' : 'theirs',
        kind: 'mail',
        headline: text.length > 90 ? `${text.slice(0, 89)}…` : text,
        body: text.length > 90 ? text.slice(0, 280) : '',
        said: text.length > 90 ? said.text.trim() : '',
        captureId: capture.id,
        actorId: writer?.id ?? null,
        messageId,
        thread: threadOf(page.url),
      },
      about,
    );
    count++;
  }
  return count;
}
