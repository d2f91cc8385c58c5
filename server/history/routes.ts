import type { Handlers } from '../http/mount';
import { changesOf } from './read';
import { restoreValue } from './restore';

export const historyHandlers: Handlers = {
  'GET /api/changes': ({ query, context }) => changesOf(context, query),
  'POST /api/changes/restore': ({ body, context }) => restoreValue(context, body),
};
