import { z } from 'zod';
import type { Context } from '../commands/context';
import { addJob } from '../jobs/job';

/** The job that places what is due; those who only ask for it know it by this. */
export const PLACE = { name: 'placeRecords', input: z.unknown() } as const;

/** Asks for what is due to be placed, after this transaction. */
export const placeSoon = (context: Context): Promise<void> => addJob(context, PLACE, {}, 'place-records');
