/** What one typed word may be: the beginning of a word, or one of a few words. */
export interface Term {
  typed: string;
  words: readonly string[] | null;
  /** Words it may be beside its beginning: the same name spelt otherwise. */
  also?: readonly string[];
  /** The words are others than the one typed, and not longer ones. */
  slip?: boolean;
  /** The kinds of records of which many have it. */
  commonTo?: readonly string[];
}
export interface Statement {
  sql: string;
  bind: Record<string, unknown>;
}
interface Asked {
  me: string;
  limit: number;
}
/** People, companies, deals and leads. */
type Kind = 'p' | 'c' | 'd' | 'l';

/** How many a kind may bring before they are ranked, for each that is shown. */
const FOR_EACH = 2;
/** So many that have a common word are met, of which some will have the others too. */
const MET = 900;
/** Of so many that the longer words gather, the short ones are looked for. */
const LOOKED_THROUGH = 3000;
/** Of how many records the asker worked with most each is looked at. */
const OWN = 250;
const AT_COMPANIES = 6;
/** With a company nobody types more words of a person's name. */
const MOST_OWN = 2;
/** Of so many companies with the same words the people are looked through. */
const FIRMS = 100;
/** Of shorter beginnings there are too many in an index of words to gather them all. */
const SHORT = 2;

const lexeme = (word: string): string => `'${word.replace(/[\\']/g, '\\$&')}'`;

/**
 * Terms as a query over the words of a record (PostgreSQL's tsquery): all of them, each whole or as a beginning.
 * @param whole whether only whole words count
 */
export const allOf = (terms: readonly Term[], whole = false): string =>
  terms.map((term) => (whole ? lexeme(term.typed) : anyOf(term))).join(' & ');

function anyOf({ typed, words, also = [] }: Term): string {
  const all = [...(words?.length ? words.map(lexeme) : [`${lexeme(typed)}:*`]), ...also.map(lexeme)];
  return all.length === 1 ? (all[0] ?? '') : `(${all.join(' | ')})`;
}

/** Words that begin with a term; without an order PostgreSQL gathers all of them before it takes the first. */
const range = (at: number): string =>
  `f.word >= $t${at} AND f.word < $t${at} || chr(1114111) ORDER BY f.word`;

const isLong = (term: Term): boolean => term.typed.length > SHORT;
const hasShort = (terms: readonly Term[]): boolean => !terms.every(isLong) && terms.some(isLong);

/** Records of one kind with all the terms, wholly typed ones first; the pieces of SQL are fixed, every value is a parameter. */
function ofKind(kind: Kind, terms: readonly Term[]): string[] {
  const isSlip = terms.some((term) => term.slip);
  if (terms.length === 1 && !isSlip)
    return [`f.word = $t0`, range(0)].map(
      (condition) =>
        `(SELECT f.id, '${kind}' AS kind FROM find_words f WHERE f.kind = '${kind}' AND ${condition} LIMIT $most)`,
    );
  const longest = terms.reduce(
    (best, term, at) => (term.typed.length > (terms[best]?.typed.length ?? 0) ? at : best),
    0,
  );
  // "m s" has too many to gather, and "james smith" too many of both: those are met one by one, and soon enough there are
  // sufficient. What is rare is gathered by the index over all words.
  const oneByOne = (query: string, which: string): string =>
    `SELECT f.id FROM (SELECT f.id FROM find_words f WHERE f.kind = '${kind}' AND ${which} LIMIT ${MET}) f
       WHERE EXISTS (SELECT 1 FROM find_records r WHERE r.id = f.id AND r.words @@ ${query}::tsquery)`;
  // Short ones are not gathered but looked for in what the longer ones gather.
  const gathered = (query: string): string =>
    hasShort(terms)
      ? `SELECT r.id FROM (SELECT r.id, r.words FROM find_records r WHERE r.kind = '${kind}' AND r.words @@ $long::tsquery LIMIT ${LOOKED_THROUGH}) r WHERE r.words @@ ${query}::tsquery`
      : `SELECT r.id FROM find_records r WHERE r.kind = '${kind}' AND r.words @@ ${query}::tsquery`;
  const isShort = (terms[longest]?.typed.length ?? 0) <= SHORT;
  const isCommon = !isSlip && terms.every((term) => term.commonTo?.includes(kind));
  const mayBeWhole =
    !isSlip && terms.every(isLong) && terms.every(({ typed, words }) => !words || words.includes(typed));
  const ways = [
    ...(isCommon && mayBeWhole ? [oneByOne('$whole', `f.word = $t${longest}`)] : []),
    ...(mayBeWhole ? [gathered('$whole')] : []),
    ...(isCommon || isShort ? [oneByOne('$all', range(longest))] : []),
    ...(isShort ? [] : [gathered('$all')]),
  ];
  return [
    `(SELECT id, '${kind}' AS kind FROM (${ways.map((way) => `(${way} LIMIT $most)`).join(' UNION ALL ')}) one LIMIT $most)`,
  ];
}

