import type { Schema } from '@emporikon/core/query/sql/scope';
import type { Storage } from '@emporikon/core/query/sql/storage';
import type { TermList } from '@emporikon/core/lifecycle/terms';
import { upper } from '@emporikon/core/query/registry/build';
import { registryWith } from '@emporikon/core/query/registry/index';
import type { Asking, Option, RecordKind } from '@emporikon/core/query/types';
import { rateOn, type Rate } from '@emporikon/core/lifecycle/currencies';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { todayOf } from '@emporikon/core/query/time';
import type { Context } from '../commands/context';
import { askPrepared } from '../db/prepared';
import { maySee } from '../fields/rights';
import { fieldsByRecord, storedByRecord, type OwnField } from './ownFields';
import { STORAGE } from './storage/index';

interface Settings {
  users: (Option & { team: string })[];
  stages: Option[];
  pipelines: Option[];
  projectStages: Option[];
  lists: Option[];
  /** Standings, lead statuses and kinds of companies, those that are retired last. */
  terms: (Option & { list: TermList; countsAs: string })[];
  fields: OwnField[];
  rates: Rate[];
}

const options = (from: string, more = ''): string =>
  `(SELECT coalesce(json_agg(json_build_object('value', id, 'label', name${more}) ORDER BY position, name), '[]') FROM (${from}) o)`;
/** Asked with every query. */
const SETTINGS = `SELECT ${options('SELECT id, name, team, 0 AS position FROM users', ", 'team', team")} AS users,
  ${options('SELECT s.id, s.name, row_number() OVER (ORDER BY p.position, p.id, s.position) AS position FROM stages s JOIN pipelines p ON p.id = s.pipeline_id')} AS stages,
  ${options('SELECT id, name, position FROM pipelines')} AS pipelines,
  ${options('SELECT id, name, position FROM project_stages')} AS "projectStages",
  ${options('SELECT id, name, 0 AS position FROM lists')} AS lists,
  ${options('SELECT key AS id, name, list, counts_as, position + CASE WHEN retired_at IS NULL THEN 0 ELSE 1000 END AS position FROM terms', ", 'list', list, 'countsAs', counts_as")} AS terms,
  (SELECT coalesce(json_agg(json_build_object('key', key, 'label', label, 'kind', kind, 'options', options, 'record', record, 'seenBy', seen_by) ORDER BY position, id), '[]') FROM custom_fields) AS fields,
  (SELECT coalesce(json_agg(json_build_object('currency', currency, 'day', day, 'perHouse', per_house::text)), '[]') FROM currency_rates) AS rates`;

/** How much one minor unit of each known currency is in minor units of the organisation's today. */
function ratesToday(rates: readonly Rate[], house: string, today: string): Record<string, number> {
  const known = new Map<string, number>([[house, 1]]);
  for (const currency of new Set(rates.map((rate) => rate.currency))) {
    const rate = rateOn(rates, currency, today);
    if (rate) known.set(currency, 10 ** (minorDigits(house) - minorDigits(currency)) / Number(rate.perHouse));
  }
  return Object.fromEntries(known);
}

/** Who asks, and what can be asked in this organisation: with its own fields, stages, colleagues and rates. */
export async function loadSchema(context: Context): Promise<Schema> {
  const [settings] = await askPrepared<Settings>(context, SETTINGS, {});
  if (!settings) throw new Error('the settings did not come');
  const custom = settings.fields.filter((field) => maySee(context, field));
  const me = context.actor?.id ?? null;
  const own = settings.users.find((user) => user.value === me)?.team;
  const asking: Asking = {
    now: context.now().toISOString(),
    zone: context.actor?.timeZone ?? 'UTC',
    me,
    team: own ? settings.users.filter((user) => user.team === own).map((user) => user.value) : [],
  };
  const termsOf = (list: TermList): Option[] =>
    settings.terms
      .filter((term) => term.list === list)
      .map(({ value, label, countsAs }) => ({ value, label: upper(label), countsAs }));
  const registry = registryWith({
    fields: fieldsByRecord(custom),
    options: {
      '*.user': settings.users,
      'deal.stage': settings.stages,
      'deal.pipeline': settings.pipelines,
      'project.stage': settings.projectStages,
      'person.lists': settings.lists,
      'person.standing': termsOf('standing'),
      'company.companyKind': termsOf('companyKind'),
      'lead.status': termsOf('leadStatus'),
    },
  });
  const stored = storedByRecord(custom);
  const storage = Object.fromEntries(
    Object.entries(STORAGE).map(([kind, one]) => [
      kind,
      { ...one, fields: { ...one.fields, ...stored[kind as RecordKind] } },
    ]),
  ) as unknown as Storage;
  return {
    registry,
    storage,
    asking,
    rates: ratesToday(settings.rates, context.house.currency, todayOf(asking)),
  };
}
