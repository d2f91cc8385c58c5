import { Op } from 'sequelize';
import { perform, type Tools } from '../commands/context';
import { findLookAlikes } from '../lookalikes/run';
import { askConsent } from '../forms/submit';
import { previewImport } from '../imports/preview';
import { runImport } from '../imports/run';
import { undoImport } from '../imports/undo';
import { Import } from '../db/models/imports';
import { Mailbox } from '../db/models/mailboxes';
import { bringAlong, readMailbox } from '../mailboxes/read';
import { lookUpNew } from '../lookups/automatic';
import { workRun } from '../lookups/runs';
import { bringBack, scoreTouched } from '../qualifying/jobs';
import { scoreLeads } from '../qualifying/score';
import { trainWinChance } from '../qualifying/train';
import { addJob, type JobHandlers } from './queue';

/** What an import says when its job fails for good reason; the queue tries again by itself where it may help. */
async function orSay(id: string, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    const trouble = error instanceof Error ? error.message.slice(0, 300) : String(error);
    await Import.update({ trouble }, { where: { id } });
    throw error;
  }
}

/** What each job of the queue does. */
export const jobHandlers = (tools: Tools): JobHandlers => ({
  previewImport: ({ id }) => orSay(id, () => previewImport(tools, id)),
  runImport: ({ id }) => orSay(id, () => runImport(tools, id)),
  undoImport: ({ id }) => orSay(id, () => undoImport(tools, id)),
  readMailbox: ({ id }) => readMailbox(tools, id),
  readMailboxes: async () => {
    const mailboxes = await Mailbox.findAll({ attributes: ['id'], where: { state: { [Op.ne]: 'refused' } } });
    await perform(tools, null, async (context) => {
      for (const { id } of mailboxes) await addJob(context, 'readMailbox', { id }, `mailbox:${id}`);
    });
  },
  bringAlong: ({ mailboxId, address, personId }) => bringAlong(tools, mailboxId, address, personId),
  findLookAlikes: ({ kind }) => findLookAlikes(tools, kind),
  findAllLookAlikes: async () => {
    await findLookAlikes(tools, 'company');
    await findLookAlikes(tools, 'person');
  },
  lookUpNew: ({ personId }) => lookUpNew(tools, personId),
  runLookUps: ({ id }) => workRun(tools, id),
  scoreLeads: (input) => scoreTouched(tools, input),
  scoreAllLeads: () => perform(tools, null, (context) => scoreLeads(context)),
  trainWinChance: () => trainWinChance(tools),
  bringBackParked: () => bringBack(tools),
  askConsent: ({ submissionId, sealed }) => askConsent(tools, submissionId, sealed),
});
