import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';

/** The kinds of records of which each has a visibility of its own. */
export const SIGHT_KINDS = ['people', 'companies', 'leads', 'deals', 'captures', 'ledger', 'tasks'] as const;
export const SightKind = z.enum(SIGHT_KINDS);
export type SightKind = z.infer<typeof SightKind>;
export const Visibility = z.enum(['everybody', 'owner', 'team', 'named']);
export type Visibility = z.infer<typeof Visibility>;

const Choice = z.object({
  visibility: Visibility.describe(
    'everybody; the owner and those who manage them; a team; named people. The owner sees it in every case',
  ),
  teamId: Id.optional().describe('for `team`'),
  peopleIds: z.array(Id).max(50).optional().describe('for `named`'),
});
export type SightChoice = z.infer<typeof Choice>;

export const Sight = z.object({
  kind: SightKind,
  id: Id,
  visibility: Visibility,
  team: Named.nullable(),
  people: z.array(Named),
  seenBy: z.array(Named).nullable().describe('who may see it, with all it belongs to; null for everybody'),
  because: z
    .array(z.object({ kind: SightKind, id: Id, name: z.string() }))
    .describe('what it belongs to and that not everybody may see'),
  mayChange: z.boolean(),
});
export type Sight = z.infer<typeof Sight>;

export const Team = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  managers: z.array(Named),
  members: z.array(Named),
});
export type Team = z.infer<typeof Team>;

const SightDefault = Choice.extend({
  kind: SightKind,
  source: Line(120).optional().describe('of leads: only those with this source'),
});
export type SightDefault = z.infer<typeof SightDefault>;
/** Who sees what is theirs to decide who manage, and no right of a role of its own. */
const MANAGES = ['manager', 'admin'] as const;
const KindAndId = z.object({ kind: SightKind, id: Id });
const Managers = z.array(Id).max(20).describe('who manages it');

export const visibilityRoutes = routes({
  'GET /api/visibility/:kind/:id': {
    summary: 'Who may see a record, and why',
    tag: 'visibility',
    params: KindAndId,
    reply: Sight,
  },
  'PUT /api/visibility/:kind/:id': {
    summary: 'Choose who may see a record and what belongs to it',
    tag: 'visibility',
    params: KindAndId,
    body: Choice,
    reply: Done,
  },
  'GET /api/visibility-defaults': {
    summary: 'Who may see new records of a kind, and new leads of a source; everybody where nothing is said',
    tag: 'visibility',
    reply: z.object({ items: z.array(SightDefault) }),
  },
  'PUT /api/visibility-defaults': {
    summary: 'Choose who may see new records; all of the defaults at once',
    tag: 'visibility',
    roles: MANAGES,
    body: z.object({ items: z.array(SightDefault).max(200) }),
    reply: Done,
  },
  'GET /api/teams': {
    summary: 'Teams with their members and managers',
    tag: 'visibility',
    reply: z.object({ items: z.array(Team) }),
  },
  'POST /api/teams': {
    summary: 'Add a team',
    tag: 'visibility',
    status: 201,
    roles: MANAGES,
    body: z.object({ name: Line(60), managerIds: Managers.default([]) }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/teams/:id': {
    summary: 'Rename a team or say who manages it',
    tag: 'visibility',
    params: IdParam,
    roles: MANAGES,
    body: z.object({ version: Version, name: Line(60).optional(), managerIds: Managers.optional() }),
    reply: Done,
  },
  'GET /api/hidden-matches': {
    summary: 'Who came upon a record that they cannot see, of the records that I manage',
    tag: 'visibility',
    roles: MANAGES,
    reply: z.object({
      items: z.array(
        z.object({
          id: Id,
          at: Time,
          by: Named,
          record: z.object({ kind: z.enum(['people', 'companies']), id: Id, name: z.string() }),
        }),
      ),
    }),
  },
  'POST /api/hidden-matches/:id/settle': {
    summary: 'Take it off the list',
    tag: 'visibility',
    params: IdParam,
    roles: MANAGES,
    reply: Done,
  },
});
