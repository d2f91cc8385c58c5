import type { Claim } from '@emporikon/contract/captures';
import { readPhone, type PhoneType } from '@emporikon/core/people/phones';
import type { ClaimField } from '@emporikon/contract/fields';
import type { Context } from '../commands/context';
import { ClaimRow, IntentRow } from '../db/models/captures';
import { requireKnownField } from '../fields/mapping';
import { conflict, notFound } from '../http/problems';
import { normalizeValue } from '../people/values';
import { asClaims, loadCapture } from './view';

async function openClaim(context: Context, id: string): Promise<ClaimRow> {
  const claim = await ClaimRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!claim) throw notFound('There is no such claim.');
  if (claim.captureId && (await loadCapture(context, claim.captureId)).state !== 'waiting')
    throw conflict('This capture is filed already; change the fact on its record instead.');
  return claim;
}

export interface ClaimPatch {
  value?: string;
  type?: PhoneType;
  fate?: 'proposed' | 'rejected';
}

/** Corrects a claim (the reader's own stays, superseded), refuses it, or takes it back in. */
export async function changeClaim(
  context: Context,
  id: string,
  patch: ClaimPatch,
): Promise<{ claim: Claim; eventId: string | null }> {
  let claim = await openClaim(context, id);
  if (patch.value !== undefined || patch.type !== undefined) {
    const value = patch.value ?? claim.value;
    const country = claim.normalized?.startsWith('+') ? (readPhone(claim.normalized)?.country ?? null) : null;
    const { normalized, type } = normalizeValue(claim.field, value, [country ?? context.house.country]);
    await context.write.update(claim, { fate: 'superseded' });
    claim = await context.write.insert(ClaimRow, {
      id: context.newId(),
      captureId: claim.captureId,
      field: claim.field,
      value,
      normalized,
      type: patch.type ?? (patch.value === undefined ? claim.type : (type ?? claim.type)),
      confidence: 1,
      span: claim.span,
      source: 'corrected by hand',
      byHand: true,
      actorId: context.actor?.id ?? null,
      fate: 'proposed',
      replaces: claim.id,
      createdAt: context.now(),
    });
  } else if (patch.fate) claim = await context.write.update(claim, { fate: patch.fate });
  const eventId = await context.write.event(
    'change claim',
    `${patch.fate === 'rejected' ? 'Refused' : 'Corrected'} ${claim.value}`,
    context.actor?.id ?? null,
  );
  const [shown] = await asClaims(context, [claim]);
  if (!shown) throw notFound('There is no such claim.');
  return { claim: shown, eventId };
}

/** Adds what the reader missed. */
export async function addClaim(
  context: Context,
  captureId: string,
  field: ClaimField,
  value: string,
  type?: PhoneType,
): Promise<Claim> {
  const capture = await loadCapture(context, captureId, true);
  if (capture.state !== 'waiting')
    throw conflict('This capture is filed already; change the fact on its record instead.');
  await requireKnownField(context, field, 'field');
  const normal = normalizeValue(field, value, [context.house.country]);
  const at = capture.message.text.indexOf(value);
  const claim = await context.write.insert(ClaimRow, {
    id: context.newId(),
    captureId,
    field,
    value,
    normalized: normal.normalized,
    type: type ?? normal.type ?? (field === 'phone' ? 'work' : null),
    confidence: 1,
    span: at < 0 ? null : { part: 'text', start: at, end: at + value.length },
    source: 'added by hand',
    byHand: true,
    actorId: context.actor?.id ?? null,
    fate: 'proposed',
    createdAt: context.now(),
  });
  await context.write.event('add claim', `Added ${value}`, context.actor?.id ?? null);
  const [shown] = await asClaims(context, [claim]);
  if (!shown) throw notFound('There is no such claim.');
  return shown;
}

/** Refuses an intent or takes it back in. */
export async function changeIntent(
  context: Context,
  id: string,
  fate: 'proposed' | 'rejected',
): Promise<string | null> {
  const intent = await IntentRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!intent) throw notFound('There is no such intent.');
  await context.write.update(intent, { fate });
  return context.write.event(
    'change intent',
    `${fate === 'rejected' ? 'Refused' : 'Kept'} “${intent.text.slice(0, 60)}”`,
    context.actor?.id ?? null,
  );
}
