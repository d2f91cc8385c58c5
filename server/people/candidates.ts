import type { PersonFacts } from '@emporikon/core/matching/evidence';
import { decidePerson, type Candidate, type Verdict } from '@emporikon/core/matching/verdict';
import { companyKey } from '@emporikon/core/people/companies';
import { companyDomain } from '@emporikon/core/people/emails';
import { stripTitles } from '@emporikon/core/people/names';
import { fold } from '@emporikon/core/people/text';
import type { Context } from '../commands/context';
import { askPrepared, askWithFixedPlan, withFixedPlans } from '../db/prepared';
import { allOf, type Term } from '../search/sql';
import { wordsSpelt } from '../search/spellings';
import { alikeWords } from '../search/vocabulary';
import { bookOf, personBooks } from './book';

interface PersonRow {
  id: string;
  full_name: string;
  company: string | null;
  emails: string[];
  phones: string[];
  profiles: string[];
}

/** The words of a name, each with the other words it may stand under in the book. */
interface SoughtName {
  /** As they are. */
  words: string[];
  family: string[];
  given: string[];
}

const wordsOf = (fullName: string): string[] => fold(stripTitles(fullName)).split(' ').filter(Boolean);
const endsOf = (words: readonly string[]): [given: string, family: string] =>
  words.length > 1 ? [words[0] ?? '', words.at(-1) ?? ''] : ['', words[0] ?? ''];

/** So many words a word of a name may stand under because of its spelling, and so many because of a slip. */
const [MOST_SPELT, MOST_SLIPS] = [10, 8];

/** The names of some people as they may stand in the book, in one question however many they are. */
async function soughtNames(context: Context, fullNames: readonly string[]): Promise<SoughtName[]> {
  const all = fullNames.map(wordsOf);
  const long = all.flatMap(endsOf).filter((word) => word.length > 3);
  const ends = [...new Set(all.flatMap(endsOf).filter(Boolean))];
  const alike = await alikeWords(context, [...new Set(long)], false);
  // It may stand in the book in another script or spelling, or in a short form.
  const spelt = await wordsSpelt(context, ends, ['whole', 'forms']);
  const others = (word: string): string[] => [
    ...(spelt[ends.indexOf(word)] ?? []).slice(0, MOST_SPELT),
    ...(alike.get(word) ?? []).slice(0, MOST_SLIPS),
  ];
  return all.map((words) => {
    const [given, family] = endsOf(words);
    return {
      words,
      family: family ? [...new Set([family, ...others(family)])] : [],
      given: given ? [...new Set([given, given.slice(0, 1), ...others(given)])] : [],
    };
  });
}

/**
 * People who share an address, a number or a page with somebody, have nearly the name, or work at the firm and share a
 * part of the name. Every way in is a range of an index, so that it takes as long in a book of a million.
 */
const CANDIDATES = `WITH named AS MATERIALIZED (
    SELECT r.id FROM find_records r WHERE r.kind = 'p' AND r.words @@ nullif($named, '')::tsquery LIMIT 40),
  -- Of a name that so many have, those who have nearly the name are too many to tell anything.
  alike AS (
    SELECT r.id FROM find_records r WHERE r.kind = 'p' AND (SELECT count(*) FROM named) < 40 AND r.words @@ nullif($alike, '')::tsquery LIMIT 60),
  firm AS (SELECT id FROM companies WHERE name_key = $firm AND $firm <> '' UNION SELECT id FROM companies WHERE domain = ANY ($domains::text[])),
  colleagues AS (
    SELECT p.id FROM people p WHERE p.company_id IN (SELECT id FROM firm)
       AND EXISTS (SELECT 1 FROM find_records r WHERE r.id = p.id AND r.words @@ nullif($parts, '')::tsquery) LIMIT 30),
  found AS (
    SELECT person_id AS id FROM contact_points WHERE kind = 'email' AND normalized = ANY ($emails::text[])
    UNION (SELECT person_id FROM contact_points WHERE kind = 'phone' AND normalized COLLATE "C" = ANY ($phones::text[]) LIMIT 40)
    UNION (SELECT person_id FROM contact_points WHERE kind = 'profile' AND normalized = ANY ($profiles::text[]) LIMIT 40)
    UNION SELECT id FROM named UNION SELECT id FROM alike UNION SELECT id FROM colleagues)
  SELECT p.id, p.full_name, c.name AS company,
         ARRAY(SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'email') AS emails,
         ARRAY(SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone') AS phones,
         ARRAY(SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'profile') AS profiles
    FROM found JOIN people p USING (id) LEFT JOIN companies c ON c.id = p.company_id LIMIT 160`;

