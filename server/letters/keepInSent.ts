import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import { Capture } from '../db/models/captures';
import { Mailbox } from '../db/models/mailboxes';
import { defineEffect } from '../jobs/effect';
import { accountOf } from '../mailboxes/read';
import { appendSent } from '../outside/imap';
import { NotSent } from '../outside/notSent';

const Copy = z.object({ mailboxId: Id, captureId: Id });

/** Puts what was sent into the Sent folder of its writer. It holds the message already where the server keeps copies itself. */
export const keepInSent = defineEffect({
  name: 'keepInSent',
  lane: 'mail',
  input: Copy,
  lastsMs: 86_400_000,
  waits: { first: 15_000, longest: 1_800_000 },
  async send(tools, { mailboxId, captureId }) {
    const found = await runInTransaction(tools, null, async ({ tx }) => {
      const mailbox = await Mailbox.findByPk(mailboxId, { transaction: tx });
      const capture = await Capture.findByPk(captureId, { transaction: tx });
      return mailbox && capture ? { mailbox, capture } : null;
    });
    if (!found) throw new NotSent('the mailbox or the letter is gone', true);
    const { raw, messageId, receivedAt } = found.capture;
    await appendSent(accountOf(tools, found.mailbox), tools.outside.door, {
      raw,
      messageId: messageId ?? null,
      at: receivedAt,
    });
    return {};
  },
  settle: (_context, _input, outcome) =>
    Promise.resolve(
      outcome.state === 'sent' ? 'Kept a letter in the Sent folder' : 'A letter is not in the Sent folder',
    ),
  prepareRepeat: () => Promise.resolve(),
});
