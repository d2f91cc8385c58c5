import type { Room } from '../http/room';
import { outboxHandlers } from './routes';

export const outbox: Room = { name: 'outbox', routes: [outboxHandlers] };
