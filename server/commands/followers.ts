import { Id } from '@emporikon/contract/common';
import { z } from 'zod';

/** The job by which a follower does its part after an event (`jobs/follow.ts`). */
export const FOLLOW = { name: 'follow', input: z.object({ eventId: Id, follower: z.string() }) };

/** So many events may follow each other with nobody asking; a longer chain is a circle. */
export const DEEPEST = 8;
