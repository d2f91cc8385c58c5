/** What people agreed to be written to about: purposes, topics, areas, and every statement of theirs; which addresses work. */
export const name = '0054-consent';

/** Texts of purposes in the languages of the page on which people choose. */
const PURPOSES = [
  {
    name: 'Service',
    words: 'Write to me about the service and safety of what I bought.',
    translations: {
      de: {
        name: 'Service',
        words: 'Schreiben Sie mir zu Wartung und Sicherheit dessen, was ich gekauft habe.',
      },
      es: {
        name: 'Servicio',
        words: 'Escríbanme sobre el mantenimiento y la seguridad de lo que he comprado.',
      },
      fr: {
        name: 'Entretien',
        words: 'Écrivez-moi au sujet de l’entretien et de la sécurité de mes achats.',
      },
      it: {
        name: 'Assistenza',
        words: 'Scrivetemi sull’assistenza e la sicurezza di ciò che ho acquistato.',
      },
      nl: { name: 'Service', words: 'Schrijf mij over onderhoud en veiligheid van wat ik heb gekocht.' },
      pt: { name: 'Assistência', words: 'Escrevam-me sobre a assistência e a segurança do que comprei.' },
    },
  },
  {
    name: 'News',
    words: 'Send me news now and then.',
    isDefault: true,
    translations: {
      de: { name: 'Neuigkeiten', words: 'Schicken Sie mir ab und zu Neuigkeiten.' },
      es: { name: 'Novedades', words: 'Envíenme novedades de vez en cuando.' },
      fr: { name: 'Actualités', words: 'Envoyez-moi de temps en temps des nouvelles.' },
      it: { name: 'Novità', words: 'Inviatemi novità di tanto in tanto.' },
      nl: { name: 'Nieuws', words: 'Stuur mij af en toe nieuws.' },
      pt: { name: 'Novidades', words: 'Enviem-me novidades de vez em quando.' },
    },
  },
  {
    name: 'Offers',
    words: 'Send me offers.',
    translations: {
      de: { name: 'Angebote', words: 'Schicken Sie mir Angebote.' },
      es: { name: 'Ofertas', words: 'Envíenme ofertas.' },
      fr: { name: 'Offres', words: 'Envoyez-moi des offres.' },
      it: { name: 'Offerte', words: 'Inviatemi offerte.' },
      nl: { name: 'Aanbiedingen', words: 'Stuur mij aanbiedingen.' },
      pt: { name: 'Promoções', words: 'Enviem-me promoções.' },
    },
  },
];

const quoted = (text: string): string => `'${text.replace(/'/g, "''")}'`;
const purposeRows = PURPOSES.map(
  ({ name: called, words, isDefault = false, translations }, position) =>
    `(gen_random_uuid(), ${quoted(called)}, ${quoted(words)}, ${isDefault}, ${quoted(JSON.stringify(translations))}, ${position})`,
).join(',\n');

