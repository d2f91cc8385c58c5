import { fittedConfidence, newestFits } from '../accuracy/fits';
import { lockNames } from '../commands/locks';
import type { Reading } from '@emporikon/core/reading/types';
import type { Context } from '../commands/context';
import { Capture, ClaimRow, IntentRow, type CameBy } from '../db/models/captures';
import { dayOf, erasuresOf } from '../privacy/marks';
import type { Arrival } from './arrivals';

export interface Origin {
  by: CameBy;
  /** When it came, where that is not now. */
  at?: Date | undefined;
  /** It is part of a larger command, whose event is also that of the capture. */
  isPart?: boolean;
}

/**
 * Keeps a raw thing whole with its reading, and puts it into Arrivals. Content-addressed: the same bytes are one capture,
 * and so is the same message at two colleagues, which differs only in how it was carried.
 * @returns the capture, and whether it is new
 */
export async function storeCapture(
  context: Context,
  { raw, mediaType, reading, sha256, contentHash }: Arrival,
  { by, at, isPart = false }: Origin,
): Promise<{ capture: Capture; created: boolean }> {
  await lockNames(context, [sha256]);
  const known = await Capture.findOne({
    where: { sha256 },
    attributes: { exclude: ['raw'] },
    transaction: context.tx,
  });
  if (known) return { capture: known, created: false };
  const { messageId } = reading.message;
  if (messageId && contentHash) {
    await lockNames(context, [messageId]);
    const twin = await findTwin(context, messageId, contentHash);
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
    notices: [...reading.notices, ...(await erasedNotice(context, reading))],
    messageId,
    contentSha256: contentHash,
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

/**
 * The same message that came another way: the same Message-ID and the same content. An ID alone proves nothing, since
 * whoever writes a message chooses it; several different messages under one ID are all kept.
 */
const findTwin = (context: Context, messageId: string, contentHash: string): Promise<Capture | null> =>
  Capture.findOne({
    where: { messageId, contentSha256: contentHash },
    attributes: { exclude: ['raw'] },
    transaction: context.tx,
  });

/** Says it where the message may be from somebody who was erased: to be filed only if they have been in touch again. */
async function erasedNotice(context: Context, { claims }: Reading): Promise<string[]> {
  const said = (field: string): { kind: string; normalized: string }[] =>
    claims
      .filter((claim) => claim.field === field)
      .map(({ value, normalized }) => ({ kind: field, normalized: normalized ?? value }));
  const [at] = await erasuresOf(context, [
    {
      name: said('fullName')[0]?.normalized ?? '',
      emails: said('email'),
      phones: said('phone'),
      links: said('profile'),
    },
  ]);
  if (!at) return [];
  return [
    `Somebody with this address or number was erased on ${dayOf(context, at)}. File this only if they have been in touch again since.`,
  ];
}

async function keepReading(context: Context, capture: Capture, reading: Reading): Promise<void> {
  const now = context.now();
  const fits = await newestFits(context);
  for (const claim of reading.claims.slice(0, 500)) {
    const confidence = fittedConfidence(fits, capture.kind, claim);
    await context.write.insert(ClaimRow, {
      id: context.newId(),
      captureId: capture.id,
      field: claim.field,
      value: claim.value.slice(0, 2000),
      normalized: claim.normalized ?? null,
      type: claim.type ?? null,
      confidence,
      readConfidence: confidence === claim.confidence ? null : claim.confidence,
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
