/** Counts and sums that are kept, and what lists are read by page by page. */
export const name = '0014-bounded-answers';

const OPERATIONS = {
  insert: {
    referencing: 'NEW TABLE AS new_rows',
    rows: (columns: string) => `SELECT 1 AS n, ${columns} FROM new_rows`,
  },
  delete: {
    referencing: 'OLD TABLE AS old_rows',
    rows: (columns: string) => `SELECT -1 AS n, ${columns} FROM old_rows`,
  },
  update: {
    referencing: 'OLD TABLE AS old_rows NEW TABLE AS new_rows',
    rows: (columns: string) =>
      `SELECT 1 AS n, ${columns} FROM new_rows UNION ALL SELECT -1, ${columns} FROM old_rows`,
  },
};

export type Rows = (columns: string) => string;

/** Functions that add what a statement changed of a table to what is counted of it. */
export const countingFunctions = (table: string, add: (rows: Rows) => string): string =>
  Object.entries(OPERATIONS)
    .map(
      ([operation, { rows }]) => `
CREATE OR REPLACE FUNCTION ${table}_counted_${operation}() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
${add(rows)}
  RETURN NULL;
END $$;`,
    )
    .join('\n');

const counting = (table: string, add: (rows: Rows) => string): string =>
  countingFunctions(table, add) +
  Object.entries(OPERATIONS)
    .map(
      ([operation, { referencing }]) => `
CREATE TRIGGER ${table}_counted_${operation} AFTER ${operation} ON ${table} REFERENCING ${referencing}
  FOR EACH STATEMENT EXECUTE FUNCTION ${table}_counted_${operation}();`,
    )
    .join('\n');

const addDeals = (rows: Rows): string => `
  INSERT INTO deal_sums (stage_id, owner_id, currency, deals, plain, weighted)
  SELECT stage_id, owner_id, currency, sum(n), sum(n * coalesce(amount_minor, 0)), sum(n * coalesce(amount_minor, 0) * probability)
    FROM (${rows('stage_id, owner_id, currency, amount_minor, probability')}) r
   GROUP BY 1, 2, 3 HAVING sum(n) <> 0 OR sum(n * coalesce(amount_minor, 0)) <> 0 OR sum(n * coalesce(amount_minor, 0) * probability) <> 0;
  INSERT INTO tag_counts (kind, pipeline_id, tag, records)
  SELECT 'd', s.pipeline_id, r.tag, sum(r.n) FROM (${rows('stage_id, unnest(tags) AS tag')}) r JOIN stages s ON s.id = r.stage_id
   GROUP BY 2, 3 HAVING sum(r.n) <> 0;`;
const addPeople = (rows: Rows): string => `
  INSERT INTO tag_counts (kind, tag, records)
  SELECT 'p', tag, sum(n) FROM (${rows('unnest(tags) AS tag')}) r GROUP BY tag HAVING sum(n) <> 0;`;
const addCompanies = (rows: Rows): string => `
  INSERT INTO tag_counts (kind, tag, records)
  SELECT kind, tag, sum(n) FROM (
    SELECT n, 'industry' AS kind, industry AS tag FROM (${rows('industry')}) i WHERE industry IS NOT NULL
    UNION ALL SELECT n, 'country', country FROM (${rows('country')}) c WHERE country IS NOT NULL
    UNION ALL SELECT n, 'technology', tag FROM (${rows('unnest(technologies) AS tag')}) t) r
   GROUP BY 1, 2 HAVING sum(n) <> 0;`;
/** All rows of a table as if they had just come. */
export const everything =
  (table: string): Rows =>
  (columns) =>
    `SELECT 1 AS n, ${columns} FROM ${table}`;

