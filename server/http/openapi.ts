import { Problem } from '@emporikon/contract/common';
import type { FastifySchema } from 'fastify';
import { z } from 'zod';

export const PROBLEMS = { '4xx': Problem, '5xx': Problem };

/** What an operation is called in clients made from the document: `GET /api/people/:id` is `getPeopleById`. */
export function operationIdOf(name: string): string {
  const [method = 'GET', path = '/'] = name.split(' ');
  const words = path
    .replace(/^\/api/, '')
    .split('/')
    .filter(Boolean)
    .map((part) => (part.startsWith(':') ? `by-${part.slice(1)}` : part))
    .join('-')
    .split(/[^A-Za-z0-9]+/)
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1));
  return method.toLowerCase() + words.join('');
}

/**
 * How a route that hands over a file is described.
 * @param name method and path
 * @param mediaType what the file is
 */
export const fileSchema = (
  name: string,
  {
    summary,
    tag,
    mediaType,
    params,
  }: { summary: string; tag: string; mediaType: string; params?: z.ZodType },
): FastifySchema => ({
  operationId: operationIdOf(name),
  summary,
  tags: [tag],
  produces: [mediaType],
  ...(params ? { params } : {}),
  response: { 200: z.string().describe('the file'), ...PROBLEMS },
});
