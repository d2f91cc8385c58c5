/** Fields of an organisation's own on every kind of record, of every kind of value. */
export const name = '0039-own-fields';

const TABLES = {
  person: 'people',
  company: 'companies',
  lead: 'leads',
  deal: 'deals',
  task: 'tasks',
  project: 'projects',
  case: 'cases',
};
/** The column that says which of its fields a record has; of a deal the pipeline of its stage. */
const DECIDES: Readonly<Record<string, string>> = { person: 'standing', company: 'kind', deal: 'stage_id' };
const WITHOUT = Object.values(TABLES).filter((table) => table !== 'people');

export const up = `
ALTER TABLE custom_fields DROP CONSTRAINT custom_fields_kind_check;
ALTER TABLE custom_fields ADD CHECK (kind IN ('text', 'long text', 'number', 'money', 'date', 'yearly date', 'choice', 'several', 'yes or no',
    'person', 'company', 'link', 'file', 'formula')),
  ADD COLUMN record text NOT NULL DEFAULT 'person' CHECK (record IN (${Object.keys(TABLES)
    .map((record) => `'${record}'`)
    .join(', ')})),
  ADD COLUMN tab text NOT NULL DEFAULT '',
  ADD COLUMN part text NOT NULL DEFAULT '',
  ADD COLUMN help text NOT NULL DEFAULT '',
  ADD COLUMN is_asked boolean NOT NULL DEFAULT false,
  ADD COLUMN preset text NOT NULL DEFAULT '',
  ADD COLUMN is_unique boolean NOT NULL DEFAULT false,
  ADD COLUMN only_for jsonb NOT NULL DEFAULT '[]',
  ADD COLUMN formula text NOT NULL DEFAULT '',
  ADD COLUMN seen_by text NOT NULL DEFAULT 'everybody' CHECK (seen_by IN ('everybody', 'managers', 'admins')),
  ADD COLUMN changed_by text NOT NULL DEFAULT 'everybody' CHECK (changed_by IN ('everybody', 'managers', 'admins')),
  ADD CHECK ((kind = 'formula') = (formula <> ''));
COMMENT ON COLUMN custom_fields.part IS 'the heading it stands under, within its tab';
COMMENT ON COLUMN custom_fields.only_for IS 'standings of people, kinds of companies or ids of pipelines it is for; all where empty';
${WITHOUT.map((table) => `ALTER TABLE ${table} ADD COLUMN custom jsonb NOT NULL DEFAULT '{}';`).join('\n')}
${Object.values(TABLES)
  .map(
    (table) =>
      `CREATE INDEX ${table}_custom ON ${table} USING gin (custom jsonb_path_ops) WHERE custom <> '{}';`,
  )
  .join('\n')}

CREATE FUNCTION preset_own_fields() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE presets jsonb; decides text;
BEGIN
  IF NOT EXISTS (SELECT 1 FROM custom_fields WHERE record = TG_ARGV[0] AND preset <> '' AND active) THEN RETURN NEW; END IF;
  decides := to_jsonb(NEW) ->> TG_ARGV[1];
  IF TG_ARGV[0] = 'deal' THEN SELECT pipeline_id::text INTO decides FROM stages WHERE id = decides::uuid; END IF;
  SELECT jsonb_object_agg(key, preset) INTO presets FROM custom_fields
   WHERE record = TG_ARGV[0] AND preset <> '' AND active AND (only_for = '[]' OR only_for ? decides);
  IF presets IS NOT NULL THEN NEW.custom := presets || coalesce(NEW.custom, '{}'); END IF;
  RETURN NEW;
END $$;
${Object.entries(TABLES)
  .map(
    ([record, table]) =>
      `CREATE TRIGGER preset_own_fields BEFORE INSERT ON ${table} FOR EACH ROW EXECUTE FUNCTION preset_own_fields('${record}', '${DECIDES[record] ?? ''}');`,
  )
  .join('\n')}

CREATE FUNCTION own_value_taken(record text, key text, value text, but uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER
SET search_path = public AS $$
DECLARE taken boolean;
BEGIN
  EXECUTE format('SELECT EXISTS (SELECT 1 FROM %I WHERE custom <> ''{}'' AND custom @> jsonb_build_object($1, $2) AND id <> $3)',
    CASE record ${Object.entries(TABLES)
      .map(([record, table]) => `WHEN '${record}' THEN '${table}'`)
      .join(' ')} END) INTO taken USING key, value, but;
  RETURN taken;
END $$;
`;
