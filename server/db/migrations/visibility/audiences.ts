/** Who is in which audience, kept as teams and users change. */
export const audiencesSql = `
CREATE FUNCTION my_audiences() RETURNS integer[] LANGUAGE sql STABLE PARALLEL SAFE AS $$
  SELECT coalesce(nullif(current_setting('emporikon.audiences', true), ''), '{}')::integer[]
$$;
CREATE FUNCTION has_reader() RETURNS boolean LANGUAGE plpgsql STABLE PARALLEL SAFE AS $$
BEGIN
  IF coalesce(current_setting('emporikon.reader', true), '') = '' THEN
    RAISE EXCEPTION 'records were asked for outside a command' USING ERRCODE = 'EH002';
  END IF;
  RETURN true;
END $$;
CREATE FUNCTION reader() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS $$
  SELECT nullif(current_setting('emporikon.reader', true), '')::uuid
$$;

CREATE FUNCTION audience_base_members(which integer[]) RETURNS TABLE (user_id uuid, audience_id integer) LANGUAGE sql STABLE AS $$
  SELECT u.id, a.id FROM audiences a JOIN users u ON u.active AND CASE a.kind
      WHEN 'named' THEN u.id = ANY (a.people)
      WHEN 'team' THEN u.id = ANY (a.people) OR EXISTS (SELECT 1 FROM teams t WHERE t.id = a.team_id AND (t.name = u.team OR u.id = ANY (t.managers)))
      WHEN 'owner' THEN u.id = ANY (a.people)
        OR EXISTS (SELECT 1 FROM users o JOIN teams t ON t.name = o.team WHERE o.id = ANY (a.people) AND u.id = ANY (t.managers))
        -- Whoever is in no team that has a manager is managed by all who are managers.
        OR (u.role = 'manager' AND (a.people = '{}' OR EXISTS (SELECT 1 FROM users o WHERE o.id = ANY (a.people)
             AND NOT EXISTS (SELECT 1 FROM teams t WHERE t.name = o.team AND t.managers <> '{}'))))
      ELSE false END
   WHERE a.id = ANY (which) AND a.kind <> 'all'
$$;
CREATE FUNCTION audience_fill(which integer[]) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
  DELETE FROM audience_members m USING audiences a WHERE a.id = m.audience_id AND a.id = ANY (which) AND a.kind <> 'all'
     AND NOT EXISTS (SELECT 1 FROM audience_base_members(which) f WHERE f.user_id = m.user_id AND f.audience_id = m.audience_id);
  INSERT INTO audience_members SELECT * FROM audience_base_members(which) ON CONFLICT DO NOTHING;
  DELETE FROM audience_members m USING audiences a WHERE a.id = m.audience_id AND a.id = ANY (which) AND a.kind = 'all'
     AND EXISTS (SELECT 1 FROM unnest(a.parts) p WHERE NOT EXISTS (SELECT 1 FROM audience_members x WHERE x.audience_id = p AND x.user_id = m.user_id));
  INSERT INTO audience_members SELECT u.id, a.id FROM audiences a CROSS JOIN users u WHERE a.id = ANY (which) AND a.kind = 'all'
     AND NOT EXISTS (SELECT 1 FROM unnest(a.parts) p WHERE NOT EXISTS (SELECT 1 FROM audience_members x WHERE x.audience_id = p AND x.user_id = u.id))
    ON CONFLICT DO NOTHING;
$$;

CREATE FUNCTION audience_with(new_key text, new_kind text, new_people uuid[], new_team uuid, new_parts integer[]) RETURNS integer
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE found integer;
BEGIN
  SELECT id INTO found FROM audiences WHERE key = new_key;
  IF found IS NOT NULL THEN RETURN found; END IF;
  INSERT INTO audiences (key, kind, people, team_id, parts) VALUES (new_key, new_kind, new_people, new_team, new_parts)
    ON CONFLICT (key) DO NOTHING RETURNING id INTO found;
  IF found IS NULL THEN SELECT id INTO found FROM audiences WHERE key = new_key;
  ELSE PERFORM audience_fill(ARRAY[found]); END IF;
  RETURN found;
END $$;

CREATE FUNCTION audience_of(visibility text, visible_to uuid[], owners uuid[]) RETURNS integer LANGUAGE plpgsql AS $$
DECLARE ids uuid[];
BEGIN
  IF coalesce(visibility, 'everybody') = 'everybody' THEN RETURN NULL; END IF;
  -- Whose it is sees it in every case.
  ids := ARRAY(SELECT DISTINCT one FROM unnest(owners || CASE visibility WHEN 'named' THEN visible_to ELSE '{}' END) one WHERE one IS NOT NULL ORDER BY 1);
  IF visibility = 'team' THEN RETURN audience_with(concat_ws(':', 'team', visible_to[1], array_to_string(ids, ',')), 'team', ids, visible_to[1], '{}'); END IF;
  RETURN audience_with(visibility || ':' || array_to_string(ids, ','), visibility, ids, NULL, '{}');
END $$;

CREATE FUNCTION audience_of_all(which integer[]) RETURNS integer LANGUAGE plpgsql AS $$
DECLARE ids integer[] := ARRAY(SELECT DISTINCT one FROM audiences a, unnest(CASE a.kind WHEN 'all' THEN a.parts ELSE ARRAY[a.id] END) one
  WHERE a.id = ANY (which) ORDER BY 1);
BEGIN
  IF cardinality(ids) < 2 THEN RETURN ids[1]; END IF;
  RETURN audience_with('all:' || array_to_string(ids, ','), 'all', '{}', NULL, ids);
END $$;

CREATE FUNCTION audiences_follow() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM audience_fill(ARRAY(SELECT id FROM audiences));
  RETURN NULL;
END $$;
CREATE TRIGGER audiences_follow AFTER INSERT OR UPDATE OF active, role, team ON users FOR EACH STATEMENT EXECUTE FUNCTION audiences_follow();
CREATE TRIGGER audiences_follow AFTER INSERT OR UPDATE OR DELETE ON teams FOR EACH STATEMENT EXECUTE FUNCTION audiences_follow();

`;
