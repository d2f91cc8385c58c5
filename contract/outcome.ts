import { DELIVERY_STATES } from '@emporikon/core/outreach/deliveryStatus';
import { z } from 'zod';
import { Day, Id, Time } from './common';

/** What became of a letter at one address. */
export const Outcome = z.object({
  name: z.string(),
  address: z.string(),
  personId: Id.nullable(),
  state: z.enum(DELIVERY_STATES).nullable().describe('what mail servers said; null until it is sent'),
  status: z.string().describe('code of RFC 3463, where a server gave one'),
  words: z.string().describe('what the server said'),
  toldAt: Time.nullable(),
  awayUntil: Day.nullable().describe('until when an automatic reply says that they are away'),
  answeredAt: Time.nullable(),
  openedAt: Time.nullable().describe('when a person opened it first, as far as that can be told'),
  fetchedAt: Time.nullable().describe(
    'when a mail program fetched its pictures by itself, which says nothing of a reader',
  ),
  clickedAt: Time.nullable().describe('when they followed a link of it last'),
  clicks: z.int(),
});
export type Outcome = z.infer<typeof Outcome>;
