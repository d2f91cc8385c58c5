import type { FastifyRequest } from 'fastify';
import { early, type Handlers } from '../http/mount';
import { safeName } from '../captures/attachments';
import { invalid } from '../http/problems';
import { addFile, addFileVersion, removeFile, renameFile } from './add';
import { contentOf, type NewContent } from './contents';
import { changeLimits, showLimits } from './limits';
import { fileDetail, listFiles } from './queries';

function givenContent({ body }: FastifyRequest, name: string | undefined): NewContent {
  if (!Buffer.isBuffer(body) || !body.length)
    throw invalid('There is nothing in this file; nothing was kept.');
  return contentOf(name === undefined ? '' : safeName(name, 0), body);
}

export const fileHandlers: Handlers = {
  'GET /api/files': async ({ query, context }) => listFiles(context, query),
  'GET /api/files/:id': async ({ params, context }) => fileDetail(context, params.id),
  'POST /api/files': early(async ({ query: { name, ...where }, request, perform }) => {
    const content = givenContent(request, name);
    return perform((context) => addFile(context, content, where));
  }),
  'POST /api/files/:id/versions': early(async ({ params, query, request, perform }) => {
    const content = givenContent(request, query.name);
    return perform((context) => addFileVersion(context, params.id, content));
  }),
  'PATCH /api/files/:id': async ({ params, body, context }) =>
    renameFile(context, params.id, { ...body, name: safeName(body.name, 0) }),
  'DELETE /api/files/:id': async ({ params, context }) => removeFile(context, params.id),
  'GET /api/file-limits': async ({ context }) => showLimits(context),
  'PATCH /api/file-limits': async ({ body, context }) => changeLimits(context, body),
};
