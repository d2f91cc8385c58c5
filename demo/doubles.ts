import { runInTransaction, type Actor, type Tools } from '@emporikon/server/commands/context';
import { addPerson, changePerson, type NewPerson } from '@emporikon/server/people/commands';
import { addCompany, changeCompany } from '@emporikon/server/companies/commands';
import { Person } from '@emporikon/server/db/models/people';
import { findLookAlikes } from '@emporikon/server/lookalikes/run';

/** The same people written down a second time by somebody who did not look. */
const AGAIN: readonly (NewPerson & { tags?: string[]; daysAgo: number; by: string })[] = [
  {
    fullName: 'Inês Duarte',
    jobTitle: 'Owner',
    email: 'ines.duarte@freemail.example',
    companyName: 'Padaria Sol',
    tags: ['bakery', 'fair 2026'],
    daysAgo: 9,
    by: 'Ines Tolland',
  },
  {
    fullName: 'Seun Adebayo',
    email: 'o.adebayo@freemail.example',
    phone: '07700 900123',
    companyName: 'Coral Crumb',
    daysAgo: 6,
    by: 'Mara Quill',
  },
  {
    fullName: 'Clem Ashdown',
    jobTitle: 'Operations Manager',
    phone: '07700 900234',
    companyName: 'Dashline Couriers',
    tags: ['courier'],
    daysAgo: 4,
    by: 'Pell Garrick',
  },
  {
    fullName: 'Nils Havneby',
    email: 'nils.havneby@freemail.example',
    phone: '+47 406 12 345',
    companyName: 'Havnebud',
    daysAgo: 3,
    by: 'Ines Tolland',
  },
  {
    fullName: 'Sofia Lindkvist',
    phone: '+46 70 174 06 05',
    companyName: 'Norrsken Florists',
    jobTitle: 'Head of Purchasing',
    daysAgo: 2,
    by: 'Pell Garrick',
  },
];

/** Records that look alike, and the first look for them. */
export async function loadDoubles(
  at: (hoursAgo: number) => Tools,
  actors: ReadonlyMap<string, Actor>,
): Promise<void> {
  for (const { tags, daysAgo, by, ...one } of AGAIN)
    await runInTransaction(at(daysAgo * 24), actors.get(by) ?? null, async (context) => {
      const { id } = await addPerson(context, one);
      const person = await Person.findByPk(id, { transaction: context.tx });
      if (tags && person) await changePerson(context, id, { version: person.version, tags });
    });
  const mara = actors.get('Mara Quill') ?? null;
  await runInTransaction(at(50), mara, async (context) => {
    await addCompany(context, 'Dashline Couriers Ltd', null);
    const { id } = await addCompany(context, 'Liffey Linens', null);
    await changeCompany(context, id, { version: 1, address: '14 Forge Lane, Dublin' });
    await addCompany(context, 'The Havneby family', null, 'household');
  });
  await runInTransaction(at(30), mara, async (context) => {
    const [gone] = await Person.findAll({ where: { fullName: 'Hamish Rennie' }, transaction: context.tx });
    if (gone) await changePerson(context, gone.id, { version: gone.version, active: false });
  });
  for (const kind of ['company', 'person'] as const) await findLookAlikes(at(0), kind);
}
