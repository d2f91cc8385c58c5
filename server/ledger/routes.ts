import type { About } from '@emporikon/contract/ledger';
import type { Handlers } from '../http/mount';
import { invalid } from '../http/problems';
import { readLine, saveLine } from './composer';
import { entriesOf, turnOf, type LedgerOwner } from './queries';

function oneOf(about: About): [LedgerOwner, string] {
  for (const key of ['dealId', 'leadId', 'personId', 'companyId'] as const)
    if (about[key]) return [key, about[key]];
  throw invalid('Say whose ledger: personId, companyId, leadId or dealId.', {
    fields: { personId: 'is missing' },
  });
}

export const ledgerHandlers: Handlers = {
  'GET /api/ledger': async ({ query, context }) => {
    const [owner, id] = oneOf(query);
    return {
      ...(await entriesOf(context, owner, id, query)),
      turn: await turnOf(context, owner, id),
    };
  },
  'POST /api/composer': async ({ body, context }) => readLine(context, body.line, body.about),
  'POST /api/ledger': async ({ body, context }) => saveLine(context, body.line, body.about, body.leaveOut),
};
