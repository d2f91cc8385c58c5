import { hidden, policy } from './visibility/kinds';

/** People and companies are found by their town, and a lead carries the rating somebody gave it. */
export const name = '0019-places-and-ratings';

const triggers = (table: 'people' | 'companies', kind: 'p' | 'c'): string => `
CREATE TRIGGER places_${table}_insert AFTER INSERT ON ${table} REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION places_upkeep('${kind}');
CREATE TRIGGER places_${table}_update AFTER UPDATE ON ${table} REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION places_upkeep('${kind}');
CREATE TRIGGER places_${table}_delete AFTER DELETE ON ${table} REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION places_upkeep('${kind}');`;

/** The words of an address that may name a place: no numbers, and none of one or two letters. */
const words = (table: string): string =>
  `FROM ${table} t, unnest(string_to_array(folded(t.address), ' ')) w WHERE t.address IS NOT NULL AND length(w) > 2 AND w !~ '[0-9]'`;

export const up = `
CREATE TABLE find_places (kind "char" NOT NULL, word text COLLATE "C" NOT NULL, id uuid NOT NULL, PRIMARY KEY (word, kind, id));
CREATE INDEX find_places_id ON find_places (id);
CREATE FUNCTION places_upkeep() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF TG_OP = 'DELETE' THEN
    DELETE FROM find_places f USING gone g WHERE f.id = g.id;
  ELSIF TG_OP = 'INSERT' THEN
    INSERT INTO find_places SELECT DISTINCT TG_ARGV[0]::"char", w, t.id ${words('fresh')};
  ELSIF EXISTS (SELECT 1 FROM fresh n JOIN gone o USING (id) WHERE n.address IS DISTINCT FROM o.address) THEN
    DELETE FROM find_places f USING fresh n JOIN gone o USING (id) WHERE f.id = n.id AND n.address IS DISTINCT FROM o.address;
    INSERT INTO find_places SELECT DISTINCT TG_ARGV[0]::"char", w, t.id ${words('fresh')} ON CONFLICT DO NOTHING;
  END IF;
  RETURN NULL;
END $$;
${triggers('people', 'p')}
${triggers('companies', 'c')}
INSERT INTO find_places SELECT DISTINCT 'p'::"char", w, t.id ${words('people')};
INSERT INTO find_places SELECT DISTINCT 'c'::"char", w, t.id ${words('companies')};
${policy('find_places', `NOT ${hidden('r.id = find_places.id')}`, [])}
ANALYZE find_places;

ALTER TABLE leads ADD COLUMN rating text CHECK (rating IN ('hot', 'warm', 'cold'));
CREATE FUNCTION lead_heat(text) RETURNS smallint LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
  SELECT (CASE $1 WHEN 'hot' THEN 3 WHEN 'warm' THEN 2 WHEN 'cold' THEN 1 END)::smallint
$$;
CREATE INDEX leads_rating ON leads (lead_heat(rating), id);
`;
