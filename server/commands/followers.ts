import { Id } from '@emporikon/contract/common';
import { z } from 'zod';

/** The job by which a follower does its part after an event (`jobs/follow.ts`). */
export const FOLLOW = { name: 'follow', input: z.object({ eventId: Id, follower: z.string() }) };

/** So many events may follow each other with nobody asking; a longer chain is a circle. */
export const DEEPEST = 8;

/** Commands that change many records at once. They write the ledgers of those themselves, and tell each colleague once. */
export const CHANGES_MANY = 'change many';
export const UNDOES_MANY = 'undo many';
/** Hands records over as a file: what is told of it is who did it and when. */
export const HANDS_OVER = 'export records';
/** Takes all that tells who somebody was. */
export const ERASES = 'erase person';
/** Begins, pauses or ends such a change, or the undoing of it. */
export const STEERS_MANY = 'steer many';
export const isOfMany = (command: string): boolean => command === CHANGES_MANY || command === UNDOES_MANY;
