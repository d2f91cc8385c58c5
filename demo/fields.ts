import { CustomField } from '@emporikon/server/db/models/fields';
import { Company } from '@emporikon/server/db/models/people';
import { Deal } from '@emporikon/server/db/models/deals';
import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';

type Given = Pick<CustomField, 'key' | 'label' | 'kind'> & Partial<CustomField['dataValues']>;

/** What the firm keeps of its customers and its deals beside the usual fields. */
const FIELDS: readonly Given[] = [
  { record: 'company', key: 'fleet', label: 'Bikes they have', kind: 'number', isAsked: true },
  {
    ...{ record: 'company', key: 'service_plan', label: 'Service plan', kind: 'choice' },
    options: ['None', 'Basic', 'Complete'],
    preset: 'None',
  },
  { record: 'company', key: 'plan_ends', label: 'Plan ends', kind: 'date', tab: 'Service' },
  {
    ...{ record: 'company', key: 'plan_days', label: 'Days left', kind: 'formula', tab: 'Service' },
    formula: 'days(today, plan_ends)',
  },
  {
    ...{ record: 'company', key: 'workshop_days', label: 'Workshop days', kind: 'several', tab: 'Service' },
    options: ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday'],
    part: 'When we may come',
  },
  { record: 'deal', key: 'bikes', label: 'Bikes', kind: 'number' },
  {
    ...{ record: 'deal', key: 'old_fleet', label: 'Trade-in value', kind: 'money', options: ['EUR'] },
    help: 'What we give for their old bikes',
  },
];

const OF_COMPANIES: Readonly<Record<string, Record<string, string>>> = {
  'Pão & Sal': {
    fleet: '4',
    service_plan: 'Complete',
    plan_ends: '2027-06-30',
    workshop_days: 'Monday\nFriday',
  },
};
const OF_DEALS: Readonly<Record<string, Record<string, string>>> = {
  'Pão & Sal': { bikes: '2', old_fleet: '120000' },
};

async function setUp(context: Context): Promise<void> {
  for (const [index, field] of FIELDS.entries())
    await context.write.insert(CustomField, {
      options: [],
      active: true,
      ...field,
      id: context.newId(),
      position: index + 1,
    });
  for (const [name, custom] of Object.entries(OF_COMPANIES)) {
    const company = await Company.findOne({ where: { name }, transaction: context.tx });
    if (company) await context.write.update(company, { custom });
  }
  for (const [title, custom] of Object.entries(OF_DEALS)) {
    const deal = await Deal.findOne({ where: { title }, transaction: context.tx });
    if (deal) await context.write.update(deal, { custom });
  }
  await context.write.event('set up', 'Added fields of our own', context.actor?.id ?? null);
}

export const loadFields = (
  at: (hours: number) => Tools,
  actorOf: (name: string) => Actor | null,
): Promise<void> => runInTransaction(at(2), actorOf('Joss Ferrow'), setUp);
