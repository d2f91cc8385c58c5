/** As much of JSON Schema as the OpenAPI document uses. */
export interface JsonSchema {
  type?: string | string[];
  enum?: unknown[];
  const?: unknown;
  format?: string;
  pattern?: string;
  properties?: Record<string, JsonSchema>;
  required?: string[];
  additionalProperties?: JsonSchema | boolean;
  items?: JsonSchema;
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  allOf?: JsonSchema[];
  minimum?: number;
  maximum?: number;
  $ref?: string;
}

interface Ground {
  random: () => number;
  schemas: Record<string, JsonSchema>;
  /** Ids of records that are there. */
  ids: readonly string[];
}

/** Marsaglia's xorshift32 ("Xorshift RNGs", 2003): the same numbers for the same seed. @returns numbers from 0 to 1 */
export function seededRandom(seed: number): () => number {
  let state = seed | 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

const TEXTS = [
  '',
  ' ',
  'Ines Duarte',
  "Robert'); DROP TABLE people;--",
  '%',
  '_%\\',
  '\u0000',
  '\u202egnp.exe',
  '👩‍🚀'.repeat(20),
  'a'.repeat(3000),
  'call 1/12 for 40k',
  '../../etc/passwd',
  '<script>alert(1)</script>',
  '=1+1',
  '0',
  '-1',
  'NaN',
  'null',
  'ines@padariasol.example',
  '+351910555014',
  'https://padariasol.example/x?y=1',
  'javascript:alert(1)',
  'WyJhIiwiYiJd',
  'GB',
  'EUR',
  'ZZZ',
  'Europe/London',
];
const DAYS = ['2026-11-27', '0000-01-01', '9999-12-31', '2026-02-30', '-000001-01-01', '2024-02-29'];
const NUMBERS = [0, 1, -1, 2, 7, 100, 2 ** 31, -(2 ** 31), 2 ** 53, 9e12, 0.5, 1e-9];

function textFor({ format, pattern }: JsonSchema, { random, ids }: Ground): string {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  if (random() < 0.1) return pick(TEXTS);
  if (format === 'uuid') return random() < 0.9 && ids.length ? pick(ids) : crypto.randomUUID();
  if (format === 'date') return pick(DAYS);
  if (format === 'date-time') return `${pick(DAYS)}T10:00:00Z`;
  if (format === 'email') return `p${Math.floor(random() * 50)}@firm.example`;
  if (pattern?.includes('{3}')) return pick(['EUR', 'GBP', 'JPY', 'XXX']);
  if (pattern?.includes('{2}')) return pick(['GB', 'PT', 'ZZ']);
  return pick([...TEXTS, ...DAYS, ...(ids.length ? ids.slice(0, 3) : [])]);
}

/** A value that fits a schema most of the time, and is at its edges often. */
export function valueFor(schema: JsonSchema, ground: Ground, depth = 0): unknown {
  const { random } = ground;
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  if (random() < 0.02) return pick([null, [], {}, '', 0, true, 'x']);
  if (schema.$ref)
    return valueFor(ground.schemas[schema.$ref.split('/').at(-1) ?? ''] ?? {}, ground, depth + 1);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return pick(schema.enum);
  const several = schema.anyOf ?? schema.oneOf ?? schema.allOf;
  if (several?.length) return valueFor(pick(several), ground, depth + 1);
  const type = Array.isArray(schema.type) ? pick(schema.type) : schema.type;
  if (type === 'null') return null;
  if (type === 'boolean') return random() < 0.5;
  if (type === 'integer' || type === 'number') {
    const number = random() < 0.6 ? Math.floor(random() * 20) : pick(NUMBERS);
    return random() < 0.7
      ? Math.min(schema.maximum ?? Infinity, Math.max(schema.minimum ?? -Infinity, number))
      : number;
  }
  if (type === 'array')
    return depth > 6
      ? []
      : Array.from({ length: Math.floor(random() * 4) }, () =>
          valueFor(schema.items ?? {}, ground, depth + 1),
        );
  if (type === 'object' || schema.properties) {
    const entries = Object.entries(schema.properties ?? {})
      .filter(([key]) => schema.required?.includes(key) || random() < 0.6)
      .map(([key, one]) => [key, valueFor(one, ground, depth + 1)]);
    return Object.fromEntries(entries);
  }
  return textFor(schema, ground);
}
