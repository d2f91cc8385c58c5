import { KINDS } from './visibility/kinds';
import { noticingLinks, settleSql } from './visibility/settling';

/** A colleague who is asked to a meeting sees it, however few others do; the few meetings that last for days are found by their end. */
export const name = '0031-asked-colleagues';

const ASKED = 'SELECT a.user_id FROM task_people a WHERE a.task_id = t.id AND a.user_id IS NOT NULL';

export const up = `
${settleSql(KINDS.map((kind) => (kind.table === 'tasks' ? { ...kind, asked: ASKED } : kind)))}
${noticingLinks('task_people', 'tasks', 'task_id', ['person_id'])}
SELECT sight_settle('tasks', ARRAY(
  SELECT DISTINCT t.id FROM tasks t JOIN task_people a ON a.task_id = t.id WHERE a.user_id IS NOT NULL AND t.visibility <> 'everybody'));
CREATE INDEX tasks_long ON tasks (ends_at) WHERE done_at IS NULL AND ends_at - due_at > interval '1 day';
`;