/** The same for many at once: `n` says for whom of them a row was found. */
const CANDIDATES_OF_MANY = `SELECT w.n, c.* FROM jsonb_to_recordset($sought::jsonb)
    AS w (n int, emails text[], phones text[], profiles text[], domains text[], firm text, named text, alike text, parts text)
  CROSS JOIN LATERAL (${CANDIDATES.replace(/\$([a-z]\w*)/g, 'w.$1')}) c`;

/** What the statement is given of somebody. */
function bindOf(facts: PersonFacts, name: SoughtName): Record<string, unknown> {
  const family: Term = { typed: name.family[0] ?? '', words: name.family };
  const given: Term = { typed: name.given[0] ?? '', words: name.given };
  const both = given.typed ? [given, family] : [family];
  return {
    emails: [...facts.emails],
    phones: [...facts.phones],
    profiles: [...(facts.profiles ?? [])],
    domains: facts.emails.map(companyDomain).filter(Boolean),
    firm: companyKey(facts.companyName),
    named: family.typed
      ? allOf(
          both.map(({ typed }) => ({ typed, words: null })),
          true,
        )
      : '',
    alike: given.typed ? allOf(given.typed.length === 1 ? [{ ...given, words: null }, family] : both) : '',
    parts: family.typed ? allOf([{ typed: '', words: [...name.family, ...name.given] }]) : '',
  };
}

const asCandidate = (row: PersonRow): Candidate<PersonFacts> => ({
  id: row.id,
  label: row.company ? `${row.full_name}, ${row.company}` : row.full_name,
  facts: {
    fullName: row.full_name,
    emails: row.emails,
    phones: row.phones,
    profiles: row.profiles,
    companyName: row.company ?? '',
  },
});

/** Same, maybe or new: somebody told of in facts, against the whole book. */
export async function knownPerson(context: Context, facts: PersonFacts): Promise<Verdict> {
  const { switchboards, ...book } = await bookOf(context, 'person', facts.fullName, facts.phones);
  const rows = await withFixedPlans(context, async () => {
    const [name = { words: [], family: [], given: [] }] = await soughtNames(context, [facts.fullName]);
    return askPrepared<PersonRow>(context, CANDIDATES, bindOf(facts, name));
  });
  return decidePerson({ ...facts, switchboards }, rows.map(asCandidate), book);
}

/** The same for many, in three questions however many they are; in their order. */
export async function knownPersons(context: Context, all: readonly PersonFacts[]): Promise<Verdict[]> {
  if (!all.length) return [];
  const names = await soughtNames(
    context,
    all.map(({ fullName }) => fullName),
  );
  const books = await personBooks(context, all);
  const sought = all.map((facts, n) => ({
    n,
    ...bindOf(facts, names[n] ?? { words: [], family: [], given: [] }),
  }));
  const rows = await askWithFixedPlan<PersonRow & { n: number }>(context, CANDIDATES_OF_MANY, {
    sought: JSON.stringify(sought),
  });
  return all.map((facts, at) => {
    const { switchboards = [], ...book } = books[at] ?? { records: 0, namesakes: null };
    return decidePerson({ ...facts, switchboards }, rows.filter(({ n }) => n === at).map(asCandidate), book);
  });
}
