import type { In, Reply } from '@emporikon/contract';
import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { requireActor, type Context } from '../commands/context';
import { Call, PhoneLine } from '../db/models/calls';
import { conflict, forbidden } from '../http/problems';
import { defineEffect, requestEffect } from '../jobs/effect';
import { NotSent } from '../outside/notSent';
import { callRow, personsByNumber } from './caller';

const Placing = z.object({ callId: Id, from: z.string(), to: z.string() });

/** Asks the exchange to ring our line and then theirs. A call that comes late disturbs, so it is given up soon. */
export const callEffect = defineEffect({
  name: 'placeCall',
  lane: 'now',
  input: Placing,
  lastsMs: 20_000,
  waits: { first: 500, longest: 4000 },
  async send({ outside }, { callId, from, to }) {
    if (!outside.exchange) throw new NotSent('no exchange is connected', true);
    return outside.exchange.place(from, to, callId);
  },
  async settle(context, { callId, to }, outcome) {
    const call = await Call.findByPk(callId, { transaction: context.tx, lock: true });
    if (outcome.state === 'sent') {
      // The exchange may have told of it before it answered; then it is known already.
      if (call?.state === 'placing' && !call.exchangeId)
        await context.write.update(call, { exchangeId: outcome.result.id, state: 'ringing' });
      return `Called ${to}`;
    }
    if (call?.state === 'placing') await context.write.update(call, { state: 'failed' });
    return outcome.state === 'unsure' ? `May have called ${to}: ${outcome.trouble}` : `Could not call ${to}`;
  },
  async prepareRepeat(context, { callId }) {
    const call = await Call.findByPk(callId, { transaction: context.tx, lock: true });
    if (call?.userId !== requireActor(context).id)
      throw forbidden('Only the owner of this line can call from it.');
    if (call.state !== 'failed') throw conflict('This call has already taken place.');
    await requireFreeLine(context, call.userId);
    await context.write.update(call, { state: 'placing', startedAt: context.now() });
  },
});

async function requireFreeLine(context: Context, userId: string): Promise<void> {
  if (await Call.count({ where: { userId, state: 'placing' }, transaction: context.tx }))
    throw conflict('Your line is already making a call.');
}

/** Asks for a call. @throws 409 without an exchange or a line, or while a call of this line is being placed */
export async function placeCall(
  context: Context,
  { to, personId }: In<'POST /api/calls', 'body'>,
): Promise<Reply<'POST /api/calls'>> {
  const { id: userId } = requireActor(context);
  if (!context.outside.exchange)
    throw conflict('No exchange is connected. Dial by hand; Settings say how to connect one.');
  const line = await PhoneLine.findOne({ where: { userId }, transaction: context.tx, lock: true });
  if (!line) throw conflict('Set your phone line in Settings first.');
  await requireFreeLine(context, userId);
  const people = personId ? [personId] : await personsByNumber(context, to);
  const call = await context.write.insert(Call, {
    id: context.newId(),
    exchangeId: null,
    direction: 'out',
    fromNumber: line.number,
    toNumber: to,
    userId,
    personId: people.length === 1 ? (people[0] ?? null) : null,
    state: 'placing',
    startedAt: context.now(),
  });
  await requestEffect(
    context,
    callEffect,
    { callId: call.id, from: line.number, to },
    { table: 'calls', id: call.id },
  );
  const eventId = await context.write.event('place call', `Asked to call ${to}`, userId);
  return { eventId, call: await callRow(context, call.id) };
}
