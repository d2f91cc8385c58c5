import type { SearchHit } from '@emporikon/contract/settings';
import { partedTerms } from '@emporikon/core/people/naming/findable';
import { rankHits, readSought, type Sought } from '@emporikon/core/query/find';
import type { Context } from '../commands/context';
import { QueryTypes } from 'sequelize';
import { askWithFixedPlan, withFixedPlans } from '../db/prepared';
import { foundByBoth, foundByPhone, foundByPlace, foundByWords, type Statement, type Term } from './sql';
import { textQueryOf } from './textQuery';
import { wordsSpelt } from './spellings';
import { alikeWords, wordsBeginning } from './vocabulary';

interface HitRow {
  kind: SearchHit['kind'];
  id: string;
  label: string;
  hint: string;
  level: number;
  score: number | null;
  inactive: boolean;
}

/** With fewer good hits than this, slips of the fingers are thought of. */
const FEW = 4;
/** How much less a name that is spelt otherwise matches, and one that is a slip away. */
const [SPELT, SLIP] = [1, 6];
/** Beyond this a hit has only part of what was typed, and others may be meant. */
const LEAST_MATCH = 2;
const MANY = 3;

interface Ask {
  context: Context;
  me: string;
}

const ask = <Row extends object>({ context }: Ask, { sql, bind }: Statement): Promise<Row[]> =>
  askWithFixedPlan<Row>(context, sql, bind);

const beginning = (typed: string): Term => ({ typed, words: null });

async function findMeantWords(asked: Ask, terms: readonly string[]): Promise<Term[] | null> {
  const alike = await alikeWords(
    asked.context,
    terms.filter((term) => term.length > 2 && !term.includes('@')),
    true,
  );
  if (![...alike.values()].some((words) => words.length)) return null;
  return terms.map((term): Term => {
    const words = alike.get(term) ?? [];
    return words.length ? { typed: term, words, slip: true } : beginning(term);
  });
}

/** The terms, each as the words that are the same name spelt otherwise; null where there are none. */
async function findSpelt(asked: Ask, terms: readonly Term[]): Promise<Term[] | null> {
  const parted = partedTerms(terms.map(({ typed }) => typed));
  const spelt = await wordsSpelt(asked.context, parted, ['whole', 'forms', 'beginnings']);
  if (!spelt.some((words) => words.length)) return null;
  // One word alone has been looked for as it stands.
  if (parted.length === 1) return [{ typed: parted[0] ?? '', words: spelt[0] ?? null, slip: true }];
  const known = new Map(terms.map((term) => [term.typed, term.words]));
  return parted.map((typed, at) => ({
    typed,
    words: known.get(typed) ?? null,
    also: spelt[at] ?? [],
    slip: true,
  }));
}

/** Whether somebody has all of several words just as they were typed. */
const isMeant = (hits: readonly HitRow[], { terms }: Sought): boolean =>
  terms.length > 1 && hits.some(({ level }) => level === 0);

async function byWords(asked: Ask, sought: Sought, limit: number): Promise<HitRow[]> {
  if (!sought.terms.length) return [];
  const run = async (statement: Statement | null, slip: number): Promise<HitRow[]> =>
    statement
      ? (await ask<HitRow>(asked, statement)).map((row) => ({
          ...row,
          level: row.level + slip,
        }))
      : [];
  const by = { me: asked.me, limit };
  // Several beginnings are looked up as the few words they may become; one alone is a range of words.
  const becoming = sought.terms.length > 1 ? await wordsBeginning(asked.context, sought.terms) : [];
  const terms = sought.terms.map((typed, at): Term => ({
    typed,
    words: becoming[at]?.words ?? null,
    commonTo: becoming[at]?.commonTo ?? [],
  }));
  const hits = await run(foundByWords(terms, by), 0);
  if (sought.address) hits.push(...(await run(foundByWords([beginning(sought.address)], by), 0)));
  if (hits.length < limit) hits.push(...(await run(foundByBoth(terms, by), 0)));
  const good = hits.filter(({ level }) => level <= LEAST_MATCH).length;
  // So many words that all fit somebody were not meant for anybody else.
  if (good && terms.length >= MANY) return hits;
  if (good < limit) {
    const spelt = await findSpelt(asked, terms);
    if (spelt) hits.push(...(await run(foundByWords(spelt, by, ['p', 'c']), SPELT)));
    if (spelt && hits.length < FEW) hits.push(...(await run(foundByBoth(spelt, by), SPELT)));
  }
  if (hits.length >= Math.min(FEW, limit) || isMeant(hits, sought)) return hits;
  const others = await findMeantWords(asked, sought.terms);
  return others ? [...hits, ...(await run(foundByWords(others, by), SLIP))] : hits;
}

async function byPhone(asked: Ask, sought: Sought, limit: number): Promise<HitRow[]> {
  const phone = sought.phone;
  if (!phone) return [];
  const run = async (starts: readonly string[], ending: string | null): Promise<HitRow[]> => {
    return ask<HitRow>(asked, foundByPhone(starts, ending, { me: asked.me, limit }));
  };
  const hits = await run(phone.starts, phone.ending);
  return hits.length || !phone.elsewhere.length ? hits : run(phone.elsewhere, null);
}

/** A town has a few words, of three letters or more. */
async function byPlace(asked: Ask, { terms }: Sought, limit: number): Promise<HitRow[]> {
  const isPlace = terms.length > 0 && terms.length < 4 && terms.every((term) => /^\p{L}{3,}$/u.test(term));
  return isPlace ? ask<HitRow>(asked, foundByPlace(terms, { me: asked.me, limit })) : [];
}

