import { Op } from 'sequelize';
import { isOfMany } from '../commands/followers';
import type { Completes } from '../commands/types';
import { Purpose, Topic } from '../db/models/consent';
import { enter } from '../ledger/write';

type Row = Record<string, unknown>;
const HEADLINES: Readonly<Record<string, string>> = {
  agreed: 'Agreed to',
  unconfirmed: 'Asked to confirm',
  withdrawn: 'Withdrew consent',
};

const groupedBy = (rows: readonly Row[], key: (row: Row) => string): Row[][] => {
  const groups = new Map<string, Row[]>();
  for (const row of rows) groups.set(key(row), [...(groups.get(key(row)) ?? []), row]);
  return [...groups.values()];
};

/** What somebody agreed to or withdrew from stands in their history, one line for all that was said at once. */
export const enterConsents: Completes = async (tools, write, { command, changes, undoes, actorId }, tx) => {
  if (undoes || command.startsWith('import') || command.includes('merge') || isOfMany(command)) return;
  const said = changes.flatMap(({ table, before, after }) =>
    table === 'consents' && !before && after ? [after] : [],
  );
  if (!said.length) return;
  const ids = (key: string): string[] =>
    said.flatMap((row) => (typeof row[key] === 'string' ? [row[key]] : []));
  const named = async (model: typeof Purpose | typeof Topic, wanted: string[]): Promise<[string, string][]> =>
    (await (model as typeof Purpose).findAll({ where: { id: { [Op.in]: wanted } }, transaction: tx })).map(
      ({ id, name }) => [id, name],
    );
  const names = new Map([
    ...(await named(Purpose, ids('purposeId'))),
    ...(await named(Topic, ids('topicId'))),
  ]);
  for (const rows of groupedBy(said, ({ personId, state }) => `${String(personId)} ${String(state)}`)) {
    const [first] = rows;
    if (!first) continue;
    const what = [
      ...new Set(rows.map(({ purposeId, topicId }) => names.get(String(topicId ?? purposeId)) ?? '')),
    ];
    const words = String(first.words ?? '');
    await enter(
      { ...tools, actor: null, tx, write },
      {
        side: 'within',
        kind: 'change',
        headline: `${HEADLINES[String(first.state)] ?? ''}: ${what.filter(Boolean).join(', ')}`,
        body: first.how === 'by hand' || first.how === 'mail' ? words : '',
        actorId,
      },
      { personId: String(first.personId) },
    );
  }
};