/** People some of whose terms are of their name and the others of their company's. */
function splits(terms: readonly Term[]): { sql: string[]; bind: Record<string, string> } {
  const sql: string[] = [];
  const bind: Record<string, string> = {};
  for (let at = 1; at < terms.length; at++) {
    if (Math.min(at, terms.length - at) > MOST_OWN) continue;
    for (const [own, firm] of [
      [terms.slice(0, at), terms.slice(at)],
      [terms.slice(at), terms.slice(0, at)],
    ] as const) {
      if (!firm.some(isLong) || own.length > MOST_OWN) continue;
      const name = `s${sql.length}`;
      Object.assign(bind, { [`${name}own`]: allOf(own), [`${name}firm`]: allOf(firm) });
      sql.push(`(SELECT p.id, 'p' AS kind FROM people p
         WHERE p.company_id IN (SELECT f.id FROM find_records f WHERE f.kind = 'c' AND f.words @@ $${name}firm::tsquery LIMIT ${FIRMS})
           AND EXISTS (SELECT 1 FROM find_records r WHERE r.id = p.id AND r.words @@ $${name}own::tsquery) LIMIT $most)`);
    }
  }
  return { sql, bind };
}

const worked = (id: string): string =>
  `LEFT JOIN worked_with w ON w.user_id = $me::uuid AND w.record_id = ${id}`;

const PEOPLE = (level: string): string => `
  person AS (SELECT 'person' AS kind, p.id, p.full_name AS label, concat_ws(' · ', p.job_title, c.name) AS hint, b.level + ${level} AS level, w.score, p.inactive_since IS NOT NULL AS inactive
      FROM best b JOIN people p USING (id) LEFT JOIN companies c ON c.id = p.company_id ${worked('p.id')}
     WHERE b.kind = 'p' ORDER BY 7, 5, w.score DESC NULLS LAST, p.full_name, p.id LIMIT $limit)`;

const COMPANIES = (level: string): string => `
  company AS (SELECT 'company' AS kind, c.id, c.name AS label, coalesce(c.domain, '') AS hint, b.level + ${level} AS level, w.score, false AS inactive
      FROM best b JOIN companies c USING (id) ${worked('c.id')}
     WHERE b.kind = 'c' ORDER BY 5, w.score DESC NULLS LAST, c.name, c.id LIMIT $limit)`;

/** What is shown of what was found, the best of each kind, by expressions for how well a person and a company match. */
const result = (person: string, company: string): string => `${PEOPLE(person)},
  ${COMPANIES(company)},
  deal AS (SELECT 'deal' AS kind, d.id, d.title AS label, s.name AS hint, b.level + 1 AS level, w.score, false AS inactive
      FROM best b JOIN deals d USING (id) JOIN stages s ON s.id = d.stage_id ${worked('d.id')}
     WHERE b.kind = 'd' ORDER BY 5, w.score DESC NULLS LAST, d.title, d.id LIMIT $limit),
  lead AS (SELECT 'lead' AS kind, l.id, l.title AS label, l.status AS hint, b.level + 1 AS level, w.score, false AS inactive
      FROM best b JOIN leads l USING (id) ${worked('l.id')}
     WHERE b.kind = 'l' ORDER BY 5, w.score DESC NULLS LAST, l.title, l.id LIMIT $limit)
  SELECT * FROM person UNION ALL SELECT * FROM company UNION ALL SELECT * FROM deal UNION ALL SELECT * FROM lead`;

/** How well a record matches: 0 where every word was typed whole. */
const TYPED: Record<'p' | 'c', string> = {
  p: `CASE WHEN string_to_array(p.name_key, ' ') @> $typed::text[] THEN 0 ELSE 1 END`,
  c: `CASE WHEN string_to_array(c.name_key, ' ') @> $typed::text[] OR c.domain = ANY ($typed::text[]) THEN 0 ELSE 1 END`,
};
const typedOf = (terms: readonly Term[]): string[] => terms.map((term) => term.typed);

/** People by a part of their name and a part of their company's. */
export function foundByBoth(terms: readonly Term[], { me, limit }: Asked): Statement | null {
  const split = splits(terms);
  if (!split.sql.length) return null;
  const sql = `WITH best AS MATERIALIZED (SELECT DISTINCT id, kind, 2 AS level FROM (${split.sql.join(' UNION ALL ')}) split),
  ${PEOPLE(TYPED.p)} SELECT * FROM person`;
  return {
    sql,
    bind: { ...split.bind, typed: typedOf(terms), me: me || null, limit, most: FOR_EACH * limit },
  };
}

