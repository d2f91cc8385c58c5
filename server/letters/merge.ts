import type { About } from '@emporikon/contract/ledger';
import {
  mergedFields,
  mergeFieldsOf,
  mergeName,
  mergeText,
  MERGE_KINDS,
  type MergeData,
  type MergeField,
  type MergeKind,
} from '@emporikon/core/outreach/mergeFields';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Person } from '../db/models/people';
import { valuesOf } from '../query/answer';
import { loadSchema } from '../query/schema';

type RecordKind = Exclude<MergeKind, 'me'>;
const IDS: Readonly<Record<RecordKind, keyof About>> = {
  person: 'personId',
  company: 'companyId',
  lead: 'leadId',
  deal: 'dealId',
  project: 'projectId',
  case: 'caseId',
};

/** Every field that a letter can name, with those of the organisation's own. */
export const mergeFields = async (context: Context): Promise<MergeField[]> =>
  mergeFieldsOf((await loadSchema(context)).registry);

interface Me {
  name: string;
  email: string;
  locale: string | null;
  time_zone: string;
}

/**
 * What the fields of a letter hold, for the records it is about. A person brings their company. Whoever writes sees no more
 * in a letter than on the records themselves.
 */
export async function mergeDataFor(
  context: Context,
  about: Partial<Record<keyof About, string | null>>,
): Promise<MergeData> {
  const { sequelize, tx, house } = context;
  const [me] = await sequelize.query<Me>('SELECT name, email, locale, time_zone FROM users WHERE id = $id', {
    bind: { id: requireActor(context).id },
    type: QueryTypes.SELECT,
    transaction: tx,
  });
  const person = about.personId ? await Person.findByPk(about.personId, { transaction: tx }) : null;
  const { personId, leadId, dealId, projectId, caseId } = about;
  const ids = {
    personId,
    leadId,
    dealId,
    projectId,
    caseId,
    companyId: about.companyId ?? person?.companyId ?? null,
  };
  const schema = await loadSchema(context);
  const written = {
    locale: me?.locale ?? 'en-GB',
    zone: me?.time_zone ?? 'UTC',
    currency: house.currency,
  };
  const data: Partial<Record<MergeKind, Record<string, string> | null>> = {
    me: {
      name: me?.name ?? '',
      first_name: me?.name.split(' ')[0] ?? '',
      email: me?.email ?? '',
    },
  };
  for (const kind of MERGE_KINDS) {
    if (kind === 'me') continue;
    const id = ids[IDS[kind]];
    const fields = mergedFields(schema.registry, kind);
    const said = id
      ? (await valuesOf(context, schema, { kind, columns: fields.map(({ key }) => key) }, [id])).get(id)
      : undefined;
    data[kind] = said
      ? Object.fromEntries(
          fields.map((field) => [mergeName(field), mergeText(said.values[field.key], field, written)]),
        )
      : null;
  }
  return data;
}
