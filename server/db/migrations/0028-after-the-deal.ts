import { hiddenAmong, policy } from './visibility/kinds';

/** What comes after a deal: projects with stages of their own, and cases with a promise of when they are answered and solved. */
export const name = '0028-after-the-deal';

export const up = `
CREATE TABLE project_stages (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL,
  kind text NOT NULL CHECK (kind IN ('open', 'done', 'stopped')),
  position integer NOT NULL,
  active boolean NOT NULL DEFAULT true
);
INSERT INTO project_stages (name, kind, position) VALUES
  ('Planned', 'open', 1), ('In progress', 'open', 2), ('Handed over', 'done', 3), ('Stopped', 'stopped', 4);

CREATE TABLE projects (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  title text NOT NULL,
  stage_id uuid NOT NULL REFERENCES project_stages,
  stage_since timestamptz NOT NULL,
  company_id uuid REFERENCES companies,
  deal_id uuid REFERENCES deals,
  owner_id uuid NOT NULL REFERENCES users,
  starts_on date,
  due_on date,
  progress integer CHECK (progress BETWEEN 0 AND 100),
  notes text NOT NULL DEFAULT '',
  created_at timestamptz NOT NULL,
  closed_at timestamptz,
  names tsvector GENERATED ALWAYS AS (to_tsvector('simple', regexp_replace(folded(title), '[^[:alnum:]]+', ' ', 'g'))) STORED
);
COMMENT ON COLUMN projects.progress IS 'in per cent, where somebody set it; else by its tasks that are done';
CREATE INDEX projects_company ON projects (company_id);
CREATE INDEX projects_deal ON projects (deal_id);
CREATE INDEX projects_stage ON projects (stage_id);
CREATE INDEX projects_open ON projects (due_on, id) WHERE closed_at IS NULL;
CREATE INDEX projects_made ON projects (created_at DESC, id DESC);
CREATE INDEX projects_owner ON projects (owner_id, due_on) WHERE closed_at IS NULL;
CREATE INDEX projects_names ON projects USING gin (names);
${policy('projects', `NOT ${hiddenAmong('projects', ['company_id', 'deal_id'])}`, ['company_id', 'deal_id'])}
CREATE TABLE project_people (
  id uuid PRIMARY KEY,
  project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
  person_id uuid NOT NULL REFERENCES people,
  role text NOT NULL DEFAULT '',
  UNIQUE (project_id, person_id)
);
CREATE INDEX project_people_person ON project_people (person_id);
${policy('project_people', `NOT ${hiddenAmong('project_people', ['person_id'])}`, ['person_id'])}

CREATE TABLE case_promises (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  urgency text NOT NULL UNIQUE CHECK (urgency IN ('urgent', 'normal', 'low')),
  answer_hours integer NOT NULL CHECK (answer_hours BETWEEN 1 AND 1000),
  solve_hours integer NOT NULL CHECK (solve_hours BETWEEN 1 AND 2000)
);
COMMENT ON TABLE case_promises IS 'within how many working hours a case is answered first, and solved';
INSERT INTO case_promises (urgency, answer_hours, solve_hours) VALUES ('urgent', 2, 8), ('normal', 8, 40), ('low', 16, 80);

CREATE TABLE cases (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  title text NOT NULL,
  words text NOT NULL DEFAULT '',
  person_id uuid REFERENCES people,
  company_id uuid REFERENCES companies,
  deal_id uuid REFERENCES deals,
  capture_id uuid REFERENCES captures,
  thread text,
  came_by text NOT NULL CHECK (came_by IN ('mail', 'call', 'form', 'other')),
  urgency text NOT NULL CHECK (urgency IN ('urgent', 'normal', 'low')),
  owner_id uuid NOT NULL REFERENCES users,
  opened_by uuid REFERENCES users,
  opened_at timestamptz NOT NULL,
  answer_by timestamptz NOT NULL,
  solve_by timestamptz NOT NULL,
  solved_at timestamptz,
  solution text NOT NULL DEFAULT '',
  names tsvector GENERATED ALWAYS AS (to_tsvector('simple', regexp_replace(folded(title), '[^[:alnum:]]+', ' ', 'g'))) STORED,
  CHECK (num_nonnulls(person_id, company_id) > 0)
);
CREATE INDEX cases_person ON cases (person_id);
CREATE INDEX cases_company ON cases (company_id);
CREATE INDEX cases_deal ON cases (deal_id);
CREATE INDEX cases_capture ON cases (capture_id);
CREATE INDEX cases_thread ON cases (thread) WHERE thread IS NOT NULL;
CREATE INDEX cases_open ON cases (solve_by, id) WHERE solved_at IS NULL;
CREATE INDEX cases_opened ON cases (opened_at DESC, id DESC);
CREATE INDEX cases_owner ON cases (owner_id, solve_by) WHERE solved_at IS NULL;
CREATE INDEX cases_names ON cases USING gin (names);
${policy('cases', `NOT ${hiddenAmong('cases', ['person_id', 'company_id', 'deal_id', 'capture_id'])}`, ['person_id', 'company_id', 'deal_id', 'capture_id'])}

DO $$ DECLARE rule text; BEGIN
  FOR rule IN SELECT conname FROM pg_constraint WHERE conrelid = 'ledger_links'::regclass AND contype IN ('u', 'c') LOOP
    EXECUTE format('ALTER TABLE ledger_links DROP CONSTRAINT %I', rule);
  END LOOP;
END $$;
ALTER TABLE ledger_links
  ADD COLUMN project_id uuid REFERENCES projects ON DELETE CASCADE,
  ADD COLUMN case_id uuid REFERENCES cases ON DELETE CASCADE,
  ADD CONSTRAINT ledger_links_one CHECK (num_nonnulls(person_id, company_id, lead_id, deal_id, project_id, case_id) = 1),
  ADD CONSTRAINT ledger_links_once UNIQUE NULLS NOT DISTINCT (entry_id, person_id, company_id, lead_id, deal_id, project_id, case_id);
CREATE INDEX ledger_links_project ON ledger_links (project_id, at DESC, entry_id DESC) WHERE project_id IS NOT NULL;
CREATE INDEX ledger_links_case ON ledger_links (case_id, at DESC, entry_id DESC) WHERE case_id IS NOT NULL;
ALTER TABLE tasks ADD COLUMN project_id uuid REFERENCES projects ON DELETE SET NULL, ADD COLUMN case_id uuid REFERENCES cases ON DELETE SET NULL;
CREATE INDEX tasks_project ON tasks (project_id) WHERE project_id IS NOT NULL;
CREATE INDEX tasks_case ON tasks (case_id) WHERE case_id IS NOT NULL;

CREATE FUNCTION after_deals_found(asked tsquery, most integer) RETURNS TABLE (kind text, id uuid) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  (SELECT 'project', p.id FROM projects p WHERE p.names @@ asked ORDER BY p.created_at DESC LIMIT most)
  UNION ALL (SELECT 'case', c.id FROM cases c WHERE c.names @@ asked ORDER BY c.opened_at DESC LIMIT most)
$$;
COMMENT ON FUNCTION after_deals_found IS 'projects and cases by the words of their titles, seen or not: joined to them, only what one sees is left';
`;
