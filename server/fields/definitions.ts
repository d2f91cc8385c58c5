import { formulaTrouble, withKeys } from '@emporikon/core/fields/formula';
import {
  MAY_BE_UNIQUE,
  normaliseOwn,
  POINTS,
  type OwnKind,
  type OwnRecord,
} from '@emporikon/core/fields/own';
import { LEVELS, type Level } from '@emporikon/core/fields/rights';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { STANDINGS } from '@emporikon/core/lifecycle/standing';
import { Op } from 'sequelize';
import type { Context } from '../commands/context';
import { CustomField } from '../db/models/fields';
import { PipelineRow } from '../db/models/pipelines';
import { invalid } from '../http/problems';

/** What is said of a field before it is kept. */
export interface Draft {
  record: OwnRecord;
  label: string;
  kind: OwnKind;
  options: string[];
  isPersonal: boolean;
  tab: string;
  part: string;
  help: string;
  isAsked: boolean;
  preset: string;
  isUnique: boolean;
  onlyFor: string[];
  formula: string;
  seenBy: Level;
  changedBy: Level;
}

const wrong = (field: keyof Draft, why: string): Error =>
  invalid(`Nothing was saved: ${why}`, { fields: { [field]: why } });

/** How many minor units there are in one unit of a field's currency. */
export const perUnit = ({ options }: { options: readonly string[] }): number =>
  10 ** minorDigits(options[0] ?? '');

/** What the fields of a kind of record can be for: standings, kinds of companies or pipelines. */
async function whatFor(context: Context, record: OwnRecord): Promise<readonly string[]> {
  if (record === 'person') return STANDINGS;
  if (record === 'company') return ['firm', 'household'];
  if (record !== 'deal') return [];
  return (await PipelineRow.findAll({ attributes: ['id'], transaction: context.tx })).map(({ id }) => id);
}

function checkOptions({ kind, options }: Draft, currency: string): string[] {
  if (kind === 'money') {
    const own = options[0] ?? currency;
    if (options.length > 1 || !/^[A-Z]{3}$/.test(own)) throw wrong('options', 'choose one currency.');
    return [own];
  }
  if (kind !== 'choice' && kind !== 'several') return [];
  if (!options.length) throw wrong('options', 'add at least one choice.');
  if (new Set(options).size < options.length) throw wrong('options', 'each choice can be there once.');
  return options;
}

function checkPreset(draft: Draft): string {
  const { kind, options, preset, isUnique } = draft;
  if (!preset) return '';
  if (POINTS.has(kind) || kind === 'formula' || isUnique)
    throw wrong('preset', 'a field like this cannot begin with a value.');
  const result = normaliseOwn(kind, preset, options);
  if ('why' in result) throw wrong('preset', `what it begins with ${result.why}.`);
  return result.value;
}

/** Fields whose values a formula of this kind of record can use. */
export const usable = (fields: readonly CustomField[]): CustomField[] =>
  fields.filter(({ kind }) => kind !== 'formula' && kind !== 'file');

/**
 * A field as it is kept, checked.
 * @param but the field itself, where there is one already
 * @throws 422 that names what is wrong
 */
export async function checkDefinition(context: Context, draft: Draft, but?: string): Promise<Draft> {
  const others = await CustomField.findAll({
    where: { record: draft.record, ...(but ? { id: { [Op.ne]: but } } : {}) },
    transaction: context.tx,
  });
  const options = checkOptions(draft, context.house.currency);
  if (draft.isUnique && !MAY_BE_UNIQUE.has(draft.kind))
    throw wrong('isUnique', 'only texts, numbers and web addresses can be asked to differ.');
  if (LEVELS.indexOf(draft.changedBy) < LEVELS.indexOf(draft.seenBy))
    throw wrong('changedBy', 'whoever changes it has to see it.');
  const known = draft.onlyFor.length ? await whatFor(context, draft.record) : [];
  if (draft.onlyFor.some((one) => !known.includes(one)))
    throw wrong('onlyFor', 'what it is for does not exist.');
  const named = usable(others).map(({ key, label, kind, options: own }) => ({
    ...{ key, label, kind },
    perUnit: perUnit({ options: own }),
  }));
  const formula = draft.kind === 'formula' ? withKeys(draft.formula, named) : '';
  const trouble = draft.kind === 'formula' ? formulaTrouble(formula, named) : null;
  if (trouble) throw wrong('formula', trouble);
  const checked = { ...draft, options, formula };
  return { ...checked, preset: checkPreset(checked) };
}
