import { STARTING_VIEWS_OF_WORK } from './views/startingOfWork';

/** Projects, cases, history and captures have views as well. */
export const name = '0047-views-of-work';

export const up = `
INSERT INTO views (id, kind, name, query, shared, position, created_at, updated_at) VALUES
${STARTING_VIEWS_OF_WORK.map(
  ([kind, called, query], at) =>
    `(gen_random_uuid(), '${kind}', '${called}', '${JSON.stringify(query)}', 'everybody', ${at}, now(), now())`,
).join(',\n')}
ON CONFLICT DO NOTHING;
`;
