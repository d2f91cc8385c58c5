import { requireActor } from '../commands/context';
import type { Handlers } from '../http/mount';
import { annotate, shareAnnotation } from './annotations';
import { markAnswered } from './answered';
import { changeEntry, enterWritten, removeEntry } from './change';
import { readLine, saveLine } from './composer';
import { lookAt } from './looks';
import { monthsOf, ownerOf } from './page';
import { entriesOf, entryDetail, turnOf } from './queries';

export const ledgerHandlers: Handlers = {
  'GET /api/ledger': async ({ query, context }) => {
    const owner = ownerOf(query);
    return { ...(await entriesOf(context, owner, query)), turn: await turnOf(context, ...owner) };
  },
  'GET /api/ledger/months': async ({ query, context }) => ({
    items: await monthsOf(context, ownerOf(query), query),
  }),
  'GET /api/ledger/:id': ({ params, context }) => entryDetail(context, params.id),
  'POST /api/ledger/entries': ({ body, context }) => enterWritten(context, body),
  'PATCH /api/ledger/:id': ({ params, body, context }) => changeEntry(context, params.id, body),
  'DELETE /api/ledger/:id': ({ params, context }) => removeEntry(context, params.id),
  'PUT /api/ledger/:id/annotation': ({ params, body, context }) => annotate(context, params.id, body.words),
  'POST /api/ledger/:id/annotation/share': ({ params, context }) => shareAnnotation(context, params.id),
  'POST /api/ledger/answered': ({ body, context }) => markAnswered(context, ownerOf(body)),
  'POST /api/looks': async ({ body, context }) => ({
    before: (await lookAt(context, requireActor(context).id, body.recordId))?.toISOString() ?? null,
  }),
  'POST /api/composer': async ({ body, context }) => readLine(context, body.line, body.about),
  'POST /api/ledger': async ({ body, context }) => saveLine(context, body.line, body.about, body.leaveOut),
};