/** The deal of a quote, by the quote's number. */
async function byQuote(asked: Ask, text: string): Promise<HitRow[]> {
  const number = text.trim().toUpperCase();
  if (!/^[\p{L}\p{N}][\p{L}\p{N}./-]{2,39}$/u.test(number) || !/\d/.test(number)) return [];
  return ask<HitRow>(asked, {
    sql: `SELECT 'deal' AS kind, d.id, d.title AS label, 'Quote ' || q.number AS hint, 0 AS level, NULL::real AS score, false AS inactive
            FROM quotes q JOIN deals d ON d.id = q.deal_id WHERE q.number = $number`,
    bind: { number },
  });
}

/** So many files are shown below records. */
const [MOST_FILES, MOST_LOOKED_AT, LEAST_TYPED] = [3, 200, 3];
async function foundFiles(context: Context, typed: string, limit: number): Promise<HitRow[]> {
  const query = typed.trim().length >= LEAST_TYPED ? textQueryOf(typed) : null;
  if (!query) return [];
  return context.sequelize.query<HitRow>(
    `SELECT 'file' AS kind, f.id, f.name AS label, 0 AS level, NULL AS score, false AS inactive,
            coalesce((SELECT p.full_name FROM ledger_links k JOIN people p ON p.id = k.person_id WHERE k.entry_id = f.entry_id LIMIT 1),
                     (SELECT c.name FROM ledger_links k JOIN companies c ON c.id = k.company_id WHERE k.entry_id = f.entry_id LIMIT 1),
                     (SELECT t.title FROM tasks t WHERE t.id = f.task_id), '') AS hint
       FROM files f WHERE f.id IN (SELECT file_id FROM files_found($query::tsquery, ${MOST_LOOKED_AT})) ORDER BY f.at DESC LIMIT ${limit}`,
    { bind: { query }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

/** So many projects and cases are shown below what is sold. */
async function foundAfterDeals(
  context: Context,
  typed: string,
  limit: number,
  only?: string,
): Promise<HitRow[]> {
  const query = typed.trim().length >= LEAST_TYPED ? textQueryOf(typed) : null;
  if (!query) return [];
  return context.sequelize.query<HitRow>(
    `SELECT kind, id, label, hint, 0 AS level, NULL AS score, inactive FROM (
       SELECT 'project' AS kind, p.id, p.title AS label, coalesce((SELECT c.name FROM companies c WHERE c.id = p.company_id), '') AS hint,
              p.closed_at IS NOT NULL AS inactive, p.created_at AS at
         FROM after_deals_found($query::tsquery, ${MOST_LOOKED_AT}) f JOIN projects p ON f.kind = 'project' AND p.id = f.id
       UNION ALL
       SELECT 'case', s.id, s.title, coalesce((SELECT p.full_name FROM people p WHERE p.id = s.person_id),
              (SELECT c.name FROM companies c WHERE c.id = s.company_id), ''), s.solved_at IS NOT NULL, s.opened_at
         FROM after_deals_found($query::tsquery, ${MOST_LOOKED_AT}) f JOIN cases s ON f.kind = 'case' AND s.id = f.id) found
      WHERE ($only::text IS NULL OR kind = $only) ORDER BY inactive, at DESC LIMIT ${limit}`,
    { bind: { query, only: only ?? null }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

/** Each record once, as well matched as it is matched anywhere. */
function withoutRepeats(hits: readonly HitRow[]): HitRow[] {
  const best = new Map<string, HitRow>();
  for (const hit of hits) {
    const there = best.get(hit.id);
    if (!there || hit.level < there.level) best.set(hit.id, hit);
  }
  return [...best.values()];
}

/**
 * Finds people, companies, deals and leads by what was typed: parts of names in any order, in another script or spelling,
 * by short forms, with slips and without diacritics, addresses and domains from their beginning, numbers in any written form,
 * tags, towns, the numbers of quotes, and files by their names and words.
 * @param limit how many at most, best first
 * @param only only records of this kind
 */
export async function find(
  context: Context,
  text: string,
  limit: number,
  only?: SearchHit['kind'],
): Promise<SearchHit[]> {
  const sought = readSought(text, context.house.country);
  const asked: Ask = { context, me: context.actor?.id ?? '' };
  const isWanted = (hit: HitRow): boolean => !only || hit.kind === only;
  const hits = await withFixedPlans(context, async () => {
    const found = [
      ...(await byQuote(asked, text)),
      ...(await byPhone(asked, sought, limit)),
      ...(await byWords(asked, sought, limit)),
    ].filter(isWanted);
    if (found.length < limit && !isMeant(found, sought))
      found.push(...(await byPlace(asked, sought, limit)).filter(isWanted));
    return found;
  });
  const records = rankHits(withoutRepeats(hits), limit);
  const files = !only || only === 'file' ? await foundFiles(context, text, only ? limit : MOST_FILES) : [];
  const after =
    !only || only === 'project' || only === 'case'
      ? await foundAfterDeals(context, text, only ? limit : MOST_FILES, only)
      : [];
  // Files, projects and cases stand below the records, and have places of their own.
  return [...records.slice(0, Math.max(0, limit - files.length - after.length)), ...after, ...files].map(
    ({ kind, id, label, hint, inactive }) => ({
      kind,
      id,
      label,
      hint,
      inactive,
    }),
  );
}
