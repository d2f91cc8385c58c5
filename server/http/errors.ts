import type { FastifyError, FastifyInstance, FastifyReply } from 'fastify';
import { hasZodFastifySchemaValidationErrors } from 'fastify-type-provider-zod';
import { MAX_MESSAGE_BYTES } from '@emporikon/core/reading/types';
import { DatabaseError, ForeignKeyConstraintError, UniqueConstraintError } from 'sequelize';
import { isCrossed, sqlState } from '../db/crossed';
import { conflict, invalid, notFound, ProblemError, tooLarge, unsupported } from './problems';

function send(reply: FastifyReply, { problem, headers }: ProblemError): FastifyReply {
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

/** What PostgreSQL says of text it cannot hold, such as a NUL (SQLSTATE 22021, 22P05). */
const UNSTORABLE = new Set(['22021', '22P05']);

/** A write that names a record that is not there. */
function missingTarget(error: ForeignKeyConstraintError): ProblemError {
  const { detail = '' } = error.parent as { detail?: string };
  const column = /Key \((\w+)\)/.exec(detail)?.[1] ?? '';
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
      'Somebody saved the same thing a moment ago; nothing was doubled. Read again and try once more.',
    );
  if (error instanceof ForeignKeyConstraintError) return missingTarget(error);
  if (isCrossed(error))
    return conflict('Somebody changed the same records at this moment; nothing was saved. Try once more.');
  if (error instanceof DatabaseError && UNSTORABLE.has(sqlState(error)))
    return invalid('Nothing was saved: there is a character in it that cannot be kept.');
  if (error.statusCode && error.statusCode < 500) return invalid(error.message);
  return null;
}

/** Answers every error with a problem document; nothing internal leaves the house. */
export function answerErrors(app: FastifyInstance): void {
  app.setErrorHandler<FastifyError>((error, request, reply) => {
    const problem = asProblem(error);
    if (problem) return send(reply, problem);
    request.log.error(error);
    return send(
      reply,
      new ProblemError({
        type: 'urn:emporikon:problem:internal',
        title: 'Something went wrong here',
        status: 500,
        detail: 'Nothing was saved. Try again; if it happens once more, tell your administrator the time.',
      }),
    );
  });
}

/** What an unknown address under /api is answered with. */
export const noSuchRoute = (reply: FastifyReply): FastifyReply =>
  send(reply, notFound('There is nothing at this address.'));
