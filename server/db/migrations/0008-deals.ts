/** Several pipelines, what deals were in the past, products with prices, lines, rates, quotes; who worked where and who is what to whom. */
export const name = '0008-deals';

export const up = `
CREATE TABLE pipelines (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL UNIQUE CHECK (name <> ''),
  position integer NOT NULL,
  chances text NOT NULL DEFAULT 'given' CHECK (chances IN ('given', 'measured')),
  active boolean NOT NULL DEFAULT true
);
INSERT INTO pipelines (name, position) VALUES ('Sales', 1);
ALTER TABLE stages ADD COLUMN pipeline_id uuid REFERENCES pipelines;
UPDATE stages SET pipeline_id = (SELECT id FROM pipelines);
ALTER TABLE stages ALTER COLUMN pipeline_id SET NOT NULL;
ALTER TABLE stages DROP CONSTRAINT stages_name_key, DROP CONSTRAINT stages_position_key;
ALTER TABLE stages ADD UNIQUE (pipeline_id, name);
ALTER TABLE stages ADD COLUMN asks text[] NOT NULL DEFAULT '{}';
COMMENT ON COLUMN stages.asks IS 'what should be known of a deal before it comes here; asked for, never forced';

CREATE TABLE close_reasons (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('won', 'lost')),
  position integer NOT NULL,
  words text NOT NULL CHECK (words <> ''),
  active boolean NOT NULL DEFAULT true
);
INSERT INTO close_reasons (kind, position, words) VALUES
  ('won', 1, 'price'), ('won', 2, 'the product'), ('won', 3, 'how fast we deliver'), ('won', 4, 'they know us'),
  ('lost', 1, 'price'), ('lost', 2, 'bought elsewhere'), ('lost', 3, 'no budget'), ('lost', 4, 'no answer'), ('lost', 5, 'not what they need');

ALTER TABLE deals ADD COLUMN tags text[] NOT NULL DEFAULT '{}', ADD COLUMN close_reason text, ADD COLUMN closed_at timestamptz;
UPDATE deals d SET closed_at = d.stage_since FROM stages s WHERE s.id = d.stage_id AND s.kind <> 'open';
CREATE INDEX deals_closed ON deals (closed_at) WHERE closed_at IS NOT NULL;
ALTER TABLE leads ADD COLUMN deal_id uuid REFERENCES deals;
COMMENT ON COLUMN leads.deal_id IS 'the deal it was converted to; a deal may come of several leads, deals.lead_id is the first';
UPDATE leads l SET deal_id = d.id FROM deals d WHERE d.lead_id = l.id;
ALTER TABLE users ADD COLUMN team text NOT NULL DEFAULT '';

CREATE TABLE deal_states (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  deal_id uuid NOT NULL REFERENCES deals ON DELETE CASCADE,
  at timestamptz NOT NULL,
  stage_id uuid NOT NULL,
  amount_minor bigint,
  currency char(3) NOT NULL,
  probability integer NOT NULL,
  expected_close date,
  owner_id uuid NOT NULL,
  event_id uuid
);
COMMENT ON TABLE deal_states IS 'what a deal was from when on, so that a forecast can be held against what came; a stage in it may be gone';
INSERT INTO deal_states (deal_id, at, stage_id, amount_minor, currency, probability, expected_close, owner_id)
  SELECT id, stage_since, stage_id, amount_minor, currency, probability, expected_close, owner_id FROM deals;
CREATE INDEX deal_states_deal ON deal_states (deal_id, at DESC, id DESC);

CREATE TABLE products (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  code text NOT NULL UNIQUE CHECK (code <> ''),
  name text NOT NULL CHECK (name <> ''),
  tax_percent numeric(5,2) NOT NULL DEFAULT 0 CHECK (tax_percent BETWEEN 0 AND 100),
  charged text NOT NULL DEFAULT 'once' CHECK (charged IN ('once', 'month', 'year')),
  active boolean NOT NULL DEFAULT true
);
CREATE TABLE price_lists (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL UNIQUE CHECK (name <> ''),
  currency char(3) NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
  active boolean NOT NULL DEFAULT true
);
CREATE TABLE prices (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  list_id uuid NOT NULL REFERENCES price_lists,
  product_id uuid NOT NULL REFERENCES products,
  unit_minor bigint NOT NULL CHECK (unit_minor >= 0),
  UNIQUE (list_id, product_id)
);
CREATE TABLE deal_lines (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  deal_id uuid NOT NULL REFERENCES deals,
  product_id uuid REFERENCES products,
  position integer NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  quantity numeric(12,3) NOT NULL CHECK (quantity > 0),
  unit_minor bigint NOT NULL CHECK (unit_minor >= 0),
  discount_percent numeric(5,2) NOT NULL DEFAULT 0 CHECK (discount_percent BETWEEN 0 AND 100),
  tax_percent numeric(5,2) NOT NULL DEFAULT 0 CHECK (tax_percent BETWEEN 0 AND 100),
  charged text NOT NULL DEFAULT 'once' CHECK (charged IN ('once', 'month', 'year')),
  periods integer NOT NULL DEFAULT 1 CHECK (periods BETWEEN 1 AND 1200)
);
CREATE INDEX deal_lines_deal ON deal_lines (deal_id, position);

CREATE TABLE currency_rates (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  currency char(3) NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
  day date NOT NULL,
  per_house numeric(18,8) NOT NULL CHECK (per_house > 0),
  UNIQUE (currency, day)
);
COMMENT ON COLUMN currency_rates.per_house IS 'how much of the currency one unit of the house currency bought from that day on';

CREATE TABLE quote_settings (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  issuer text NOT NULL DEFAULT '',
  terms text NOT NULL DEFAULT '',
  prefix text NOT NULL DEFAULT 'Q',
  valid_days integer NOT NULL DEFAULT 30 CHECK (valid_days BETWEEN 1 AND 365)
);
INSERT INTO quote_settings DEFAULT VALUES;
CREATE TABLE number_series (series text PRIMARY KEY, last integer NOT NULL);
CREATE TABLE quotes (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  number text NOT NULL UNIQUE,
  deal_id uuid NOT NULL REFERENCES deals,
  entry_id uuid NOT NULL REFERENCES ledger_entries,
  state text NOT NULL DEFAULT 'drafted' CHECK (state IN ('drafted', 'sent', 'accepted', 'declined', 'withdrawn')),
  issued_on date NOT NULL,
  valid_until date NOT NULL,
  content jsonb NOT NULL,
  created_by uuid NOT NULL REFERENCES users,
  created_at timestamptz NOT NULL
);
CREATE INDEX quotes_deal ON quotes (deal_id);
ALTER TABLE ledger_entries DROP CONSTRAINT ledger_entries_kind_check;
ALTER TABLE ledger_entries ADD CHECK (kind IN ('mail', 'call', 'meeting', 'note', 'change', 'quote'));

CREATE TABLE employments (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  person_id uuid NOT NULL REFERENCES people,
  company_id uuid NOT NULL REFERENCES companies,
  job_title text NOT NULL DEFAULT '',
  from_day date,
  until_day date,
  CHECK (until_day IS NULL OR from_day IS NULL OR until_day >= from_day)
);
COMMENT ON TABLE employments IS 'where else somebody works, and where they worked before; where they mainly work now stands on people';
CREATE INDEX employments_person ON employments (person_id);
CREATE INDEX employments_company ON employments (company_id);

CREATE TABLE relation_kinds (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  position integer NOT NULL,
  name text NOT NULL UNIQUE CHECK (name <> ''),
  reverse text NOT NULL CHECK (reverse <> ''),
  is_line boolean NOT NULL DEFAULT false,
  active boolean NOT NULL DEFAULT true
);
COMMENT ON COLUMN relation_kinds.is_line IS 'the org chart is drawn from it';
INSERT INTO relation_kinds (position, name, reverse, is_line) VALUES
  (1, 'reports to', 'manages', true), (2, 'assistant of', 'assisted by', false),
  (3, 'spouse of', 'spouse of', false), (4, 'referred by', 'referred', false);
CREATE TABLE relations (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind_id uuid NOT NULL REFERENCES relation_kinds,
  from_id uuid NOT NULL REFERENCES people,
  to_id uuid NOT NULL REFERENCES people,
  UNIQUE (kind_id, from_id, to_id),
  CHECK (from_id <> to_id)
);
CREATE INDEX relations_to ON relations (to_id);
CREATE INDEX relations_from ON relations (from_id);

ALTER TABLE lead_answers ADD COLUMN capture_id uuid REFERENCES captures, ADD COLUMN span jsonb;
COMMENT ON COLUMN lead_answers.span IS 'the words of the capture that answered it: part, start, end';
`;
