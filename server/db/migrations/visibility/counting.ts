import { countingFunctions, everything, type Rows } from '../0014-bounded-answers';

const addDeals = (rows: Rows): string => `
  INSERT INTO deal_sums (stage_id, owner_id, currency, seen_by, deals, plain, weighted)
  SELECT stage_id, owner_id, currency, seen_by, sum(n), sum(n * coalesce(amount_minor, 0)), sum(n * coalesce(amount_minor, 0) * probability)
    FROM (${rows('stage_id, owner_id, currency, seen_by, amount_minor, probability')}) r
   GROUP BY 1, 2, 3, 4 HAVING sum(n) <> 0 OR sum(n * coalesce(amount_minor, 0)) <> 0 OR sum(n * coalesce(amount_minor, 0) * probability) <> 0;
  INSERT INTO tag_counts (kind, pipeline_id, tag, seen_by, records)
  SELECT 'd', s.pipeline_id, r.tag, r.seen_by, sum(r.n) FROM (${rows('stage_id, seen_by, unnest(tags) AS tag')}) r JOIN stages s ON s.id = r.stage_id
   GROUP BY 2, 3, 4 HAVING sum(r.n) <> 0;`;
const addPeople = (rows: Rows): string => `
  INSERT INTO tag_counts (kind, tag, seen_by, records)
  SELECT 'p', tag, seen_by, sum(n) FROM (${rows('seen_by, unnest(tags) AS tag')}) r GROUP BY tag, seen_by HAVING sum(n) <> 0;`;
const addCompanies = (rows: Rows): string => `
  INSERT INTO tag_counts (kind, tag, seen_by, records)
  SELECT kind, tag, seen_by, sum(n) FROM (
    SELECT n, seen_by, 'industry' AS kind, industry AS tag FROM (${rows('seen_by, industry')}) i WHERE industry IS NOT NULL
    UNION ALL SELECT n, seen_by, 'country', country FROM (${rows('seen_by, country')}) c WHERE country IS NOT NULL
    UNION ALL SELECT n, seen_by, 'technology', tag FROM (${rows('seen_by, unnest(technologies) AS tag')}) t) r
   GROUP BY 1, 2, 3 HAVING sum(n) <> 0;`;

/** Counts, sums and words are kept by audience. */
export const countingSql = `
${countingFunctions('deals', addDeals)}
${countingFunctions('people', addPeople)}
${countingFunctions('companies', addCompanies)}
CREATE OR REPLACE FUNCTION counts_refresh() RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  DELETE FROM deal_sums;
  DELETE FROM tag_counts;
  ${addDeals(everything('deals'))}
  ${addPeople(everything('people'))}
  ${addCompanies(everything('companies'))}
END $$;
CREATE OR REPLACE FUNCTION find_refresh(k "char", ids uuid[]) RETURNS void LANGUAGE sql AS $$
  WITH said AS MATERIALIZED (
    SELECT p.id, p.full_name AS name, p.seen_by, array_remove(string_to_array(p.name_key, ' ') || string_to_array(folded(array_to_string(p.tags, ' ')), ' ')
             || ARRAY(SELECT unnest(ARRAY[k.normalized, split_part(k.normalized, '@', 2)]) FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email'), '') AS words
      FROM unnest(ids) u (id) JOIN people p USING (id) WHERE k = 'p'
    UNION ALL
    SELECT c.id, NULL, c.seen_by, array_remove(string_to_array(folded(c.name) || ' ' || c.name_key, ' ') || coalesce(c.domain, ''), '')
      FROM unnest(ids) u (id) JOIN companies c USING (id) WHERE k = 'c'
    UNION ALL
    SELECT d.id, NULL, d.seen_by, array_remove(string_to_array(folded(d.title), ' '), '') FROM unnest(ids) u (id) JOIN deals d USING (id) WHERE k = 'd'
    UNION ALL
    SELECT l.id, NULL, l.seen_by, array_remove(string_to_array(folded(l.title), ' '), '') FROM unnest(ids) u (id) JOIN leads l USING (id) WHERE k = 'l'),
  record AS (
    INSERT INTO find_records AS r (id, kind, words, seen_by) SELECT id, k, array_to_tsvector(words), seen_by FROM said
    ON CONFLICT (id) DO UPDATE SET words = excluded.words, seen_by = excluded.seen_by WHERE r.words <> excluded.words),
  gone AS (DELETE FROM find_words f USING unnest(ids) u (id) WHERE f.id = u.id),
  put AS (INSERT INTO find_words (kind, word, id, name, seen_by) SELECT DISTINCT k, w, id, name, seen_by FROM said, unnest(words) w),
  plain AS (SELECT DISTINCT w COLLATE "C" AS word FROM said, unnest(words) w WHERE length(w) > 2 AND w !~ '[@.]')
  INSERT INTO find_vocabulary SELECT word FROM plain WHERE NOT EXISTS (SELECT 1 FROM find_vocabulary v WHERE v.word = plain.word)
$$;
`;
