import { mayReach, type Level } from '@emporikon/core/fields/rights';
import type { Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { CustomField } from '../db/models/fields';
import type { Model } from 'sequelize';

interface Rights {
  seenBy?: Level;
  changedBy?: Level;
}
const roleOf = ({ actor }: Context) => actor?.role ?? null;

export const maySee = (context: Context, { seenBy }: Rights): boolean =>
  mayReach(seenBy ?? 'everybody', roleOf(context));
export const mayChange = (context: Context, field: Rights): boolean =>
  maySee(context, field) && mayReach(field.changedBy ?? 'everybody', roleOf(context));

/** The keys of fields that are hidden from the actor. */
export async function hiddenKeys(context: Context): Promise<ReadonlySet<string>> {
  const fields = await CustomField.findAll({ transaction: context.tx });
  return new Set(fields.filter((field) => !maySee(context, field)).map(({ key }) => key));
}

/** A record as it stands, for whoever saved over an older version: its own fields as `custom.KEY`, where they may be seen. */
export async function rowAsSeen(context: Context, row: Model): Promise<Record<string, unknown>> {
  const { custom, ...rest } = rowOf(row);
  const hidden = await hiddenKeys(context);
  const own = Object.entries((custom ?? {}) as Record<string, unknown>).filter(([key]) => !hidden.has(key));
  return { ...rest, ...Object.fromEntries(own.map(([key, value]) => [`custom.${key}`, value])) };
}
