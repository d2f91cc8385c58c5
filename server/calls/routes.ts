import { normalizeEmail } from '@emporikon/core/people/emails';
import { readPhone } from '@emporikon/core/people/phones';
import { knownPerson } from '../people/candidates';
import { requireActor, type Context } from '../commands/context';
import { Call, PhoneLine } from '../db/models/calls';
import { early, type Handlers } from '../http/mount';
import { conflict, forbidden, invalid, notFound } from '../http/problems';
import { knownPeople } from '../people/known';
import { find } from '../search/find';
import { callDetail, callsOf } from './caller';
import { placeCall } from './place';
import { saveSheet } from './sheet';
import { takeEvent } from './webhook';

const MOST_CALLERS = 3;

/** People a part of a name or number may mean, the likeliest first. */
async function peopleByPart(context: Context, part: string): Promise<string[]> {
  const hits = await find(context, part, 4 * MOST_CALLERS);
  return hits
    .filter(({ kind, inactive }) => kind === 'person' && !inactive)
    .slice(0, MOST_CALLERS)
    .map(({ id }) => id);
}

export const callHandlers: Handlers = {
  'GET /api/line': early(async ({ tools, actor }) => {
    const line = await PhoneLine.findOne({ where: { userId: requireActor({ actor }).id } });
    const { exchange } = tools.outside;
    return {
      number: line?.number ?? null,
      exchange: exchange ? ((await exchange.isUp()) ? 'connected' : 'down') : 'none',
    };
  }),
  'PUT /api/line': async ({ body, context }) => {
    const { id } = requireActor(context);
    const taken = await PhoneLine.findOne({ where: { number: body.number }, transaction: context.tx });
    if (taken && taken.userId !== id) throw conflict('This number is the line of a colleague.');
    const line = await PhoneLine.findOne({ where: { userId: id }, transaction: context.tx, lock: true });
    if (line) await context.write.update(line, { number: body.number });
    else await context.write.insert(PhoneLine, { id: context.newId(), userId: id, number: body.number });
    return { eventId: await context.write.event('set line', `Set the line ${body.number}`, id) };
  },
  'GET /api/calls': async ({ query, context }) => callsOf(context, requireActor(context).id, query),
  'POST /api/calls': async ({ body, context }) => placeCall(context, body),
  'GET /api/calls/:id': async ({ params, context }) => callDetail(context, params.id),
  'PATCH /api/calls/:id': async ({ params, body, context }) => {
    const call = await Call.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!call) throw notFound('There is no such call.');
    if (call.userId && call.userId !== requireActor(context).id)
      throw forbidden('A colleague is on this call; the note is theirs. Write yours on the dossier.');
    await context.write.update(call, { note: body.note });
    await context.write.event('keep note', 'Kept the note of a call', requireActor(context).id);
    return { kept: true };
  },
  'POST /api/recognise': async ({ body, context }) => {
    const facts = {
      fullName: body.fullName,
      companyName: body.companyName,
      emails: body.emails.map(normalizeEmail),
      phones: body.phones.map((phone) => readPhone(phone, [context.house.country])?.normalized ?? phone),
      profiles: body.profiles.map((profile) => profile.replace(/\/+$/, '')),
    };
    const person = await knownPerson(context, facts);
    const known = person.matches.slice(0, MOST_CALLERS).map((match) => match.id);
    const byPart = known.length || !body.part.trim() ? [] : await peopleByPart(context, body.part);
    return {
      person,
      callers: await knownPeople(context, known.length ? known : byPart),
      byPart: byPart.length > 0,
    };
  },
  'POST /api/call-sheets': async ({ body, context }) => saveSheet(context, body),
  'POST /api/exchange/events': async ({ context, request }) => {
    const { exchange } = context.outside;
    if (!exchange) throw forbidden('No exchange is connected.');
    if (!Buffer.isBuffer(request.body)) throw invalid('There is nothing in it.');
    const { id, event } = exchange.verify(request.body, request.headers);
    await takeEvent(context, id, event);
    return { received: true };
  },
};
