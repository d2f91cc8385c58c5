/** What a tag means, by which it is coloured; and sources of leads counted without reading all of them. */
export const name = '0041-tags';

export const up = `
CREATE TABLE tag_meanings (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  tag text NOT NULL UNIQUE CHECK (tag <> ''),
  meaning text NOT NULL CHECK (meaning IN ('ours', 'theirs', 'waiting', 'warning'))
);
COMMENT ON TABLE tag_meanings IS 'tags that are shown in the colour of what they mean; all others in that of the text';
CREATE INDEX leads_source ON leads (source);
`;
