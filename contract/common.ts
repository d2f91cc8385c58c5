import type { BuiltInRole, Right } from '@emporikon/core/rights/rights';
import { FIRST_DAY, LAST_DAY } from '@emporikon/core/reading/table/days';
import { isZone } from '@emporikon/core/lookups/place';
import { MOST_MINOR } from '@emporikon/core/lifecycle/minorUnits';
import { z } from 'zod';

export const Id = z.uuid();
export const Version = z.int().positive();
export const Time = z.string().describe('ISO 8601 with offset');
export const TimeOfDay = z.string().regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/, 'a time such as 08:00');
export const Day = z.iso
  .date()
  .refine((day) => day >= FIRST_DAY && day <= LAST_DAY, 'a day from 1583 to 2999');
/** One line of text that a person typed: no control characters, so that nothing typed can become a header or a line of its own. */
export const Line = (longest: number) =>
  z
    .string()
    .trim()
    .min(1)
    .max(longest)
    .regex(/^[^\p{Cc}\u2028\u2029]*$/u, 'must be one line without control characters');
export const Currency = z.string().regex(/^[A-Z]{3}$/, 'an ISO 4217 code');
export const Country = z.string().regex(/^[A-Z]{2}$/, 'an ISO 3166-1 code of two letters');
export const TimeZone = z.string().max(60).refine(isZone, 'a time zone such as Europe/Lisbon');
export const Minor = z.int().min(0).max(MOST_MINOR).describe('money in minor units');
export const Page = z.object({
  cursor: z.string().max(2000).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
});
/** The column a list is sorted by, and which way. */
export const sortedBy = <const Names extends readonly [string, ...string[]]>(
  names: Names,
  first: Names[number],
) => ({
  sort: z.enum(names).default(first as never),
  direction: z.enum(['asc', 'desc']).optional().describe('by default the way that column is mostly wanted'),
});
/** What a capped count says of itself. */
export const COUNTED = '1001 stands for more than 1,000, which are not counted';
export const IdParam = z.object({ id: Id });

export const Named = z.object({ id: Id, name: z.string() });
export type Named = z.infer<typeof Named>;

export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  fields: z.record(z.string(), z.string()).optional(),
  current: z.record(z.string(), z.unknown()).optional(),
  reasons: z.array(z.string()).optional(),
  requestId: z.string().optional().describe('the number under which it stands in the log'),
});
export type Problem = z.infer<typeof Problem>;

export const Span = z.object({
  part: z.enum(['from', 'subject', 'text', 'source']),
  start: z.int(),
  end: z.int(),
});
export const PhoneType = z.enum(['mobile', 'work', 'home', 'fax']);
/** What a command answers with besides its result: the event that undoes it; null when nothing changed. */
export const Done = z.object({ eventId: Id.nullable() });

export interface RouteSpec {
  summary: string;
  tag: string;
  params?: z.ZodType;
  query?: z.ZodType;
  body?: z.ZodType;
  /** The raw thing itself is the body; the media types that are read. */
  raw?: readonly string[];
  reply: z.ZodType;
  status?: 200 | 201;
  /** What it takes; everybody signed in may when left out. */
  right?: Right;
  /** Whose work it is, whatever else they may; everybody's when left out. */
  roles?: readonly BuiltInRole[];
  /** Needs no sign-in. */
  open?: boolean;
}
type Path = `${'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE'} /${string}`;

/** Keeps the literal types of a table of routes. */
export const routes = <const Table extends Record<Path, RouteSpec>>(table: Table): Table => table;
