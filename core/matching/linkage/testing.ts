import { FeatureBuilder, type Features } from './features';
import { planOf } from './plan';

/** The columns of the tables that tests compare. */
export const HEAD = ['id', 'given name', 'family name', 'email', 'phone', 'company', 'postcode', 'city'];
export type Row = string[];

export function featuresOf(rows: readonly Row[], head = HEAD): Features {
  const plan = planOf(
    head,
    rows.map((row) => [...row]),
  );
  const builder = new FeatureBuilder(plan);
  for (const row of rows) builder.add(row);
  return builder.finish();
}
