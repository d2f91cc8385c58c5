import { LAYOUTS } from '@emporikon/core/query/layout';
import { RECORD_KINDS, type Filter as AnyFilter, type When as AnyWhen } from '@emporikon/core/query/types';
import { z } from 'zod';
import { Done, Id, IdParam, Line, routes, Time, Version } from './common';

const RecordKind = z.enum(RECORD_KINDS);
const Unit = z.enum(['day', 'week', 'month', 'quarter', 'year']);
const Day = z.string().max(10);
const When: z.ZodType<AnyWhen> = z.union([
  z.strictObject({ unit: Unit, shift: z.int() }),
  z.strictObject({ unit: Unit, day: Day }),
  z.strictObject({ away: z.int(), unit: Unit }),
  z.strictObject({ day: Day }),
]);
const Single = z.union([z.string().max(500), z.number(), When]);
const Value = z.union([Single, z.boolean(), z.array(Single).max(500)]);
const Operator = z.enum([
  'is',
  'isNot',
  'contains',
  'startsWith',
  'hasAny',
  'hasAll',
  'hasNone',
  'under',
  'atMost',
  'over',
  'atLeast',
  'in',
  'before',
  'after',
  'since',
  'until',
  'between',
  'inside',
  'near',
  'empty',
  'filled',
]);
const Key = z.string().min(1).max(80);
const Count = z.strictObject({ op: z.enum(['is', 'atLeast', 'atMost']), value: z.int().min(0).max(10_000) });
const Shape: z.ZodType<AnyFilter, Record<string, unknown>> = z.lazy(() =>
  z.union([
    z.strictObject({ all: z.array(Shape).max(60) }),
    z.strictObject({ any: z.array(Shape).max(60) }),
    z.strictObject({ not: Shape }),
    z.strictObject({ relation: Key, has: z.enum(['any', 'all', 'none']), where: Shape.optional() }),
    z.strictObject({ relation: Key, count: Count, where: Shape.optional() }),
    z.strictObject({ field: Key, op: Operator, value: Value.optional() }),
  ]),
);

const MOST_DEPTH = 20;
/** Whether something is nested no deeper than conditions ever are; not by recursion, which deep nesting would exhaust. */
function isShallow(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length; depth++) {
    if (depth > MOST_DEPTH * 2) return false;
    level = level.flatMap((one) => (typeof one === 'object' && one !== null ? Object.values(one) : []));
  }
  return true;
}
const Filter = z
  .record(z.string(), z.unknown())
  .describe(
    'a condition: {field, op, value}, {all: […]}, {any: […]}, {not: …}, {relation, has, where} or {relation, count, where}; docs/queries.md',
  );
const FilterIn = Filter.refine(isShallow, { message: 'is nested too deep', abort: true }).pipe(Shape);

const Group = z.strictObject({
  field: Key,
  by: z
    .union([Unit, z.literal('letter'), z.strictObject({ bands: z.array(z.number()).min(1).max(50) })])
    .optional(),
});
const Order = z.strictObject({ field: Key, direction: z.enum(['asc', 'desc']) });
const Total = z.strictObject({
  how: z.enum(['count', 'sum', 'mean', 'median', 'least', 'most']),
  field: Key.optional(),
});
const parts = {
  kind: RecordKind,
  groups: z.array(Group).max(10).default([]),
  order: z.array(Order).max(10).default([]),
  totals: z.array(Total).max(60).default([]),
  columns: z.array(Key).max(60).default([]),
};
export const QueryIn = z.strictObject({ ...parts, filter: FilterIn.optional() });
const QueryOut = z.object({
  kind: RecordKind,
  filter: Filter.optional(),
  groups: z.array(Group),
  order: z.array(Order),
  totals: z.array(Total),
  columns: z.array(Key),
});

/** A query in the address of a file. */
export const queryString = z.object({
  query: z
    .string()
    .max(8000)
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue({ code: 'custom', message: 'is no query in JSON' });
        return z.NEVER;
      }
    })
    .pipe(QueryIn)
    .describe('a query in JSON'),
  dateField: Key.optional().describe('the field of the dates of a calendar'),
  name: Line(120).optional().describe('what the file is called'),
});

