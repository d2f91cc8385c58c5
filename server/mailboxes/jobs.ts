import { Id } from '@emporikon/contract/common';
import { Op } from 'sequelize';
import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import { Mailbox } from '../db/models/mailboxes';
import { addJob, defineJob } from '../jobs/job';
import { bringAlong, readMailbox } from './read';

export const readJob = defineJob({
  name: 'readMailbox',
  lane: 'outside',
  input: z.object({ id: Id }),
  run: (tools, { id }) => readMailbox(tools, id),
});

export const readAllJob = defineJob({
  name: 'readMailboxes',
  lane: 'short',
  input: z.unknown(),
  cron: '*/2 * * * *',
  async run(tools) {
    const mailboxes = await Mailbox.findAll({ attributes: ['id'], where: { state: { [Op.ne]: 'refused' } } });
    await runInTransaction(tools, null, async (context) => {
      for (const { id } of mailboxes) await addJob(context, readJob, { id }, `mailbox:${id}`);
    });
  },
});

export const bringAlongJob = defineJob({
  name: 'bringAlong',
  lane: 'outside',
  input: z.object({ mailboxId: Id, address: z.string(), personId: Id }),
  run: (tools, { mailboxId, address, personId }) => bringAlong(tools, mailboxId, address, personId),
});
