/** Fields of what is personal have a place of their own; the usual ones are there from the start, and none is ever required. */
export const name = '0029-personal-facts';

export const up = `
ALTER TABLE custom_fields ADD COLUMN is_personal boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN custom_fields.is_personal IS 'whether it stands with what is personal, beside the birthday';
INSERT INTO custom_fields (id, key, label, kind, position, is_personal)
SELECT gen_random_uuid(), f.key, f.label, f.kind, f.position, true
  FROM (VALUES ('interests', 'Interests', 'text', 1001), ('favourite_things', 'Favourite things', 'text', 1002),
               ('family', 'Family', 'text', 1003), ('assistant', 'Assistant', 'text', 1004), ('anniversary', 'Anniversary', 'date', 1005))
       f (key, label, kind, position)
ON CONFLICT (key) DO NOTHING;
`;
