import { createHash } from 'node:crypto';
import { readEmail } from '@emporikon/core/reading/email/read';
import { localNow, type Context } from '../commands/context';
import { Capture, ClaimRow, IntentRow, type CameBy } from '../db/models/captures';
import { invalid } from '../http/problems';

/**
 * Keeps a raw thing whole, reads it, and puts it into Arrivals. Content-addressed: the same bytes are one capture.
 * @returns the capture, and whether it is new
 * @throws 422 for nothing at all
 */
export async function storeCapture(
  context: Context,
  raw: Buffer,
  mediaType: string,
  by: CameBy,
): Promise<{ capture: Capture; created: boolean }> {
  if (!raw.length || !raw.some((byte) => byte > 32))
    throw invalid('There is nothing in it; nothing was captured. Choose a message or paste its text.');
  const sha256 = createHash('sha256').update(raw).digest('hex');
  await context.sequelize.query('SELECT pg_advisory_xact_lock(hashtextextended(:sha256, 0))', {
    replacements: { sha256 },
    transaction: context.tx,
  });
  const known = await Capture.findOne({
    where: { sha256 },
    attributes: { exclude: ['raw'] },
    transaction: context.tx,
  });
  if (known) return { capture: known, created: false };
  const reading = await readEmail(raw, {
    ours: context.house.ours,
    currency: context.house.currency,
    receivedAt: localNow(context),
  });
  const now = context.now();
  const capture = await context.write.insert(Capture, {
    id: context.newId(),
    kind: reading.kind,
    mediaType,
    sha256,
    raw,
    cameBy: by,
    capturedBy: context.actor?.id ?? null,
    receivedAt: now,
    message: reading.message,
    notices: reading.notices,
  });
  for (const claim of reading.claims) {
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
  await context.write.event(
    'capture',
    `Captured ${reading.message.subject || 'a message'}`,
    context.actor?.id ?? null,
  );
  return { capture, created: true };
}
