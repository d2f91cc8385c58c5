import type { Handlers } from '../http/mount';
import type { Room } from '../http/room';
import { cloneRecord, KINDS, loadSource } from './clone';
import { countParts } from './parts';

const cloningHandlers: Handlers = {
  'GET /api/clones/:kind/:id': async ({ params: { kind, id }, context }) => {
    const source = await loadSource(context, kind, id);
    return { name: String(source[KINDS[kind].name]), parts: await countParts(context, kind, source) };
  },
  'POST /api/clones/:kind/:id': async ({ params: { kind, id }, body, context }) =>
    cloneRecord(context, { kind, id, name: body.name, parts: new Set(body.with) }),
};

export const cloning: Room = { name: 'cloning', routes: [cloningHandlers], tables: [] };