const Option = z.object({
  value: z.string(),
  label: z.string(),
  countsAs: z.string().optional().describe('of a term of your own: the built-in one it counts as'),
});
const QueryField = z.object({
  key: z.string(),
  label: z.string(),
  type: z.enum([
    'text',
    'choice',
    'several',
    'user',
    'number',
    'money',
    'day',
    'time',
    'yearly',
    'flag',
    'place',
    'calculated',
  ]),
  unit: z.string().optional(),
  options: z.array(Option).optional(),
  suggestions: z.array(Option).optional().describe('values that records have, where those are many; not all'),
  isReckoned: z.boolean().optional().describe('calculated, and not to be filled in'),
});
export type QueryField = z.infer<typeof QueryField>;
const Plain = z.union([z.string(), z.number(), z.boolean(), z.array(z.string()), z.null()]);
const FoundRecord = z.object({
  id: Id,
  values: z
    .record(z.string(), Plain)
    .describe('by column; money in minor units of the organisation’s currency'),
  links: z.record(z.string(), Id.nullable()).describe('the ids of the records that columns name'),
  keys: z.array(z.string().nullable()).describe('the groups it is in, outermost first'),
});
export type FoundRecord = z.infer<typeof FoundRecord>;
const Totals = z.object({
  keys: z.array(z.string().nullable()),
  count: z.int(),
  totals: z.array(z.union([z.number(), z.string(), z.null()])),
});

const Layout = z.strictObject({
  as: z.enum(LAYOUTS),
  by: Key.optional().describe('the field of the lanes, or of the days of the calendar'),
});
const View = z.object({
  id: Id,
  version: Version,
  kind: RecordKind,
  name: z.string(),
  query: QueryOut,
  layout: Layout,
  shared: z.enum(['me', 'team', 'everybody']),
  owner: z.string().nullable().describe('null: it came with the program'),
  mayChange: z.boolean(),
  updatedAt: Time,
});
export type View = z.infer<typeof View>;
const Shared = z.enum(['me', 'team', 'everybody']);
/** What of a view can be set; left out of a change, it stays. */
const viewParts = { name: Line(80), query: QueryIn, layout: Layout, shared: Shared };

export const queryRoutes = routes({
  'GET /api/queries/fields': {
    summary: 'What records of a kind can be asked about',
    tag: 'queries',
    query: z.object({ kind: RecordKind }),
    reply: z.object({
      one: z.string(),
      many: z.string(),
      name: z.string(),
      fields: z.array(QueryField),
      relations: z.array(
        z.object({ key: z.string(), label: z.string(), to: RecordKind, isMany: z.boolean() }),
      ),
    }),
  },
  'POST /api/queries': {
    summary: 'Records that meet a query, a page at a time',
    tag: 'queries',
    body: z.strictObject({
      query: QueryIn,
      cursor: z.string().max(4000).optional(),
      limit: z.int().min(1).max(200).default(60),
      from: Line(100)
        .optional()
        .describe('begin where these letters stand in the order, which is to begin with a text'),
    }),
    reply: z.object({ items: z.array(FoundRecord), next: z.string().nullable() }),
  },
  'POST /api/queries/totals': {
    summary: 'How many records meet a query, and its totals, by group',
    tag: 'queries',
    body: z.strictObject({ query: QueryIn }),
    reply: z.object({
      items: z.array(Totals).describe('of everything first, then of the groups, outermost first'),
      hasMore: z.boolean().describe('whether there are more groups than are told'),
    }),
  },
  'POST /api/queries/words': {
    summary: 'Read a question in plain words',
    tag: 'queries',
    body: z.strictObject({ words: z.string().max(500), kind: RecordKind.optional() }),
    reply: z.object({
      kind: RecordKind,
      conditions: z.array(Filter),
      groups: z.array(Group),
      order: z.array(Order),
      notUnderstood: z.array(z.string()),
    }),
  },
  'GET /api/views': {
    summary: 'Views of a kind of record: mine, my team’s and everybody’s',
    tag: 'views',
    query: z.object({ kind: RecordKind }),
    reply: z.object({ items: z.array(View), last: Id.nullable().describe('the one used last') }),
  },
  'GET /api/views/:id': { summary: 'One view', tag: 'views', params: IdParam, reply: View },
  'POST /api/views': {
    summary: 'Save a view',
    tag: 'views',
    status: 201,
    body: z.object({
      ...viewParts,
      layout: Layout.default({ as: 'table' }),
      shared: Shared.default('me'),
    }),
    reply: Done.extend({ view: View }),
  },
  'PATCH /api/views/:id': {
    summary: 'Change a view',
    tag: 'views',
    params: IdParam,
    body: z.object(viewParts).partial().extend({ version: Version }),
    reply: Done.extend({ view: View }),
  },
  'DELETE /api/views/:id': { summary: 'Delete a view', tag: 'views', params: IdParam, reply: Done },
  'PUT /api/views/:id/last': {
    summary: 'Remember a view as the one used last',
    tag: 'views',
    params: IdParam,
    reply: z.object({ ok: z.literal(true) }),
  },
});