/** Records that have all the terms among their words, their own, and those of the companies found. */
export function foundByWords(
  terms: readonly Term[],
  { me, limit }: Asked,
  among: readonly Kind[] = ['p', 'c', 'd', 'l'],
): Statement {
  const kinds = among.flatMap((kind) => ofKind(kind, terms));
  const sql = `WITH direct AS MATERIALIZED (
    ${kinds.join(' UNION ALL ')}
    UNION ALL (SELECT r.id, r.kind::text FROM (SELECT record_id AS id FROM worked_with WHERE user_id = $me::uuid ORDER BY score DESC LIMIT ${OWN}) mine
      JOIN find_records r USING (id) WHERE r.words @@ $all::tsquery)),
  firms AS (SELECT DISTINCT id FROM direct WHERE kind = 'c' LIMIT ${AT_COMPANIES}),
  found AS (SELECT id, kind, 0 AS level FROM direct
    UNION ALL SELECT p.id, 'p', 3 FROM firms f CROSS JOIN LATERAL (SELECT id FROM people WHERE company_id = f.id LIMIT 12) p
    UNION ALL SELECT d.id, 'd', 3 FROM firms f CROSS JOIN LATERAL (SELECT id FROM deals WHERE company_id = f.id LIMIT 6) d),
  best AS MATERIALIZED (SELECT id, kind, min(level) AS level FROM found GROUP BY id, kind),${result(TYPED.p, TYPED.c)}`;
  return {
    sql,
    bind: {
      ...Object.fromEntries(
        terms.map((term, at) => [`t${at}`, term.typed]).filter(([name]) => sql.includes(`$${name}`)),
      ),
      ...(sql.includes('$whole') ? { whole: allOf(terms, true) } : {}),
      ...(sql.includes('$long') ? { long: allOf(terms.filter(isLong)) } : {}),
      all: allOf(terms),
      typed: typedOf(terms),
      me: me || null,
      limit,
      most: FOR_EACH * limit,
    },
  };
}

/**
 * People and companies by the words of their address, the last as a beginning: “braga”, “den ha”.
 * @param words folded, of three letters or more
 */
export function foundByPlace(words: readonly string[], { me, limit }: Asked): Statement {
  const [first = ''] = words;
  const last = words.length - 1;
  const is = (at: number, column: string): string =>
    at === last ? `${column} >= $t${at} AND ${column} < $t${at} || chr(1114111)` : `${column} = $t${at}`;
  const others = words
    .slice(1)
    .map((_, at) => `EXISTS (SELECT 1 FROM find_places g WHERE g.id = f.id AND ${is(at + 1, 'g.word')})`);
  const sql = `WITH found AS (SELECT f.id, f.kind::text AS kind FROM find_places f WHERE ${[is(0, 'f.word'), ...others].join(' AND ')} LIMIT $most),
  best AS MATERIALIZED (SELECT DISTINCT id, kind, 4 AS level FROM found),${PEOPLE('0')},
  ${COMPANIES('0')} SELECT * FROM person UNION ALL SELECT * FROM company`;
  return {
    sql,
    bind: {
      ...(first ? Object.fromEntries(words.map((word, at) => [`t${at}`, word])) : {}),
      me: me || null,
      limit,
      most: FOR_EACH * limit,
    },
  };
}

/** People and companies by a number: one it begins with, or the end of one. */
export function foundByPhone(
  starts: readonly string[],
  ending: string | null,
  { me, limit }: Asked,
): Statement {
  const end = ending
    ? `UNION ALL (SELECT k.person_id, 'p', 1 FROM contact_points k WHERE k.kind = 'phone'
         AND reverse(k.normalized) COLLATE "C" >= $ending AND reverse(k.normalized) COLLATE "C" < $ending || ':' LIMIT $most)
       UNION ALL (SELECT c.id, 'c', 1 FROM companies c WHERE c.phone IS NOT NULL
         AND reverse(c.phone) COLLATE "C" >= $ending AND reverse(c.phone) COLLATE "C" < $ending || ':' LIMIT $most)`
    : '';
  const sql = `WITH found AS (
    (SELECT k.person_id AS id, 'p' AS kind, CASE k.normalized WHEN s.start THEN 0 ELSE 1 END AS level
       FROM unnest($starts::text[]) AS s (start) CROSS JOIN LATERAL (
         SELECT person_id, normalized FROM contact_points WHERE kind = 'phone'
            AND normalized COLLATE "C" >= s.start AND normalized COLLATE "C" < s.start || ':' LIMIT $most) k)
    UNION ALL (SELECT c.id, 'c', CASE c.phone WHEN s.start THEN 0 ELSE 1 END
       FROM unnest($starts::text[]) AS s (start) JOIN companies c ON c.phone = s.start)
    ${end}),
  best AS MATERIALIZED (SELECT id, kind, min(level) AS level FROM found GROUP BY id, kind),${result('0', '0')}`;
  return {
    sql,
    bind: {
      starts: [...starts],
      ...(ending ? { ending } : {}),
      me: me || null,
      limit,
      most: FOR_EACH * limit,
    },
  };
}
