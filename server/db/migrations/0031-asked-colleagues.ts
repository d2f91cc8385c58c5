import { KINDS } from './visibility/kinds';
import { noticingLinks, settleSql } from './visibility/settling';

/** A colleague who is asked to a meeting sees it, however few others do. */
export const name = '0031-asked-colleagues';

const ASKED = 'SELECT a.user_id FROM task_people a WHERE a.task_id = t.id AND a.user_id IS NOT NULL';

export const up = `
${settleSql(KINDS.map((kind) => (kind.table === 'tasks' ? { ...kind, asked: ASKED } : kind)))}
${noticingLinks('task_people', 'tasks', 'task_id', ['person_id'])}
SELECT sight_settle('tasks', ARRAY(
  SELECT DISTINCT t.id FROM tasks t JOIN task_people a ON a.task_id = t.id WHERE a.user_id IS NOT NULL AND t.visibility <> 'everybody'));
`;
