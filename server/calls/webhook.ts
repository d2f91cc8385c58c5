import { lockNames } from '../commands/locks';
import { z } from 'zod';
import type { Context } from '../commands/context';
import { readOwnRecord } from '../captures/arrivals';
import { storeCapture } from '../captures/store';
import { fileCapture } from '../captures/filing';
import { Capture } from '../db/models/captures';
import { Call, PhoneLine } from '../db/models/calls';
import { Op, QueryTypes } from 'sequelize';
import { personsByNumber } from './caller';

const Time = z.iso.datetime({ offset: true });
const Number164 = z.string().regex(/^\+[0-9]{6,15}$/);
/** A caller may withhold the number: then it is empty. */
const From = z.union([Number164, z.enum(['', 'anonymous']).transform(() => '')]);
const Event = z.object({
  type: z.enum(['call.ringing', 'call.answered', 'call.ended', 'call.transcribed']),
  data: z.object({
    id: z.string().min(1).max(200),
    direction: z.enum(['in', 'out']),
    from: From,
    to: Number164,
    startedAt: Time,
    answeredAt: Time.nullish(),
    endedAt: Time.nullish(),
    text: z.string().max(200_000).nullish(),
  }),
});
type ExchangeEvent = z.infer<typeof Event>;

/** So long after it was asked for a call that the exchange tells of is taken for that one. */
const RECENT_MS = 120_000;

/**
 * The call we asked for, when the exchange tells of it before it has answered, or after its answer was lost. A line places
 * one at a time.
 */
const placedCall = (context: Context, userId: string, number: string): Promise<Call | null> =>
  Call.findOne({
    where: {
      userId,
      toNumber: number,
      state: ['placing', 'failed'],
      exchangeId: null,
      startedAt: { [Op.gt]: new Date(context.now().getTime() - RECENT_MS) },
    },
    order: [['startedAt', 'DESC']],
    transaction: context.tx,
    lock: true,
  });

/** The call an event tells of: found, or noted when its ringing went missing on the way. */
async function callOf(context: Context, { data }: ExchangeEvent): Promise<Call> {
  await lockNames(context, [`call:${data.id}`]);
  const known = await Call.findOne({ where: { exchangeId: data.id }, transaction: context.tx, lock: true });
  if (known) return known;
  const ours = data.direction === 'in' ? data.to : data.from;
  const theirs = data.direction === 'in' ? data.from : data.to;
  const line = await PhoneLine.findOne({ where: { number: ours }, transaction: context.tx });
  const placed = data.direction === 'out' && line ? await placedCall(context, line.userId, theirs) : null;
  if (placed) return context.write.update(placed, { exchangeId: data.id, state: 'ringing' });
  const people = await personsByNumber(context, theirs);
  return context.write.insert(Call, {
    id: context.newId(),
    exchangeId: data.id,
    direction: data.direction,
    fromNumber: data.from,
    toNumber: data.to,
    userId: line?.userId ?? null,
    personId: people.length === 1 ? (people[0] ?? null) : null,
    state: 'ringing',
    startedAt: new Date(data.startedAt),
  });
}

/** A missed call lands in Arrivals; one that was answered does when the sheet is not written. */
async function capture(context: Context, call: Call, { data }: ExchangeEvent, text: string): Promise<void> {
  const arrival = await readOwnRecord(context, {
    kind: 'call',
    id: data.id,
    direction: data.direction,
    from: data.from,
    to: data.to,
    startedAt: data.startedAt,
    answeredAt: data.answeredAt ?? null,
    endedAt: data.endedAt ?? null,
    text,
  });
  const { capture: stored } = await storeCapture(context, arrival, { by: 'exchange' });
  await context.write.update(call, { captureId: stored.id });
}

async function isRepeatedDelivery(context: Context, id: string): Promise<boolean> {
  const [fresh] = await context.sequelize.query<{ id: string }>(
    'INSERT INTO webhook_receipts (id, received_at) VALUES (:id, :now) ON CONFLICT DO NOTHING RETURNING id',
    { replacements: { id, now: context.now() }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return fresh === undefined;
}

/**
 * Takes in what the exchange tells of a call. The same webhook twice is one; events may come late or in another order.
 */
export async function takeEvent(context: Context, receipt: string, body: unknown): Promise<void> {
  if (await isRepeatedDelivery(context, receipt)) return;
  const parsed = Event.safeParse(body);
  if (!parsed.success) return;
  const told = parsed.data;
  const call = await callOf(context, told);
  const { data, type } = told;
  if (type === 'call.answered' && call.state === 'ringing')
    await context.write.update(call, {
      state: 'answered',
      answeredAt: new Date(data.answeredAt ?? context.now()),
    });
  if (type === 'call.ended' && !call.endedAt) {
    const isMissed = !call.answeredAt && !data.answeredAt;
    await context.write.update(call, {
      state: isMissed ? 'missed' : 'ended',
      answeredAt: call.answeredAt ?? (data.answeredAt ? new Date(data.answeredAt) : null),
      endedAt: new Date(data.endedAt ?? context.now()),
    });
    if (isMissed && call.direction === 'in') await capture(context, call, told, '');
  }
  if (type === 'call.transcribed' && data.text) {
    await context.write.update(call, { transcript: data.text });
    if (!call.savedAt && !call.captureId) await capture(context, call, told, data.text);
  }
  await context.write.event('call', `Call ${type.slice(5)}: ${data.from} to ${data.to}`, null);
}

/** The capture of a call is filed with it when its sheet is saved. */
export async function fileWithCall(context: Context, call: Call, personId: string): Promise<void> {
  if (!call.captureId) return;
  const waiting = await Capture.findOne({
    where: { id: call.captureId, state: 'waiting' },
    attributes: ['id'],
    transaction: context.tx,
  });
  if (waiting) await fileCapture(context, call.captureId, { person: personId, as: 'person', isPart: true });
}
