import { createHash } from 'node:crypto';
import type { Reading } from '@emporikon/core/reading/types';
import { localNow, type Context } from '../commands/context';
import { Capture, ClaimRow, IntentRow, type CameBy } from '../db/models/captures';
import { User } from '../db/models/users';
import { invalid } from '../http/problems';
import { readRaw } from './read';

export interface Arrived {
  mediaType: string;
  by: CameBy;
  /** Where a page was. */
  url?: string | undefined;
  /** When it came, where that is not now. */
  at?: Date | undefined;
  /** It is part of a larger command, whose event is also that of the capture. */
  isPart?: boolean;
}

/**
 * Keeps a raw thing whole, reads it, and puts it into Arrivals. Content-addressed: the same bytes are one capture, and
 * the same message at two colleagues (by its Message-ID) is one as well.
 * @returns the capture, and whether it is new
 * @throws 422 for nothing at all
 */
export async function storeCapture(
  context: Context,
  raw: Buffer,
  { mediaType, by, url, at, isPart = false }: Arrived,
): Promise<{ capture: Capture; created: boolean }> {
  if (!raw.length || !raw.some((byte) => byte > 32))
    throw invalid('There is nothing in it; nothing was captured. Choose a message or paste its text.');
  const sha256 = createHash('sha256')
    .update(url ? `${url}\n` : '')
    .update(raw)
    .digest('hex');
  await lock(context, sha256);
  const known = await Capture.findOne({
    where: { sha256 },
    attributes: { exclude: ['raw'] },
    transaction: context.tx,
  });
  if (known) return { capture: known, created: false };
  const reading = await readRaw(raw, mediaType, {
    ours: context.house.ours,
    currency: context.house.currency,
    receivedAt: localNow(context),
    ...(url ? { url } : {}),
    ...(mediaType === 'text/html' ? { ourPeople: await ourPeople(context) } : {}),
  });
  const { messageId } = reading.message;
  if (messageId && reading.kind === 'email') {
    await lock(context, messageId);
    const twin = await Capture.findOne({
      where: { messageId },
      attributes: { exclude: ['raw'] },
      transaction: context.tx,
    });
    if (twin) return { capture: twin, created: false };
  }
  const now = context.now();
  const capture = await context.write.insert(Capture, {
    id: context.newId(),
    kind: reading.kind,
    mediaType,
    sha256,
    raw,
    cameBy: by,
    capturedBy: context.actor?.id ?? null,
    receivedAt: at ?? now,
    message: reading.message,
    notices: reading.notices,
    messageId,
    thread: reading.message.references[0] ?? messageId,
  });
  await keepReading(context, capture, reading);
  if (isPart) return { capture, created: true };
  await context.write.event(
    'capture',
    `Captured ${reading.message.subject || `a ${reading.kind}`}`,
    context.actor?.id ?? null,
  );
  return { capture, created: true };
}

const lock = (context: Context, key: string): Promise<unknown> =>
  context.sequelize.query('SELECT pg_advisory_xact_lock(hashtextextended(:key, 0))', {
    replacements: { key },
    transaction: context.tx,
  });

const ourPeople = async (context: Context): Promise<string[]> =>
  (await User.findAll({ attributes: ['name'], transaction: context.tx })).map((user) => user.name);

async function keepReading(context: Context, capture: Capture, reading: Reading): Promise<void> {
  const now = context.now();
  for (const claim of reading.claims.slice(0, 500)) {
    await context.write.insert(ClaimRow, {
      id: context.newId(),
      captureId: capture.id,
      field: claim.field,
      value: claim.value.slice(0, 2000),
      normalized: claim.normalized ?? null,
      type: claim.type ?? null,
      confidence: claim.confidence,
      span: claim.span ?? null,
      source: claim.source,
      fate: 'proposed',
      createdAt: now,
    });
  }
  for (const intent of reading.intents) {
    await context.write.insert(IntentRow, {
      id: context.newId(),
      captureId: capture.id,
      kind: intent.kind,
      text: intent.text,
      value: intent.value,
      confidence: intent.confidence,
      span: intent.span,
    });
  }
}
