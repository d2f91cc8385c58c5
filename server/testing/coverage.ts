import { appendFileSync } from 'node:fs';
import type { RouteName } from '@emporikon/contract';

/** Where the run of the server tests notes what was answered; `server/testing/coverageReport.mjs` reads it. */
const file = process.env.ROUTE_COVERAGE;

/** Notes that a route answered with success, and which parts of its query were used. */
export function noteAnswer(name: RouteName, status: number, query: Record<string, string>): void {
  if (file && status < 300) appendFileSync(file, `${JSON.stringify([name, Object.keys(query)])}\n`);
}
