import type { FastifyError, FastifyInstance, FastifyReply } from 'fastify';
import { hasZodFastifySchemaValidationErrors } from 'fastify-type-provider-zod';
import { MAX_MESSAGE_BYTES } from '@emporikon/core/reading/types';
import { ConnectionError, DatabaseError, ForeignKeyConstraintError, UniqueConstraintError } from 'sequelize';
import { isBeyondSight, isDatabaseGone, isRetryableConflict, sqlState } from '../db/conflicts';
import { busy, conflict, invalid, notFound, ProblemError, tooLarge, unsupported } from './problems';

function send(reply: FastifyReply, { problem: given, headers }: ProblemError): FastifyReply {
  const problem = { ...given, requestId: reply.request.id };
  return reply
    .code(problem.status)
    .headers(headers)
    .type('application/problem+json')
    .serializer(JSON.stringify)
    .send(problem);
}

const PARSE_ERRORS = new Set([
  'FST_ERR_CTP_INVALID_JSON_BODY',
  'FST_ERR_CTP_EMPTY_JSON_BODY',
  'FST_ERR_CTP_INVALID_CONTENT_LENGTH',
]);

/**
 * A value that PostgreSQL cannot take (SQLSTATE class 22, data exception): a day before the calendar, a character that is
 * none, a forged cursor. It came in with the request, so it is answered as one that is wrong.
 */
const isDataException = (error: unknown): boolean =>
  error instanceof DatabaseError
    ? sqlState(error).startsWith('22')
    : error instanceof Error && 'severity' in error && 'code' in error && /^22/.test(String(error.code));

/** A write that names a record that is not there. */
function missingTarget(error: ForeignKeyConstraintError): ProblemError {
  const { constraint = '', table = '' } = error.parent as { constraint?: string; table?: string };
  const column = constraint.replace(`${table}_`, '').replace(/_fkey\d*$/, '');
  const field = column.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());
  return invalid('Nothing was saved: it names a record that is not there.', {
    fields: field ? { [field]: 'does not exist' } : {},
  });
}

function asProblem(error: FastifyError): ProblemError | null {
  if (error instanceof ProblemError) return error;
  if (hasZodFastifySchemaValidationErrors(error)) {
    const fields = Object.fromEntries(
      error.validation.map((one) => [
        one.instancePath.replace(/^\//, '').replace(/\//g, '.') || 'body',
        one.message ?? 'is wrong',
      ]),
    );
    return invalid(
      `Nothing was saved: ${Object.entries(fields)
        .map(([field, what]) => `${field}: ${what}`)
        .join('; ')}.`,
      { fields },
    );
  }
  if (error instanceof ConnectionError)
    return busy('The database does not answer right now. Nothing was saved; try again in a moment.', 5);
  if (isDatabaseGone(error))
    return busy(
      'The database stopped answering during this request. Check whether it was saved before you try again.',
      5,
    );
  if (error.code === 'FST_ERR_CTP_BODY_TOO_LARGE')
    return tooLarge(
      `Larger than ${MAX_MESSAGE_BYTES / 1024 / 1024} MB (a table may have 64 MB); it was not kept. Leave out large attachments and try again.`,
    );
  if (error.code === 'FST_ERR_CTP_INVALID_MEDIA_TYPE')
    return unsupported(
      'Send a message as message/rfc822, a page as text/html, a card as text/vcard, text as text/plain, a call or form as application/json.',
    );
  if (PARSE_ERRORS.has(error.code)) return invalid('The body is not valid JSON.');
  if (error instanceof UniqueConstraintError)
    return conflict(
      'Somebody saved the same thing a moment ago, so nothing was saved twice. Reload and try again.',
    );
  if (error instanceof ForeignKeyConstraintError) return missingTarget(error);
  if (isBeyondSight(error))
    return invalid('Nothing was saved: it names a record that is not there, or that you cannot see.');
  if (isRetryableConflict(error))
    return conflict('Somebody changed the same records at this moment; nothing was saved. Try again.');
  if (isDataException(error))
    return invalid('Nothing was saved: a day, a number or a character in it is not one that can be kept.');
  if (error.statusCode && error.statusCode < 500) return invalid(error.message);
  return null;
}

/** Answers every error with a problem document; nothing internal leaves the house. */
export function answerErrors(app: FastifyInstance): void {
  app.setErrorHandler<FastifyError>((error, request, reply) => {
    const problem = asProblem(error);
    if (isDatabaseGone(error))
      request.log.warn({ err: error, requestId: request.id }, 'the database is gone');
    if (problem) return send(reply, problem);
    request.log.error({ err: error, requestId: request.id }, 'failed');
    return send(
      reply,
      new ProblemError({
        type: 'urn:emporikon:problem:internal',
        title: 'Something went wrong here',
        status: 500,
        detail: `Nothing was saved. Try again; if it happens again, give your administrator this number: ${request.id}.`,
      }),
    );
  });
}

/** What an unknown address under /api is answered with. */
export const noSuchRoute = (reply: FastifyReply): FastifyReply =>
  send(reply, notFound('There is nothing at this address.'));
