import { CHILDREN, columnsOf, KINDS, restrictedAmong, TWINS, type Kind } from './kinds';

/** Rows of a kind of which may be seen by others than before, after a statement. */
const noticing = ({ table, owners, parents }: Kind): string => {
  const chosen = ['visibility', 'visible_to', ...owners, ...parents];
  return `
CREATE FUNCTION ${table}_sight_insert() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO sight_pending (kind, id) SELECT '${table}', n.id FROM fresh n
   WHERE n.visibility <> 'everybody' OR ${restrictedAmong(columnsOf('n', ['id', ...parents]))};
  RETURN NULL;
END $$;
CREATE FUNCTION ${table}_sight_update() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO sight_pending (kind, id) SELECT '${table}', n.id FROM fresh n JOIN gone o USING (id)
   WHERE (${columnsOf('n', chosen)}) IS DISTINCT FROM (${columnsOf('o', chosen)})
     AND (n.visibility <> 'everybody' OR ${restrictedAmong(columnsOf('n', ['id', ...parents]))});
  RETURN NULL;
END $$;
CREATE TRIGGER ${table}_sight_insert AFTER INSERT ON ${table} REFERENCING NEW TABLE AS fresh
  FOR EACH STATEMENT EXECUTE FUNCTION ${table}_sight_insert();
CREATE TRIGGER ${table}_sight_update AFTER UPDATE ON ${table} REFERENCING NEW TABLE AS fresh OLD TABLE AS gone
  FOR EACH STATEMENT EXECUTE FUNCTION ${table}_sight_update();`;
};

/** The same for what joins one kind of record to others. */
export const noticingLinks = (table: string, kind: string, id: string, others: readonly string[]): string =>
  Object.entries({
    insert: 'NEW TABLE AS fresh',
    delete: 'OLD TABLE AS fresh',
    update: 'NEW TABLE AS fresh',
  })
    .map(
      ([operation, referencing]) => `
CREATE FUNCTION ${table}_sight_${operation}() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO sight_pending (kind, id) SELECT DISTINCT '${kind}', n.${id} FROM fresh n
   WHERE n.${id} IS NOT NULL AND ${restrictedAmong(columnsOf('n', [id, ...others]))};
  RETURN NULL;
END $$;
CREATE TRIGGER ${table}_sight_${operation} AFTER ${operation} ON ${table} REFERENCING ${referencing}
  FOR EACH STATEMENT EXECUTE FUNCTION ${table}_sight_${operation}();`,
    )
    .join('\n');

/** Puts right who may see records of one kind, and what belongs to those for which it changed. */
const settling = ({ table, owners, parents, further, asked }: Kind): string => `
  IF of = '${table}' THEN
    WITH should AS MATERIALIZED (
      SELECT t.id, audience_of_all(array_append(ARRAY(
               SELECT r.seen_by FROM (
                 SELECT unnest(ARRAY[${columnsOf('t', parents)}]::uuid[]) AS id${further ? ` UNION ALL ${further}` : ''}) b JOIN restricted r ON r.id = b.id
             ), audience_of(t.visibility, t.visible_to, ARRAY[${columnsOf('t', owners)}]${asked ? ` || ARRAY(${asked})` : ''}))) AS seen_by
        FROM ${table} t WHERE t.id = ANY (ids)),
    done AS (UPDATE ${table} t SET seen_by = s.seen_by FROM should s
      WHERE t.id = s.id AND t.seen_by IS DISTINCT FROM s.seen_by RETURNING t.id)
    SELECT array_agg(id) INTO changed FROM done;
    IF changed IS NULL THEN RETURN; END IF;
    DELETE FROM restricted r USING ${table} t WHERE r.id = ANY (changed) AND t.id = r.id AND t.seen_by IS NULL;
    INSERT INTO restricted (id, kind, seen_by) SELECT id, '${table}', seen_by FROM ${table} WHERE id = ANY (changed) AND seen_by IS NOT NULL
      ON CONFLICT (id) DO UPDATE SET seen_by = excluded.seen_by;
    ${
      ['companies', 'people', 'leads', 'deals'].includes(table)
        ? `UPDATE find_records f SET seen_by = t.seen_by FROM ${table} t WHERE f.id = ANY (changed) AND t.id = f.id;
    UPDATE find_words f SET seen_by = t.seen_by FROM ${table} t WHERE f.id = ANY (changed) AND t.id = f.id;`
        : ''
    }
    ${Object.entries(CHILDREN[table] ?? {})
      .map(
        ([kind, children]) =>
          `PERFORM sight_settle('${kind}', ARRAY(${children.replace('(ids)', '(changed)').replace('(ids)', '(changed)')}));`,
      )
      .join('\n    ')}
    RETURN;
  END IF;`;

/** The function that puts right who may see some records of a kind. */
export const settleSql = (kinds: readonly Kind[]): string => `
CREATE OR REPLACE FUNCTION sight_settle(of text, ids uuid[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE changed uuid[];
BEGIN
  IF ids = '{}' THEN RETURN; END IF;
${kinds.map(settling).join('\n')}
END $$;`;

/** The functions and triggers that keep `seen_by` true, whatever is written. */
export const settlingSql = `
${settleSql(KINDS)}

CREATE FUNCTION sight_settle_pending() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE waiting jsonb;
BEGIN
  WITH taken AS (DELETE FROM sight_pending RETURNING kind, id)
  SELECT jsonb_object_agg(kind, ids) INTO waiting FROM (SELECT kind, jsonb_agg(DISTINCT id) AS ids FROM taken GROUP BY kind) t;
  IF waiting IS NULL THEN RETURN NULL; END IF;
${KINDS.map(({ table }) => `  PERFORM sight_settle('${table}', ARRAY(SELECT jsonb_array_elements_text(waiting -> '${table}')::uuid));`).join('\n')}
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER sight_settle_pending AFTER INSERT ON sight_pending DEFERRABLE INITIALLY DEFERRED
  FOR EACH ROW EXECUTE FUNCTION sight_settle_pending();
${KINDS.map(noticing).join('\n')}
${Object.entries(TWINS)
  .map(
    ([table, { of, kind, same }]) => `
CREATE FUNCTION ${table}_hidden_twin() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE twin uuid;
BEGIN
  IF reader() IS NULL THEN RETURN NEW; END IF;
  SELECT r.id INTO twin FROM ${table} t JOIN restricted r ON r.id = t.${of} WHERE ${same} AND r.seen_by <> ALL (my_audiences());
  IF twin IS NOT NULL THEN RAISE EXCEPTION 'there is one already that is hidden' USING ERRCODE = 'EH001', DETAIL = '${kind}/' || twin; END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER ${table}_hidden_twin BEFORE INSERT OR UPDATE ON ${table} FOR EACH ROW EXECUTE FUNCTION ${table}_hidden_twin();`,
  )
  .join('\n')}
${noticingLinks('ledger_links', 'ledger_entries', 'entry_id', ['person_id', 'company_id', 'lead_id', 'deal_id'])}
${noticingLinks('claims', 'captures', 'capture_id', ['person_id', 'company_id'])}
${noticingLinks('calls', 'captures', 'capture_id', ['person_id'])}

`;
