import { BaseError, ConnectionError, DatabaseError, OptimisticLockError } from 'sequelize';

/** What PostgreSQL says when two transactions wait for each other (SQLSTATE 40P01) or cannot both be (40001). */
const CROSSED = new Set(['40P01', '40001']);

/** The SQLSTATE of a database's error. */
export const sqlState = (error: DatabaseError): string => (error.parent as { code?: string }).code ?? '';

/** Whether a row was refused because it names a record that its writer cannot see (row-level security). */
export const isBeyondSight = (error: unknown): boolean =>
  error instanceof DatabaseError && sqlState(error) === '42501';

/** Whether the database ended a transaction because of another one; run again, it may well succeed. */
export const isRetryableConflict = (error: unknown): boolean =>
  error instanceof OptimisticLockError || (error instanceof DatabaseError && CROSSED.has(sqlState(error)));

/** Connection lost (SQLSTATE class 08), out of resources (53), ended by an operator or a restart (57P), input and output (58). */
const OUT_OF_ORDER = /^(?:08|53|57P|58)/;
/** What the client says of a connection that is gone; there is no SQLSTATE, for nobody answered. */
const GONE = /connection terminated|connection error|not queryable|ECONNRESET|EPIPE|ECONNREFUSED/i;

/** Whether the database went away or cannot work, so that what failed has nothing to do with what was asked of it. */
export function isDatabaseGone(error: unknown): boolean {
  if (error instanceof ConnectionError) return true;
  if (!(error instanceof Error)) return false;
  const cause = error instanceof BaseError && 'parent' in error ? (error.parent as Error) : error;
  const state = 'code' in cause && typeof cause.code === 'string' ? cause.code : '';
  return OUT_OF_ORDER.test(state) || GONE.test(`${state} ${cause.message}`);
}
