import { DatabaseError, OptimisticLockError } from 'sequelize';

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
