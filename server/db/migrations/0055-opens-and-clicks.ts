/** Which links of a letter were followed and whether it was opened: by own links, where the reader's country or wish allows it. */
export const name = '0055-opens-and-clicks';

const TRANSLATIONS = {
  de: {
    name: 'Öffnen und Links',
    words: 'Sie dürfen festhalten, ob ich Ihre Mails öffne und welchen Links ich folge.',
  },
  es: { name: 'Aperturas y enlaces', words: 'Pueden registrar si abro sus mensajes y qué enlaces sigo.' },
  fr: {
    name: 'Ouvertures et liens',
    words: 'Vous pouvez noter si j’ouvre vos messages et quels liens je suis.',
  },
  it: { name: 'Aperture e link', words: 'Potete registrare se apro i vostri messaggi e quali link seguo.' },
  nl: { name: 'Openen en links', words: 'U mag bijhouden of ik uw mails open en welke links ik volg.' },
  pt: {
    name: 'Aberturas e ligações',
    words: 'Podem registar se abro as vossas mensagens e que ligações sigo.',
  },
};
const quoted = (text: string): string => `'${text.replace(/'/g, "''")}'`;

export const up = `
ALTER TABLE purposes ADD COLUMN kind text NOT NULL DEFAULT 'mail' CHECK (kind IN ('mail', 'tracking'));
COMMENT ON COLUMN purposes.kind IS 'mail: being written to; tracking: that opens and clicks are recorded';
INSERT INTO purposes (id, name, words, translations, position, kind)
  SELECT gen_random_uuid(), 'Opens and clicks', 'You may record whether I open your mails and which links I follow.',
         ${quoted(JSON.stringify(TRANSLATIONS))}, max(position) + 1, 'tracking' FROM purposes;
CREATE UNIQUE INDEX purposes_tracking ON purposes (kind) WHERE kind = 'tracking' AND retired_at IS NULL;

CREATE TABLE tracking_rules (
  id integer PRIMARY KEY DEFAULT 1 CHECK (id = 1),
  version integer NOT NULL DEFAULT 1,
  opens boolean NOT NULL DEFAULT true,
  clicks boolean NOT NULL DEFAULT true,
  off_countries text[] NOT NULL
);
COMMENT ON COLUMN tracking_rules.off_countries IS 'ISO 3166-1; nothing is recorded of people there unless they agreed to it';
-- Where the law asks for consent first: the European Economic Area, the United Kingdom, Switzerland (common practice).
INSERT INTO tracking_rules (off_countries) VALUES ('{AT,BE,BG,CH,CY,CZ,DE,DK,EE,ES,FI,FR,GB,GR,HR,HU,IE,IS,IT,LI,LT,LU,LV,MT,NL,NO,PL,PT,RO,SE,SI,SK}');

ALTER TABLE letters ADD COLUMN follows text CHECK (follows IN ('nothing', 'clicks', 'opens', 'both'));
COMMENT ON COLUMN letters.follows IS 'what of its reading is recorded; decided once, when it goes out';
CREATE TABLE letter_links (
  id uuid PRIMARY KEY,
  letter_id uuid NOT NULL REFERENCES letters ON DELETE CASCADE,
  url text NOT NULL,
  UNIQUE (letter_id, url)
);
COMMENT ON TABLE letter_links IS 'addresses in letters that are followed by way of ours';
ALTER TABLE letter_links ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON letter_links TO emporikon_member USING (EXISTS (SELECT 1 FROM letters l WHERE l.id = letter_id));

ALTER TABLE letter_recipients
  ADD COLUMN opened_at timestamptz,
  ADD COLUMN fetched_at timestamptz,
  ADD COLUMN clicked_at timestamptz,
  ADD COLUMN clicks integer NOT NULL DEFAULT 0;
COMMENT ON COLUMN letter_recipients.opened_at IS 'when a person opened it first, as far as that can be told';
COMMENT ON COLUMN letter_recipients.fetched_at IS 'when a mail program fetched its pictures by itself, which says nothing of a reader';
`;
