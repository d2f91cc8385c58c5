import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { noteHere } from './present';

export const presence: Room = {
  name: 'presence',
  routes: [
    {
      'PUT /api/presence/:id': async ({ params, body, context }) => ({
        items: await noteHere(context, params.id, body),
      }),
    },
  ],
  tables: plain('ground', 'presence'),
};