export const up = `
-- Rows are only ever added, so that two commands never wait for each other here; whoever asks adds up, and a job puts
-- them together now and then.
CREATE TABLE deal_sums (
  stage_id uuid NOT NULL,
  owner_id uuid NOT NULL,
  currency text NOT NULL,
  deals bigint NOT NULL,
  plain numeric NOT NULL,
  weighted numeric NOT NULL
);
CREATE INDEX deal_sums_stage ON deal_sums (stage_id, owner_id, currency);
COMMENT ON TABLE deal_sums IS 'deals by stage, owner and currency: how many, their sum in minor units, and that times their probability in per cent; rows add up';
CREATE TABLE tag_counts (
  kind text NOT NULL CHECK (kind IN ('p', 'd', 'industry', 'country', 'technology')),
  pipeline_id uuid,
  tag text NOT NULL,
  records bigint NOT NULL
);
CREATE INDEX tag_counts_tag ON tag_counts (kind, pipeline_id, tag);
COMMENT ON TABLE tag_counts IS 'how many people have a tag, deals of a pipeline a tag, companies an industry, country or technology; rows add up';

${counting('deals', addDeals)}
${counting('people', addPeople)}
${counting('companies', addCompanies)}
CREATE FUNCTION counts_refresh() RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  DELETE FROM deal_sums;
  DELETE FROM tag_counts;
  ${addDeals(everything('deals'))}
  ${addPeople(everything('people'))}
  ${addCompanies(everything('companies'))}
END $$;
COMMENT ON FUNCTION counts_refresh IS 'counts everything anew, after rows were put in past the triggers';
SELECT counts_refresh();

DROP INDEX deals_stage;
CREATE INDEX deals_stage_since ON deals (stage_id, stage_since DESC, id DESC);
CREATE INDEX deals_owner_since ON deals (owner_id, stage_since DESC, id DESC);
CREATE INDEX deals_expected ON deals (expected_close) WHERE closed_at IS NULL;
CREATE INDEX deals_tags ON deals USING gin (tags);

CREATE INDEX deals_reason ON deals (stage_id, close_reason);

-- Every pointer to a record is found from its other end, too: by what is filed, merged, or removed.
CREATE INDEX calls_capture ON calls (capture_id) WHERE capture_id IS NOT NULL;
CREATE INDEX calls_person ON calls (person_id) WHERE person_id IS NOT NULL;
CREATE INDEX claims_replaces ON claims (replaces) WHERE replaces IS NOT NULL;
CREATE INDEX deal_lines_product ON deal_lines (product_id) WHERE product_id IS NOT NULL;
CREATE INDEX form_submissions_form ON form_submissions (form_id, submitted_at DESC);
CREATE INDEX lead_answers_capture ON lead_answers (capture_id) WHERE capture_id IS NOT NULL;
CREATE INDEX lead_answers_question ON lead_answers (question_id);
CREATE INDEX leads_deal ON leads (deal_id) WHERE deal_id IS NOT NULL;
CREATE INDEX ledger_entries_capture ON ledger_entries (capture_id) WHERE capture_id IS NOT NULL;
CREATE INDEX quotes_entry ON quotes (entry_id) WHERE entry_id IS NOT NULL;
CREATE INDEX tasks_company ON tasks (company_id) WHERE company_id IS NOT NULL;

-- How far from closed a lead is: what leads are listed by first.
CREATE FUNCTION lead_openness(status text) RETURNS smallint LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
  SELECT (CASE status WHEN 'new' THEN 5 WHEN 'working' THEN 4 WHEN 'qualified' THEN 3 WHEN 'parked' THEN 2 WHEN 'converted' THEN 1 ELSE 0 END)::smallint
$$;
CREATE INDEX leads_open_first ON leads (lead_openness(status) DESC, created_at DESC, id DESC);
CREATE INDEX leads_owner_open_first ON leads (owner_id, lead_openness(status) DESC, created_at DESC, id DESC);
CREATE INDEX leads_status_since ON leads (status, created_at DESC, id DESC);
CREATE INDEX leads_created ON leads (created_at) INCLUDE (owner_id, given_by);
DROP INDEX leads_dropped;
CREATE INDEX leads_dropped ON leads (status_since) INCLUDE (drop_reason) WHERE status = 'dropped';
DROP INDEX lead_scores_chance;
CREATE INDEX lead_scores_chance ON lead_scores (chance DESC, lead_id DESC);

CREATE INDEX companies_name ON companies (name, id);

DROP INDEX tasks_open;
CREATE INDEX tasks_open ON tasks (assignee_id, due_at, id) WHERE done_at IS NULL;
CREATE INDEX tasks_open_of_all ON tasks (due_at, id) WHERE done_at IS NULL;

CREATE INDEX people_untriaged_any ON people (created_at, id) WHERE triaged_at IS NULL AND inactive_since IS NULL;
CREATE INDEX people_triaged ON people (triaged_at) WHERE triaged_at IS NOT NULL;
CREATE INDEX list_members_list ON list_members (list_id, created_at, person_id);

-- The name stands beside each of its words, so that people of a common word are read page by page in the order of names.
ALTER TABLE find_words ADD COLUMN name text;
UPDATE find_words f SET name = p.full_name FROM people p WHERE f.kind = 'p' AND p.id = f.id;
CREATE OR REPLACE FUNCTION find_refresh(k "char", ids uuid[]) RETURNS void LANGUAGE sql AS $$
  WITH said AS MATERIALIZED (
    SELECT p.id, p.full_name AS name, array_remove(string_to_array(p.name_key, ' ') || string_to_array(folded(array_to_string(p.tags, ' ')), ' ')
             || ARRAY(SELECT unnest(ARRAY[k.normalized, split_part(k.normalized, '@', 2)]) FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email'), '') AS words
      FROM unnest(ids) u (id) JOIN people p USING (id) WHERE k = 'p'
    UNION ALL
    SELECT c.id, NULL, array_remove(string_to_array(folded(c.name) || ' ' || c.name_key, ' ') || coalesce(c.domain, ''), '')
      FROM unnest(ids) u (id) JOIN companies c USING (id) WHERE k = 'c'
    UNION ALL
    SELECT d.id, NULL, array_remove(string_to_array(folded(d.title), ' '), '') FROM unnest(ids) u (id) JOIN deals d USING (id) WHERE k = 'd'
    UNION ALL
    SELECT l.id, NULL, array_remove(string_to_array(folded(l.title), ' '), '') FROM unnest(ids) u (id) JOIN leads l USING (id) WHERE k = 'l'),
  record AS (
    INSERT INTO find_records AS r (id, kind, words) SELECT id, k, array_to_tsvector(words) FROM said
    ON CONFLICT (id) DO UPDATE SET words = excluded.words WHERE r.words <> excluded.words),
  gone AS (DELETE FROM find_words f USING unnest(ids) u (id) WHERE f.id = u.id),
  put AS (INSERT INTO find_words (kind, word, id, name) SELECT DISTINCT k, w, id, name FROM said, unnest(words) w),
  plain AS (SELECT DISTINCT w COLLATE "C" AS word FROM said, unnest(words) w WHERE length(w) > 2 AND w !~ '[@.]')
  INSERT INTO find_vocabulary SELECT word FROM plain WHERE NOT EXISTS (SELECT 1 FROM find_vocabulary v WHERE v.word = plain.word)
$$;
DROP TRIGGER find_people_update ON people;
CREATE TRIGGER find_people_update AFTER UPDATE ON people REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('p', 'name_key', 'tags', 'full_name');
CREATE INDEX find_words_name ON find_words (word, name, id) WHERE kind = 'p';

-- When it was said stands on the link too, so that the ledger of a record is read page by page.
ALTER TABLE ledger_links ADD COLUMN at timestamptz;
UPDATE ledger_links k SET at = n.at FROM ledger_entries n WHERE n.id = k.entry_id;
ALTER TABLE ledger_links ALTER COLUMN at SET NOT NULL;
CREATE FUNCTION ledger_links_take_time() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  SELECT at INTO NEW.at FROM ledger_entries WHERE id = NEW.entry_id;
  RETURN NEW;
END $$;
CREATE TRIGGER ledger_links_take_time BEFORE INSERT ON ledger_links FOR EACH ROW EXECUTE FUNCTION ledger_links_take_time();
CREATE FUNCTION ledger_entries_hand_time() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE ledger_links SET at = NEW.at WHERE entry_id = NEW.id;
  RETURN NEW;
END $$;
CREATE TRIGGER ledger_entries_hand_time AFTER UPDATE OF at ON ledger_entries FOR EACH ROW WHEN (OLD.at <> NEW.at) EXECUTE FUNCTION ledger_entries_hand_time();
DROP INDEX ledger_links_person, ledger_links_company, ledger_links_lead, ledger_links_deal;
CREATE INDEX ledger_links_person ON ledger_links (person_id, at DESC, entry_id DESC) WHERE person_id IS NOT NULL;
CREATE INDEX ledger_links_company ON ledger_links (company_id, at DESC, entry_id DESC) WHERE company_id IS NOT NULL;
CREATE INDEX ledger_links_lead ON ledger_links (lead_id, at DESC, entry_id DESC) WHERE lead_id IS NOT NULL;
CREATE INDEX ledger_links_deal ON ledger_links (deal_id, at DESC, entry_id DESC) WHERE deal_id IS NOT NULL;
`;
