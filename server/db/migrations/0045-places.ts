/**
 * Where records are: the towns of the gazetteer, and the place of each person and company, made from their address in the
 * background whenever that changes.
 */
export const name = '0045-places';

export const up = `
CREATE TABLE towns (
  id integer PRIMARY KEY,
  name text NOT NULL,
  country text NOT NULL,
  population bigint NOT NULL,
  lon double precision NOT NULL CHECK (lon BETWEEN -180 AND 180),
  lat double precision NOT NULL CHECK (lat BETWEEN -90 AND 90)
);
COMMENT ON TABLE towns IS 'the gazetteer: towns, and countries as a whole, which have no name';
CREATE INDEX towns_population ON towns (population DESC, id) WHERE name <> '';
CREATE TABLE town_names (
  name text NOT NULL,
  town_id integer NOT NULL REFERENCES towns ON DELETE CASCADE,
  PRIMARY KEY (name, town_id)
);
COMMENT ON TABLE town_names IS 'every folded name by which a town is found';
CREATE INDEX town_names_town ON town_names (town_id);
CREATE INDEX town_names_prefix ON town_names (name text_pattern_ops);
CREATE TABLE gazetteer (
  id boolean PRIMARY KEY DEFAULT true CHECK (id),
  version text NOT NULL
);
COMMENT ON TABLE gazetteer IS 'which edition of the gazetteer is loaded';

CREATE TABLE places (
  record_id uuid PRIMARY KEY,
  kind text NOT NULL CHECK (kind IN ('person', 'company')),
  lon double precision NOT NULL CHECK (lon BETWEEN -180 AND 180),
  lat double precision NOT NULL CHECK (lat BETWEEN -90 AND 90),
  precision text NOT NULL CHECK (precision IN ('address', 'town', 'post code', 'country')),
  town text NOT NULL,
  country text NOT NULL,
  company_id uuid
);
COMMENT ON TABLE places IS 'where people and companies are, in degrees (WGS 84), as precisely as their address says';
COMMENT ON COLUMN places.company_id IS 'the company whose place it is, of a person without an address that can be placed';
CREATE INDEX places_at ON places USING gist (point(lon, lat));
CREATE INDEX places_company ON places (company_id) WHERE company_id IS NOT NULL;
CREATE TABLE places_due (
  record_id uuid PRIMARY KEY,
  kind text NOT NULL CHECK (kind IN ('person', 'company'))
);
CREATE TABLE places_asked (
  record_id uuid PRIMARY KEY,
  again_at timestamptz NOT NULL,
  tries integer NOT NULL DEFAULT 0
);
COMMENT ON TABLE places_asked IS 'records whose street a geocoder is to be asked for, where one is set up';
COMMENT ON TABLE places_due IS 'records whose address changed and whose place is to be made anew';

CREATE FUNCTION km_between(lon_a double precision, lat_a double precision, lon_b double precision, lat_b double precision)
RETURNS double precision LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
  SELECT 2 * 6371.0088 * asin(least(1, sqrt(power(sin(radians(lat_b - lat_a) / 2), 2)
    + cos(radians(lat_a)) * cos(radians(lat_b)) * power(sin(radians(lon_b - lon_a) / 2), 2))))
$$;

CREATE FUNCTION places_become_due() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO places_due VALUES (NEW.id, CASE TG_TABLE_NAME WHEN 'people' THEN 'person' ELSE 'company' END) ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;
CREATE FUNCTION places_are_due() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF TG_TABLE_NAME = 'people' THEN
    INSERT INTO places_due SELECT id, 'person' FROM made WHERE address IS NOT NULL OR company_id IS NOT NULL ON CONFLICT DO NOTHING;
  ELSE
    INSERT INTO places_due SELECT id, 'company' FROM made WHERE address IS NOT NULL OR country IS NOT NULL ON CONFLICT DO NOTHING;
  END IF;
  RETURN NULL;
END $$;
CREATE FUNCTION places_leave() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  DELETE FROM places p USING gone g WHERE p.record_id = g.id;
  DELETE FROM places_due d USING gone g WHERE d.record_id = g.id;
  DELETE FROM places_asked a USING gone g WHERE a.record_id = g.id;
  RETURN NULL;
END $$;
CREATE TRIGGER people_places_due AFTER UPDATE OF address, address_parts, company_id ON people FOR EACH ROW
  WHEN ((OLD.address, OLD.address_parts, OLD.company_id) IS DISTINCT FROM (NEW.address, NEW.address_parts, NEW.company_id))
  EXECUTE FUNCTION places_become_due();
CREATE TRIGGER companies_places_due AFTER UPDATE OF address, country ON companies FOR EACH ROW
  WHEN ((OLD.address, OLD.country) IS DISTINCT FROM (NEW.address, NEW.country)) EXECUTE FUNCTION places_become_due();
CREATE TRIGGER people_places_made AFTER INSERT ON people REFERENCING NEW TABLE AS made FOR EACH STATEMENT EXECUTE FUNCTION places_are_due();
CREATE TRIGGER companies_places_made AFTER INSERT ON companies REFERENCING NEW TABLE AS made FOR EACH STATEMENT EXECUTE FUNCTION places_are_due();
CREATE TRIGGER people_places_leave AFTER DELETE ON people REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION places_leave();
CREATE TRIGGER companies_places_leave AFTER DELETE ON companies REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION places_leave();

INSERT INTO places_due SELECT id, 'company' FROM companies WHERE address IS NOT NULL OR country IS NOT NULL;
INSERT INTO places_due SELECT id, 'person' FROM people WHERE address IS NOT NULL OR company_id IS NOT NULL;
`;
