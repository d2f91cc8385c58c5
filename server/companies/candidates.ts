import type { CompanyFacts } from '@emporikon/core/matching/firms';
import { decideCompany, type Candidate, type Verdict } from '@emporikon/core/matching/verdict';
import { companyKey } from '@emporikon/core/people/companies';
import type { Context } from '../commands/context';
import { askWithFixedPlan } from '../db/prepared';
import { allOf, type Term } from '../search/sql';
import { alikeWords } from '../search/vocabulary';

interface CompanyRow {
  id: string;
  name: string;
  domain: string | null;
  phone: string | null;
  address: string | null;
  records: number;
}

/** Companies that share the domain, the number or nearly the name. */
const CANDIDATES = `WITH found AS (
    SELECT id FROM companies WHERE domain = $domain
    UNION (SELECT id FROM companies WHERE name_key = $key AND $key <> '' LIMIT 20)
    UNION (SELECT id FROM companies WHERE phone = $phone LIMIT 20)
    UNION (SELECT r.id FROM find_records r WHERE r.kind = 'c' AND r.words @@ nullif($all, '')::tsquery LIMIT 30)
    UNION (SELECT r.id FROM find_records r WHERE r.kind = 'c' AND r.words @@ nullif($two, '')::tsquery LIMIT 30)
    UNION (SELECT f.id FROM find_words f WHERE f.kind = 'c' AND f.word = $first LIMIT 20))
  SELECT c.id, c.name, c.domain, c.phone, c.address, (SELECT greatest(reltuples, 0)::int FROM pg_class WHERE oid = 'companies'::regclass) AS records
    FROM found JOIN companies c USING (id)`;

/** Companies it may be, with how many there are. */
export async function companyCandidates(
  context: Context,
  facts: CompanyFacts,
): Promise<{ candidates: Candidate<CompanyFacts>[]; records: number }> {
  const key = companyKey(facts.name);
  const words = key.split(' ').filter(Boolean);
  const alike = await alikeWords(context, [...new Set(words.filter((word) => word.length > 3))], false);
  const terms = words.map((typed): Term => ({
    typed,
    words: [...new Set([typed, ...(alike.get(typed) ?? [])])],
  }));
  const rows = await askWithFixedPlan<CompanyRow>(context, CANDIDATES, {
    domain: facts.domain ?? '',
    phone: facts.phone ?? '',
    key,
    all: terms.length ? allOf(terms) : '',
    // What a firm is called by comes first, what it does and where after that.
    two: terms.length > 2 ? allOf(terms.slice(0, 2)) : '',
    first: words[0] ?? '',
  });
  return {
    records: rows[0]?.records ?? 0,
    candidates: rows.map(({ id, name, domain, phone, address }) => ({
      id,
      label: name,
      facts: { name, domain, phone, address },
    })),
  };
}

/** Same, maybe or new: a company told of in facts, against the whole book. */
export async function knownCompany(context: Context, facts: CompanyFacts): Promise<Verdict> {
  const { candidates, records } = await companyCandidates(context, facts);
  return decideCompany(facts, candidates, { records });
}
