import { Id } from '@emporikon/contract/common';
import { listHeaders } from '@emporikon/core/outreach/listHeaders';
import { languageOfCountry, textsOf, withValues } from '@emporikon/core/outreach/pageTexts';
import { Op } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context } from '../commands/context';
import { Purpose } from '../db/models/consent';
import { Person } from '../db/models/people';
import { conflict } from '../http/problems';
import { defineEffect, requestEffect } from '../jobs/effect';
import { NotSent } from '../outside/notSent';
import { calledIn } from './choices';
import { homeCountry } from './language';
import { signLink } from './links';

const Asking = z.object({ personId: Id, address: z.string(), purposeIds: z.array(Id) });
const DAY_MS = 86_400_000;

/** Mails somebody the link to their page, in their language, and what they are asked to confirm there. */
export const linkMail = defineEffect({
  name: 'mailConsentLink',
  lane: 'mail',
  input: Asking,
  lastsMs: 3 * DAY_MS,
  waits: { first: 15_000, longest: 3_600_000 },
  async send(tools, { personId, address, purposeIds }, { id }) {
    const { outside, house } = tools;
    if (!outside.post) throw new NotSent('no mail server is set up');
    const mail = await runInTransaction(tools, null, async (context) => {
      const person = await Person.findOne({
        where: { id: personId, erasedAt: null },
        transaction: context.tx,
      });
      if (!person) return null;
      const language = languageOfCountry(await homeCountry(context, personId));
      const purposes = await Purpose.findAll({
        where: { id: { [Op.in]: purposeIds }, retiredAt: null },
        order: ['position'],
        transaction: context.tx,
      });
      const token = await signLink(context, { personId, purposeId: null, topicId: null });
      return { language, token, asked: purposes.map((purpose) => calledIn(purpose, language).name) };
    });
    if (!mail) throw new NotSent('nobody is left to write to', true);
    const texts = textsOf(mail.language);
    const page = `${house.publicUrl}/u/${mail.token}`;
    const asked = mail.asked.length ? withValues(texts.mailAsk, { what: mail.asked.join(', ') }) : '';
    await outside.post.send({
      id,
      to: address,
      subject: texts.mailSubject,
      text: [texts.mailWords, page, asked, texts.mailIgnore].filter(Boolean).join('\n\n') + '\n',
      headers: listHeaders(page, null, mail.token),
    });
  },
  settle: (_context, { address }, { state }) =>
    Promise.resolve(
      state === 'sent'
        ? `Mailed ${address} the page on which they choose`
        : `Could not mail ${address} the page on which they choose`,
    ),
  async prepareRepeat(context, { personId }) {
    if (!(await Person.count({ where: { id: personId, erasedAt: null }, transaction: context.tx })))
      throw conflict('There is nobody to write to any more.');
  },
});

export const requestLinkMail = (context: Context, asking: z.infer<typeof Asking>): Promise<void> =>
  requestEffect(context, linkMail, asking, { table: 'people', id: asking.personId });
