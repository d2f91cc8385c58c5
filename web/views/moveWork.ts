import { api } from '../shell/api';
import type { Move } from './moves';

type WorkMove = Extract<Move, { work: unknown }>;

/** Moves one task, project or case to another lane, over the version it has now. @returns the event to undo it by; null where nothing changed */
export async function moveWork(id: string, move: WorkMove): Promise<string | null> {
  if ('values' in move) {
    const params = { record: move.work, id };
    const { version } = await api('GET /api/records/:record/:id/fields', { params });
    const body = { version, values: move.values };
    return (await api('PATCH /api/records/:record/:id/fields', { params, body })).eventId;
  }
  const params = { id };
  switch (move.work) {
    case 'task': {
      const { version } = await api('GET /api/tasks/:id', { params });
      return (await api('PATCH /api/tasks/:id', { params, body: { version, ...move.change } })).eventId;
    }
    case 'project': {
      const { version } = await api('GET /api/projects/:id', { params });
      return (await api('PATCH /api/projects/:id', { params, body: { version, ...move.change } })).eventId;
    }
    case 'case': {
      const { version } = await api('GET /api/cases/:id', { params });
      return (await api('PATCH /api/cases/:id', { params, body: { version, ...move.change } })).eventId;
    }
  }
}
