import { z } from 'zod';
import { Id, Span } from './common';

const intentBase = {
  id: Id,
  text: z.string(),
  span: Span,
  confidence: z.number(),
  fate: z.enum(['proposed', 'rejected']),
};
export const Intent = z.discriminatedUnion('kind', [
  z.object({
    ...intentBase,
    kind: z.literal('ask'),
    value: z.object({ what: z.string(), due: z.string().nullable() }),
  }),
  z.object({
    ...intentBase,
    kind: z.literal('date'),
    value: z.object({ at: z.string(), allDay: z.boolean() }),
  }),
  z.object({
    ...intentBase,
    kind: z.literal('money'),
    value: z.object({ minor: z.number(), currency: z.string(), approximate: z.boolean() }),
  }),
  z.object({
    ...intentBase,
    kind: z.literal('quantity'),
    value: z.object({ count: z.number(), of: z.string() }),
  }),
  z.object({
    ...intentBase,
    kind: z.literal('promise'),
    value: z.object({ by: z.enum(['ours', 'theirs']), what: z.string(), due: z.string().nullable() }),
  }),
  z.object({ ...intentBase, kind: z.literal('interest'), value: z.object({ what: z.string() }) }),
  z.object({ ...intentBase, kind: z.literal('objection'), value: z.object({ what: z.string() }) }),
]);
export type Intent = z.infer<typeof Intent>;
