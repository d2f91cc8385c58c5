import { safeName } from '../captures/attachments';
import { requireActor } from '../commands/context';
import { contentOf } from '../files/contents';
import { early, type Handlers } from '../http/mount';
import { invalid, signedOut } from '../http/problems';
import { readAnswered } from './answering';
import { plainText, shownHtml } from './compose';
import { newKey, putKey, removeKey, showDomains } from './domains';
import { attachFile, beginLetter, changeLetter, detachFile, discardLetter, useTemplate } from './draft';
import { mergeFields } from './merge';
import {
  putPicture,
  putSignature,
  putSubmission,
  removePicture,
  removeSubmission,
  showSignature,
  showSubmission,
  tryServer,
} from './mine';
import { letterView, listLetters, ownLetter } from './read';
import { sendLetter, takeBack } from './send';
import { addTemplate, changeTemplate, deleteTemplate, listTemplates, tryTemplate } from './templates';
import { letterTimes } from './times';

const bytesOf = (body: unknown): Buffer => {
  if (!Buffer.isBuffer(body) || !body.length) throw invalid('This file is empty. Nothing was saved.');
  return body;
};

export const letterHandlers: Handlers = {
  'GET /api/letters': async ({ query, context }) => listLetters(context, query),
  'POST /api/letters': early(async ({ body, actor, tools, perform }) => {
    if (!actor) throw signedOut('Sign in first.');
    const answering = body.answers ? await readAnswered(tools, actor, body.answers) : null;
    return perform((context) => beginLetter(context, body, answering));
  }),
  'GET /api/letters/:id': async ({ params, context }) =>
    letterView(context, await ownLetter(context, params.id)),
  'PATCH /api/letters/:id': async ({ params, body, context }) => changeLetter(context, params.id, body),
  'DELETE /api/letters/:id': async ({ params, context }) => discardLetter(context, params.id),
  'POST /api/letters/:id/template': async ({ params, body, context }) =>
    useTemplate(context, params.id, body),
  'GET /api/letters/:id/preview': async ({ params, context }) => {
    const { html, subject } = await ownLetter(context, params.id);
    const { name, email } = requireActor(context);
    const below = await showSignature(context);
    const signature = { html: below.html, picture: null, pictureType: null };
    return {
      from: `${name} <${email}>`,
      subject,
      html: shownHtml({ html, signature }),
      text: plainText({ html, signature }),
    };
  },
  'GET /api/letters/:id/times': async ({ params, context }) => letterTimes(context, params.id),
  'POST /api/letters/:id/sending': async ({ params, body, context }) => sendLetter(context, params.id, body),
  'DELETE /api/letters/:id/sending': async ({ params, context }) => takeBack(context, params),
  'POST /api/letters/:id/files': early(async ({ params, query, request, perform }) => {
    const content = contentOf(safeName(query.name, 0), bytesOf(request.body));
    return perform((context) => attachFile(context, params.id, content));
  }),
  'DELETE /api/letter-files/:id': async ({ params, context }) => detachFile(context, params.id),
  'GET /api/letter-fields': async ({ context }) => ({ items: await mergeFields(context) }),
  'GET /api/letter-templates': async ({ context }) => listTemplates(context),
  'POST /api/letter-templates': async ({ body, context }) => addTemplate(context, body),
  'PATCH /api/letter-templates/:id': async ({ params, body, context }) =>
    changeTemplate(context, params.id, body),
  'DELETE /api/letter-templates/:id': async ({ params, context }) => deleteTemplate(context, params.id),
  'POST /api/letter-templates/check': async ({ body, context }) => tryTemplate(context, body),
  'GET /api/signature': async ({ context }) => showSignature(context),
  'PUT /api/signature': async ({ body, context }) => putSignature(context, body),
  'POST /api/signature/picture': early(async ({ request, perform }) => {
    const raw = bytesOf(request.body);
    const type = (request.headers['content-type'] ?? '').split(';')[0]?.trim() ?? '';
    return perform((context) => putPicture(context, raw, type));
  }),
  'DELETE /api/signature/picture': async ({ context }) => removePicture(context),
  'GET /api/submission': async ({ context }) => showSubmission(context),
  'PUT /api/submission': early(async ({ body, tools, perform }) => {
    await tryServer(tools, body);
    return perform((context) => putSubmission(context, body));
  }),
  'DELETE /api/submission': async ({ context }) => removeSubmission(context),
  'GET /api/mail-domains': early(async ({ tools }) => showDomains(tools)),
  'POST /api/mail-domains/:domain/key': early(async ({ params, perform }) => {
    const key = await newKey();
    return perform((context) => putKey(context, params.domain.toLowerCase(), key));
  }),
  'DELETE /api/mail-domains/:domain/key': async ({ params, context }) =>
    removeKey(context, params.domain.toLowerCase()),
};
