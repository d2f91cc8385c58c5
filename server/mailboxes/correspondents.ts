import { isUnattended } from '@emporikon/core/reading/email/nature';
import { isRoleName } from '@emporikon/core/people/names';
import { localPart } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Mailbox } from '../db/models/mailboxes';
import { isNever } from './sort';

interface Correspondent {
  address: string;
  name: string;
  received: number;
  sent: number;
  first: string;
  last: string;
}

interface Row extends Omit<Correspondent, 'first' | 'last'> {
  first: Date;
  last: Date;
}

const MOST = 100;

/**
 * Who is in the mail of a mailbox and not in the records: the ones we write to first, then those with most messages.
 * Senders that nobody answers and addresses never to be filed are left out.
 * @param least how many messages there have to be
 * @param since only those whose last message is from then on
 */
export async function correspondentsOf(
  context: Context,
  mailbox: Mailbox,
  { least, since }: { least: number; since?: Date },
): Promise<Correspondent[]> {
  const rows = await context.sequelize.query<Row>(
    `SELECT m.address, max(m.name) AS name, count(DISTINCT coalesce(m.message_id, m.path || m.uid)) FILTER (WHERE NOT m.sent_by_us)::int AS received,
            count(DISTINCT coalesce(m.message_id, m.path || m.uid)) FILTER (WHERE m.sent_by_us)::int AS sent, min(m.at) AS first, max(m.at) AS last
       FROM mailbox_messages m WHERE m.mailbox_id = :id
        AND NOT EXISTS (SELECT 1 FROM contact_points k WHERE k.kind = 'email' AND k.normalized = m.address)
      GROUP BY m.address
     HAVING count(DISTINCT coalesce(m.message_id, m.path || m.uid)) >= :least AND max(m.at) >= coalesce(:since::timestamptz, '-infinity')
      ORDER BY count(*) FILTER (WHERE m.sent_by_us) > 0 DESC, count(*) DESC, max(m.at) DESC LIMIT ${MOST}`,
    {
      replacements: { id: mailbox.id, least, since: since ?? null },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows
    .filter(
      ({ address, sent }) =>
        !isNever(mailbox, address) &&
        (sent > 0 || !(isRoleName(localPart(address)) || isUnattended(address))),
    )
    .map((row) => ({ ...row, first: row.first.toISOString(), last: row.last.toISOString() }));
}
