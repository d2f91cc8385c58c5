// After the server tests: every route must have been answered with success, with each part of its query used.
import { existsSync, readFileSync } from 'node:fs';

/** Paging and sizes are used by every list the same way, and tested once. */
const SHARED = new Set(['limit', 'cursor']);

/**
 * @param document the OpenAPI document
 * @param file what the tests noted, a line an answer
 * @returns what was never tried, a line each
 */
export function findGaps(document, file) {
  const seen = new Map();
  for (const line of existsSync(file) ? readFileSync(file, 'utf8').split('\n').filter(Boolean) : []) {
    const [name, keys] = JSON.parse(line);
    const known = seen.get(name) ?? new Set();
    for (const key of keys) known.add(key);
    seen.set(name, known);
  }
  const gaps = [];
  for (const [path, operations] of Object.entries(document.paths))
    for (const [method, operation] of Object.entries(operations)) {
      const name = `${method.toUpperCase()} ${path.replace(/\{(\w+)\}/g, ':$1')}`;
      // Files and streams are asked for by address in the tests of their own rooms.
      const isFile = !Object.keys(
        operation.responses?.['200']?.content ?? operation.responses?.['201']?.content ?? {},
      ).includes('application/json');
      if (isFile) continue;
      const used = seen.get(name);
      if (!used) gaps.push(`${name} was never answered with success`);
      else
        for (const parameter of operation.parameters ?? [])
          if (parameter.in === 'query' && !SHARED.has(parameter.name) && !used.has(parameter.name))
            gaps.push(`${name} was never asked with ${parameter.name}`);
    }
  return gaps;
}