export const up = `
CREATE TABLE purposes (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL CHECK (name <> ''),
  words text NOT NULL DEFAULT '',
  is_default boolean NOT NULL DEFAULT false,
  translations jsonb NOT NULL DEFAULT '{}' CHECK (jsonb_typeof(translations) = 'object'),
  position integer NOT NULL,
  retired_at timestamptz
);
COMMENT ON TABLE purposes IS 'what people may agree to be written to about';
COMMENT ON COLUMN purposes.words IS 'the sentence that people agree to';
COMMENT ON COLUMN purposes.is_default IS 'what is meant where somebody agreed and nothing says to what';
CREATE UNIQUE INDEX purposes_name ON purposes (lower(name)) WHERE retired_at IS NULL;
INSERT INTO purposes (id, name, words, is_default, translations, position) VALUES ${purposeRows};

CREATE TABLE topics (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  purpose_id uuid NOT NULL REFERENCES purposes,
  name text NOT NULL CHECK (name <> ''),
  words text NOT NULL DEFAULT '',
  by_area boolean NOT NULL DEFAULT false,
  translations jsonb NOT NULL DEFAULT '{}' CHECK (jsonb_typeof(translations) = 'object'),
  position integer NOT NULL,
  retired_at timestamptz
);
COMMENT ON COLUMN topics.by_area IS 'whoever subscribes says for which places';
CREATE UNIQUE INDEX topics_name ON topics (purpose_id, lower(name)) WHERE retired_at IS NULL;

CREATE TABLE areas (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL CHECK (name <> ''),
  corners double precision[] NOT NULL CHECK (cardinality(corners) >= 6 AND cardinality(corners) % 2 = 0),
  retired_at timestamptz
);
COMMENT ON COLUMN areas.corners IS 'longitude, latitude, longitude, … in degrees (WGS 84)';
CREATE UNIQUE INDEX areas_name ON areas (lower(name)) WHERE retired_at IS NULL;

CREATE TABLE consents (
  id uuid PRIMARY KEY,
  person_id uuid NOT NULL REFERENCES people,
  purpose_id uuid NOT NULL REFERENCES purposes,
  topic_id uuid REFERENCES topics,
  state text NOT NULL CHECK (state IN ('agreed', 'unconfirmed', 'withdrawn')),
  at timestamptz NOT NULL,
  how text NOT NULL CHECK (how IN ('form', 'confirmed', 'page', 'one-click', 'mail', 'complaint', 'by hand', 'import')),
  words text NOT NULL DEFAULT '',
  source text NOT NULL DEFAULT '',
  address text,
  places jsonb,
  actor_id uuid REFERENCES users,
  capture_id uuid REFERENCES captures ON DELETE SET NULL,
  import_id uuid REFERENCES imports
);
COMMENT ON TABLE consents IS 'every statement of a person on a purpose or topic, never changed; consent_states tells which one holds';
COMMENT ON COLUMN consents.words IS 'what they were shown or said';
COMMENT ON COLUMN consents.source IS 'where: a form, a page, a file, a letter';
COMMENT ON COLUMN consents.places IS 'of a topic by area: for which post codes and areas';
CREATE INDEX consents_person ON consents (person_id, purpose_id, topic_id, at);
CREATE INDEX consents_purpose ON consents (purpose_id, state);
CREATE INDEX consents_topic ON consents (topic_id, state) WHERE topic_id IS NOT NULL;
CREATE INDEX consents_capture ON consents (capture_id) WHERE capture_id IS NOT NULL;
CREATE INDEX consents_import ON consents (import_id, person_id) WHERE import_id IS NOT NULL;
CREATE INDEX consents_at ON consents (at, id);
ALTER TABLE consents ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON consents TO emporikon_member USING ((SELECT has_reader()) AND EXISTS (SELECT 1 FROM people p WHERE p.id = person_id))
  WITH CHECK (EXISTS (SELECT 1 FROM people p WHERE p.id = person_id));
CREATE POLICY role_sees ON consents AS RESTRICTIVE TO emporikon_limited USING ((SELECT role_sees('people')));

CREATE VIEW consent_states WITH (security_invoker = true) AS
  SELECT DISTINCT ON (person_id, purpose_id, topic_id) * FROM consents
   ORDER BY person_id, purpose_id, topic_id, (state = 'unconfirmed'), at DESC, id DESC;
COMMENT ON VIEW consent_states IS 'the statement that holds: the last agreement or withdrawal; a question that waits for its answer only where there is neither';

CREATE TABLE link_key (
  is_only boolean PRIMARY KEY DEFAULT true CHECK (is_only),
  key text NOT NULL
);
COMMENT ON TABLE link_key IS 'signs the links by which people outside reach their own page';
INSERT INTO link_key (key) VALUES (encode(sha256((gen_random_uuid()::text || gen_random_uuid()::text || clock_timestamp()::text)::bytea), 'hex'));

ALTER TABLE contact_points
  ADD COLUMN reach text NOT NULL DEFAULT 'good' CHECK (reach IN ('good', 'full', 'gone')),
  ADD COLUMN reach_at timestamptz,
  ADD COLUMN reach_words text NOT NULL DEFAULT '';
COMMENT ON COLUMN contact_points.reach IS 'of an address: whether mail arrives there, as mail servers said last';
UPDATE contact_points SET reach = 'gone', reach_at = consent_at WHERE consent = 'undeliverable';
INSERT INTO consents (id, person_id, purpose_id, state, at, how, source, address)
  SELECT gen_random_uuid(), c.person_id, p.id, c.consent, coalesce(c.consent_at, c.created_at),
         CASE c.consent_source WHEN 'by hand' THEN 'by hand' WHEN 'import' THEN 'import' WHEN 'confirmed by mail' THEN 'confirmed' ELSE 'form' END,
         coalesce(c.consent_source, ''), c.value
    FROM contact_points c CROSS JOIN purposes p
   WHERE c.consent IN ('agreed', 'unconfirmed', 'withdrawn') AND (p.is_default OR c.consent = 'withdrawn');
ALTER TABLE contact_points DROP COLUMN consent, DROP COLUMN consent_at, DROP COLUMN consent_source;

ALTER TABLE forms ADD COLUMN purpose_ids uuid[] NOT NULL DEFAULT '{}';
COMMENT ON COLUMN forms.purpose_ids IS 'what whoever ticks its box agrees to; the default purposes where it names none';
`;
