import { z } from 'zod';

/** What a next move is done by. */
export const MoveKind = z.enum(['call', 'mail', 'meeting', 'visit', 'task']);
