import type { Context } from '../../commands/context';
import { LookUpRules, LookUpSourceRow } from '../../db/models/lookUps';

type Database = Pick<Context, 'sequelize' | 'tx' | 'outside'>;

/** The house's rules for look-ups; there is always one row of them. */
export async function loadRules(context: Pick<Context, 'tx'>): Promise<LookUpRules> {
  const rules = await LookUpRules.findOne({ transaction: context.tx });
  if (!rules) throw new Error('the rules for look-ups are gone');
  return rules;
}

/** The rows of the sources that are set up, made where one is new. */
export async function sourceRows(context: Database): Promise<LookUpSourceRow[]> {
  const keys = context.outside.lookUps.map((one) => one.key);
  if (!keys.length) return [];
  const known = await LookUpSourceRow.findAll({ where: { key: keys }, transaction: context.tx });
  if (known.length === keys.length) return known;
  await context.sequelize.query(
    'INSERT INTO look_up_sources (key) SELECT unnest(ARRAY[:keys]) ON CONFLICT DO NOTHING',
    { replacements: { keys }, transaction: context.tx },
  );
  return LookUpSourceRow.findAll({ where: { key: keys }, transaction: context.tx });
}
