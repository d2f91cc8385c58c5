import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** Tells open pages that something was found out about a content, and so about each file that holds it. */
export async function tellOfFiles({ sequelize, tx }: Context, sha256: string): Promise<void> {
  await sequelize.query(
    `SELECT pg_notify('emporikon_events', json_build_object('touched', json_agg(json_build_object('table', 'files', 'id', f.id)))::text)
       FROM (SELECT DISTINCT file_id AS id FROM file_versions WHERE sha256 = $sha256 LIMIT 60) f HAVING count(*) > 0`,
    { bind: { sha256 }, type: QueryTypes.SELECT, transaction: tx },
  );
}
