import type { Within } from '../commands/types';

/**
 * Keeps what the deals that a command touched are from now on, so that a later look back sees them as they were. Taking
 * a command back takes its states back too.
 */
export const keepDealStates: Within = async ({ sequelize, now }, tx, { id: eventId, changes, undoes }) => {
  const ids = [
    ...new Set(
      changes.filter((change) => change.table === 'deals' && change.after).map((change) => change.id),
    ),
  ];
  if (!ids.length) return;
  if (undoes)
    await sequelize.query('DELETE FROM deal_states WHERE event_id = :undoes AND deal_id IN (:ids)', {
      replacements: { undoes, ids },
      transaction: tx,
    });
  await sequelize.query(
    `INSERT INTO deal_states (deal_id, at, stage_id, amount_minor, currency, probability, expected_close, owner_id, event_id)
     SELECT d.id, CASE WHEN t.at IS NULL THEN d.stage_since WHEN t.stage_id <> d.stage_id THEN greatest(t.at, d.stage_since) ELSE :now END,
            d.stage_id, d.amount_minor, d.currency, d.probability, d.expected_close, d.owner_id, :eventId
       FROM deals d
       LEFT JOIN LATERAL (SELECT * FROM deal_states s WHERE s.deal_id = d.id ORDER BY s.at DESC, s.id DESC LIMIT 1) t ON true
      WHERE d.id IN (:ids)
        AND (t.stage_id, t.amount_minor, t.currency, t.probability, t.expected_close, t.owner_id)
            IS DISTINCT FROM (d.stage_id, d.amount_minor, d.currency, d.probability, d.expected_close, d.owner_id)`,
    { replacements: { ids, now: now(), eventId }, transaction: tx },
  );
};
