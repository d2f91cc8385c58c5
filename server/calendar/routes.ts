import { holidayPlaces } from '@emporikon/core/calendar/holidays';
import { requireActor } from '../commands/context';
import { ClosedDay } from '../db/models/tasks';
import type { Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';
import { freeDaysFor } from './free';

export const calendarHandlers: Handlers = {
  'GET /api/calendar/free-days': async ({ context }) => {
    const { weekend, closed } = await freeDaysFor(context, requireActor(context).id);
    return { weekend: [...weekend], closed: [...closed].map(([day, name]) => ({ day, name })) };
  },
  'GET /api/calendar/places': () => Promise.resolve({ items: holidayPlaces() }),
  'GET /api/closed-days': async ({ context }) => {
    const days = await ClosedDay.findAll({ order: ['day'], transaction: context.tx });
    return { items: days.map(({ id, day, name }) => ({ id, day, name })) };
  },
  'POST /api/closed-days': async ({ body, context }) => {
    if (await ClosedDay.findOne({ where: { day: body.day }, transaction: context.tx }))
      throw conflict('Your organisation is closed on this day already.', {
        fields: { day: 'is closed already' },
      });
    const { id, name } = await context.write.insert(ClosedDay, { id: context.newId(), ...body });
    return {
      id,
      eventId: await context.write.event('close day', `Closed on ${name}`, requireActor(context).id),
    };
  },
  'DELETE /api/closed-days/:id': async ({ params, context }) => {
    const day = await ClosedDay.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!day) throw notFound('There is no such closed day.');
    await context.write.remove(day);
    return {
      eventId: await context.write.event('open day', `Open on ${day.name} again`, requireActor(context).id),
    };
  },
};
