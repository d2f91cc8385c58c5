import type { FastifyInstance } from 'fastify';
import type { Tools } from '../commands/context';
import type { AnyEffect, AnyJob } from '../commands/types';
import type { TableRule } from '../db/tables';
import type { Handlers } from './mount';

/** What a room is given besides the routes of the contract. */
export interface RoomParts {
  tools: Tools;
  /** Tells of every event of every process on this database. */
  live: { subscribe: (listener: (payload: string) => void) => () => void; lastHeard: () => number };
  /** Which build of the interface is served. */
  build: string | null;
}

/** The manifest of a capability: everything of it that the program calls by itself. */
export interface Room {
  name: string;
  /** What answers the routes of the contract. */
  routes?: readonly Handlers[];
  /** What looks at every request before its route does. */
  before?: (app: FastifyInstance, tools: Tools) => void;
  /** Files and streams, which are no JSON of the contract. */
  files?: (app: FastifyInstance, parts: RoomParts) => void;
  /** Pages for anybody, outside `/api`. */
  pages?: (app: FastifyInstance, tools: Tools) => Promise<void>;
  /** What is done in the background. */
  jobs?: readonly AnyJob[];
  /** Its tables, and what they point to. */
  tables?: readonly TableRule[];
  /** What is done outside the house. */
  effects?: readonly AnyEffect[];
}
