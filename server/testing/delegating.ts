import type { Client } from './harness';

/** Gives tasks to colleagues, and reads what came of it. */
export const delegating = {
  idOf: async (who: Client): Promise<string> => (await who.call('GET /api/session')).body.id,
  /** The kind, title and detail of everything that is for somebody, newest first. */
  noticesOf: async (who: Client): Promise<string[][]> =>
    (await who.call('GET /api/notices')).body.items.map(({ kind, title, detail }) => [kind, title, detail]),
  task: async (by: Client, body: Record<string, unknown>) =>
    (
      await by.call('POST /api/tasks', {
        body: { title: 'Send the list', dueAt: '2026-12-03T00:00:00Z', ...body },
      })
    ).body,
  change: (by: Client, id: string, body: Record<string, unknown>) =>
    by.call('PATCH /api/tasks/:id', { params: { id }, body }),
  detail: async (by: Client, id: string) => (await by.call('GET /api/tasks/:id', { params: { id } })).body,
};
