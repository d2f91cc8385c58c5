import { columnsOf, hidden } from './visibility/kinds';

/** What sounds negative is found first; and what is told to somebody: that a colleague mentioned them, gave them something, did or moved what they gave. */
export const name = '0021-notices';

const ABOUT = ['entry_id', 'task_id', 'person_id', 'company_id', 'lead_id', 'deal_id'];

export const up = `
CREATE TABLE notices (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  user_id uuid NOT NULL REFERENCES users,
  kind text NOT NULL CHECK (kind IN ('mention', 'given', 'done', 'moved', 'passed on', 'owner')),
  title text NOT NULL,
  detail text NOT NULL DEFAULT '',
  actor_id uuid REFERENCES users,
  event_id uuid NOT NULL,
  entry_id uuid REFERENCES ledger_entries ON DELETE CASCADE,
  task_id uuid REFERENCES tasks ON DELETE CASCADE,
  person_id uuid REFERENCES people ON DELETE CASCADE,
  company_id uuid REFERENCES companies ON DELETE CASCADE,
  lead_id uuid REFERENCES leads ON DELETE CASCADE,
  deal_id uuid REFERENCES deals ON DELETE CASCADE,
  at timestamptz NOT NULL,
  read_at timestamptz
);
CREATE INDEX notices_user ON notices (user_id, at DESC, id DESC);
CREATE INDEX notices_unread ON notices (user_id) WHERE read_at IS NULL;
CREATE INDEX notices_event ON notices (event_id);
${ABOUT.map((column) => `CREATE INDEX notices_${column} ON notices (${column}) WHERE ${column} IS NOT NULL;`).join('\n')}
CREATE INDEX captures_by_tone ON captures ((CASE WHEN message ->> 'tone' = 'negative' THEN 1 ELSE 0 END) DESC, received_at DESC, id DESC) WHERE state = 'waiting';
ALTER TABLE notices ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON notices TO emporikon_member
  USING ((SELECT has_reader()) AND user_id = (SELECT reader()) AND NOT ${hidden(`r.id IN (${columnsOf('notices', ABOUT)})`)});
`;
