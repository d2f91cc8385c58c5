import type { Parsed, Reply } from '@emporikon/contract';
import type { Submission as SubmissionView } from '@emporikon/contract/mailOut';
import { requireActor, type Context, type Tools } from '../commands/context';
import { Signature, Submission } from '../db/models/letters';
import { invalid, notFound, stale } from '../http/problems';
import { sealPassword } from '../mailboxes/seal';
import { NotSent } from '../outside/notSent';
import { trySubmission } from '../outside/post';
import { letterHtml } from './html';

const MOST_PICTURE_BYTES = 200_000;
/** What a file of each kind begins with. */
const BEGINS: Readonly<Record<string, readonly number[]>> = {
  'image/png': [0x89, 0x50, 0x4e, 0x47],
  'image/jpeg': [0xff, 0xd8, 0xff],
  'image/gif': [0x47, 0x49, 0x46, 0x38],
};

export async function showSignature(context: Context): Promise<Reply<'GET /api/signature'>> {
  const row = await Signature.findByPk(requireActor(context).id, { transaction: context.tx });
  return {
    version: row?.version ?? 0,
    html: row?.html ?? '',
    picture:
      row?.picture && row.pictureType
        ? `data:${row.pictureType};base64,${row.picture.toString('base64')}`
        : null,
  };
}

type Below = Partial<Pick<Signature, 'html' | 'picture' | 'pictureType'>>;

async function keepSignature(context: Context, patch: Below): Promise<void> {
  const userId = requireActor(context).id;
  const known = await Signature.findByPk(userId, { transaction: context.tx, lock: true });
  if (known) await context.write.update(known, patch);
  else await context.write.insert(Signature, { userId, ...patch });
}

export async function putSignature(
  context: Context,
  { version, html }: Parsed<'PUT /api/signature', 'body'>,
): Promise<{ eventId: string | null }> {
  const { id } = requireActor(context);
  const known = await Signature.findByPk(id, { transaction: context.tx, lock: true });
  if ((known?.version ?? 0) !== version)
    throw stale({ version: known?.version ?? 0, html: known?.html ?? '' });
  await keepSignature(context, { html: letterHtml(html) });
  return { eventId: await context.write.event('change signature', 'Changed your signature', id) };
}

/** @throws 422 for a picture that is too large, or is none */
export async function putPicture(
  context: Context,
  raw: Buffer,
  pictureType: string,
): Promise<{ eventId: string | null }> {
  if (raw.length > MOST_PICTURE_BYTES)
    throw invalid('The picture is larger than 200 kB. Choose a smaller one; nothing was saved.');
  const begin = BEGINS[pictureType];
  if (!begin?.every((byte, at) => raw[at] === byte))
    throw invalid('This is no PNG, JPEG or GIF picture. Nothing was saved.');
  await keepSignature(context, { picture: raw, pictureType });
  return {
    eventId: await context.write.event(
      'change signature',
      'Changed the picture of your signature',
      requireActor(context).id,
    ),
  };
}

export async function removePicture(context: Context): Promise<{ eventId: string | null }> {
  await keepSignature(context, { picture: null, pictureType: null });
  return {
    eventId: await context.write.event(
      'change signature',
      'Removed the picture of your signature',
      requireActor(context).id,
    ),
  };
}

const asView = ({
  version,
  host,
  port,
  secure,
  username,
  state,
  trouble,
  triedAt,
}: Submission): SubmissionView => ({
  ...{ version, host, port, secure, username, state, trouble },
  triedAt: triedAt?.toISOString() ?? null,
});

export async function showSubmission(context: Context): Promise<Reply<'GET /api/submission'>> {
  const row = await Submission.findByPk(requireActor(context).id, { transaction: context.tx });
  return { submission: row ? asView(row) : null, hasOrganisation: context.outside.post !== null };
}

type Given = Parsed<'PUT /api/submission', 'body'>;

/** Tries a server before it is saved. @throws 422 with what is in the way */
export async function tryServer(
  tools: Tools,
  { host, port, secure, username, password }: Given,
): Promise<void> {
  try {
    await trySubmission({ host, port, secure, username, password }, tools.outside.door);
  } catch (error) {
    if (!(error instanceof NotSent)) throw error;
    throw invalid(`${host} was not saved: ${error.message}.`, { fields: { host: error.message } });
  }
}

export async function putSubmission(
  context: Context,
  { version, password, ...server }: Given,
): Promise<{ eventId: string | null; submission: SubmissionView }> {
  const userId = requireActor(context).id;
  const sealed = sealPassword(context.outside.sealKey, password);
  const known = await Submission.findByPk(userId, { transaction: context.tx, lock: true });
  if (known && known.version !== version) throw stale({ ...asView(known) });
  const values = {
    ...server,
    sealed,
    state: 'works' as const,
    trouble: '',
    triedAt: context.now(),
  };
  const row = known
    ? await context.write.update(known, values)
    : await context.write.insert(Submission, { userId, ...values });
  return {
    eventId: await context.write.event('set up sending', `Sends by ${server.host}`, userId),
    submission: asView(row),
  };
}

export async function removeSubmission(context: Context): Promise<{ eventId: string | null }> {
  const { id } = requireActor(context);
  const row = await Submission.findByPk(id, { transaction: context.tx, lock: true });
  if (!row) throw notFound('You send by the server of the organisation already.');
  await context.write.remove(row);
  return { eventId: await context.write.event('set up sending', 'Sends by the organisation’s server', id) };
}
