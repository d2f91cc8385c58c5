import type { Reach } from '@emporikon/core/outreach/consent';
import type { Report } from '@emporikon/core/outreach/report';
import { Op } from 'sequelize';
import type { Arrival } from '../captures/arrivals';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { noteReach } from '../consent/reach';
import { personOfAddress, withdrawAll } from '../consent/statements';
import { Letter, LetterRecipient } from '../db/models/letters';

/** The Message-ID of a letter of ours. */
export const isLetterId = (messageId: string | null): boolean =>
  /^<letter\.[0-9a-f-]{36}@/.test(messageId ?? '');

/** Senders of delivery reports and complaints, in mailboxes whose other strangers are left alone. */
export const isMailSystem = (address: string): boolean =>
  /^(?:mailer[._-]?daemon|postmaster|mail[._-]?delivery|abuse|complaints?|fbl|feedback)(?:[+._-].*)?@/i.test(
    address,
  );

/** Which letters it can be about. */
async function lettersOf(context: Context, about: readonly string[]): Promise<Letter[]> {
  const ids = about.filter(isLetterId);
  return ids.length
    ? Letter.findAll({ where: { messageId: { [Op.in]: ids }, state: 'sent' }, transaction: context.tx })
    : [];
}

type Told = Partial<Pick<LetterRecipient, 'state' | 'status' | 'words' | 'awayUntil'>>;

/** What a report says of one recipient; null where it says nothing of them. */
function toldOf(report: Report, row: LetterRecipient, isOnly: boolean): Told | null {
  const address = row.address.toLowerCase();
  if (report.kind === 'away')
    return report.from === address && report.until ? { awayUntil: report.until } : null;
  if (report.kind === 'complaint')
    return report.address === address || (report.address === null && isOnly) ? { state: 'complaint' } : null;
  const found = report.addresses.find((one) => one.address === address);
  if (!found) return null;
  // A server on the way says "delivered" of what its next one refuses; and a warning says nothing of what is known by now.
  const isLess = found.state === 'delivered' || found.state === 'delayed';
  if (isLess && row.state !== 'sent' && row.state !== 'delayed') return null;
  return { state: found.state, status: found.status, words: found.words };
}

const REACH: Readonly<Record<string, Reach>> = { full: 'full', gone: 'gone', delivered: 'good' };

/** What a report means beyond its letter: whether the address works, and that whoever complains wants no mail. */
async function noteConsequence(
  context: Context,
  letter: Letter,
  { address, personId }: LetterRecipient,
  { state, words = '' }: Told,
): Promise<void> {
  const reach = REACH[state ?? ''];
  if (reach) await noteReach(context, address, reach, words);
  if (state !== 'complaint') return;
  const whose = personId ?? (await personOfAddress(context, address));
  if (whose)
    await withdrawAll(context, whose, {
      how: 'complaint',
      words: 'reported as unwanted mail',
      source: letter.subject,
      address,
    });
}

async function note(context: Context, report: Report): Promise<boolean> {
  const letters = await lettersOf(context, report.about);
  let isNoted = false;
  for (const letter of letters) {
    const rows = await LetterRecipient.findAll({
      where: { letterId: letter.id },
      transaction: context.tx,
      lock: true,
    });
    for (const row of rows) {
      const told = toldOf(report, row, rows.length === 1);
      if (!told) continue;
      isNoted = true;
      await context.write.update(row, { ...told, toldAt: context.now() });
      await noteConsequence(context, letter, row, told);
    }
  }
  if (isNoted)
    await context.write.event(
      'note delivery',
      `Heard what became of “${letters[0]?.subject.slice(0, 60) ?? ''}”`,
      null,
    );
  return isNoted;
}

/**
 * Notes on a letter of ours what came back of it: that it was delivered or not, a complaint, an absence. A report counts only
 * with the Message-ID of the letter, and only for addresses that the letter went to.
 * @returns whether nothing of the message is left for Arrivals; an automatic reply is a message of theirs as well
 */
export async function takeReport(tools: Tools, { raw, reading }: Arrival): Promise<boolean> {
  if (reading.kind !== 'email' || !reading.message.nature) return false;
  const report = await tools.readers.run('readReport', { raw });
  if (!report?.about.some(isLetterId)) return false;
  const isNoted = await runInTransaction(tools, null, (context) => note(context, report));
  return isNoted && report.kind !== 'away';
}
