import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { runInTransaction, type Context } from '../commands/context';
import { FormSubmission } from '../db/models/forms';
import { OutboxRow } from '../db/models/outbox';
import { conflict } from '../http/problems';
import { defineEffect, requestEffect } from '../jobs/effect';
import { defineJob } from '../jobs/job';
import { openSecret, sealSecret } from '../mailboxes/seal';
import { NotSent } from '../outside/notSent';

const Asking = z.object({ submissionId: Id, sealed: z.string() });
const DAY_MS = 86_400_000;

/** Mails the link by which somebody confirms that they agreed (double opt-in). */
export const consentEffect = defineEffect({
  name: 'mailConsent',
  lane: 'mail',
  input: Asking,
  lastsMs: 3 * DAY_MS,
  waits: { first: 15_000, longest: 3_600_000 },
  async send(tools, { submissionId, sealed }, { id }) {
    const { outside, house } = tools;
    const submission = await runInTransaction(tools, null, ({ tx }) =>
      FormSubmission.findByPk(submissionId, { transaction: tx }),
    );
    if (!submission?.email || submission.confirmedAt) throw new NotSent('nobody is left to ask', true);
    if (!outside.post) throw new NotSent('no mail server is set up');
    const link = `${house.publicUrl}/f/confirm/${openSecret(outside.sealKey, sealed)}`;
    await outside.post.send({
      id,
      to: submission.email,
      subject: 'Please confirm your address',
      text: `You asked to hear from us. Please confirm that this address is yours on this page, with the button there:\n\n${link}\n\nIf this was not you, ignore this message and we will not write to you.\n`,
    });
  },
  async settle(context, { submissionId }, { state }) {
    const submission = await FormSubmission.findByPk(submissionId, { transaction: context.tx });
    const whom = submission?.email ?? 'somebody';
    if (state === 'sent') return `Asked ${whom} to confirm the address`;
    return state === 'unsure'
      ? `May have asked ${whom} to confirm the address`
      : `Could not ask ${whom} to confirm the address`;
  },
  async prepareRepeat(context, { submissionId }) {
    const submission = await FormSubmission.findByPk(submissionId, { transaction: context.tx });
    if (!submission?.email || submission.confirmedAt) throw conflict('This address is confirmed already.');
  },
});

/** Asks for the mail with the link, once the submission is kept. */
export const requestConsent = (context: Context, submissionId: string, token: string): Promise<void> =>
  requestEffect(
    context,
    consentEffect,
    { submissionId, sealed: sealSecret(context.outside.sealKey, token) },
    { table: 'form_submissions', id: submissionId },
  );

/** What asked for the mail before there was an outbox; such jobs may wait over an upgrade. */
export const askConsentJob = defineJob({
  name: 'askConsent',
  lane: 'mail',
  input: Asking,
  run: (tools, asking) =>
    runInTransaction(tools, null, async (context) => {
      const about = { aboutTable: 'form_submissions', aboutId: asking.submissionId };
      if (await OutboxRow.count({ where: about, transaction: context.tx })) return;
      await requestEffect(context, consentEffect, asking, {
        table: 'form_submissions',
        id: asking.submissionId,
      });
      await context.write.event('ask consent', 'Asked for the mail that confirms an address', null);
    }),
});
