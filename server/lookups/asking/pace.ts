import { afterQuestion, mayAsk } from '@emporikon/core/lookups/breaker';
import { QueryTypes } from 'sequelize';
import type { Tools } from '../../commands/context';
import { LookUpSourceRow } from '../../db/models/lookUps';
import type { LookUpSource, SourceTrouble } from '../../outside/lookups/source';

/**
 * Takes the next turn at a source, so that all processes together ask it no faster than it allows.
 * @returns how long to wait for that turn, ms
 */
export async function reserveTurn({ sequelize }: Tools, source: LookUpSource): Promise<number> {
  const [row] = await sequelize.query<{ wait: number }>(
    `UPDATE look_up_sources SET next_at = greatest(next_at, clock_timestamp()) + make_interval(secs => :gap) WHERE key = :key
      RETURNING extract(epoch FROM next_at - clock_timestamp())::float8 * 1000 - :gap * 1000 AS wait`,
    { replacements: { key: source.key, gap: 1 / source.perSecond }, type: QueryTypes.SELECT },
  );
  return Math.max(0, row?.wait ?? 0);
}

/** Whether the source is asked at all now; words for why not. */
export async function pauseReason(tools: Tools, source: LookUpSource): Promise<string | null> {
  const row = await LookUpSourceRow.findOne({ where: { key: source.key } });
  if (!row) return null;
  if (!row.active) return `${source.label} is turned off.`;
  const breaker = { failures: row.failures, openUntil: row.openUntil?.toISOString() ?? null };
  return mayAsk(breaker, tools.now().toISOString())
    ? null
    : `${source.label} ${row.trouble ?? 'failed'}; it is asked again after ${row.openUntil?.toISOString().slice(11, 16) ?? ''} UTC.`;
}

const SPENT_REST_MS = 3_600_000;

/** Notes how a question went, for all processes: a source that fails too often, or whose quota is used up, is left alone. */
export async function noteOutcome(
  tools: Tools,
  source: LookUpSource,
  trouble: SourceTrouble | null,
): Promise<void> {
  await tools.sequelize.transaction(async (transaction) => {
    const row = await LookUpSourceRow.findOne({ where: { key: source.key }, transaction, lock: true });
    if (!row || (!trouble && row.failures === 0)) return;
    const now = tools.now();
    const next = afterQuestion(
      { failures: row.failures, openUntil: row.openUntil?.toISOString() ?? null },
      trouble === null,
      now.toISOString(),
    );
    const rests =
      trouble?.kind === 'spent' || trouble?.kind === 'refused'
        ? new Date(now.getTime() + (trouble.retryAfterMs ?? SPENT_REST_MS))
        : next.openUntil
          ? new Date(next.openUntil)
          : null;
    await row.update(
      { failures: next.failures, openUntil: rests, trouble: trouble?.message ?? null },
      { transaction },
    );
  });
}
