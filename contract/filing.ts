import { z } from 'zod';
import { Currency, Done, Id, Line, Minor, Named, Time } from './common';
import { Tags } from './fields';
import { MoveKind } from './moves';

export const ProposedMove = z.object({
  title: z.string(),
  kind: MoveKind,
  dueAt: Time,
  allDay: z.boolean(),
});

const Choice = z.union([Id, z.literal('new')]);
const NewDeal = z.object({
  title: Line(200),
  stageId: Id.optional(),
  amountMinor: Minor.nullable().default(null),
  currency: Currency.optional(),
});
export const FilingInput = z.object({
  person: Choice.optional().describe('whom it is of; by the verdict when left out'),
  company: z.union([Choice, z.literal('none')]).optional(),
  companyName: Line(200).optional().describe('the name of the company where it is new or was read wrong'),
  as: z.enum(['person', 'lead', 'deal', 'case']).optional().describe('a lead when left out'),
  case: Id.optional().describe('a case it is about; that of its exchange of mails when left out'),
  urgency: z.enum(['urgent', 'normal', 'low']).optional().describe('of the case that is opened'),
  project: Id.optional().describe('a project it is about'),
  deal: z.union([Id, NewDeal]).optional().describe('an open deal to attach it to, or one to open'),
  ownerId: Id.optional(),
  tags: Tags.optional(),
  listId: Id.optional(),
  source: Line(60).optional().describe('where the lead came from'),
  leadStatus: z.enum(['new', 'working']).optional(),
  note: z.string().trim().max(4000).optional(),
  also: z
    .array(z.object({ address: z.string().max(320), person: Choice }))
    .max(40)
    .optional()
    .describe('who else on the message it is filed on; those we know for sure when left out'),
  lead: z
    .union([Choice, z.literal('none')])
    .optional()
    .describe('left out, it goes to the open lead or deal of the person, else to a new lead'),
  nextMove: ProposedMove.extend({ title: Line(300), assigneeId: Id.optional() })
    .nullable()
    .optional(),
});
export const Filed = Done.extend({
  also: z.array(z.string()).describe('the names of others it was filed on as well'),
  person: Named,
  company: Named.nullable(),
  lead: Named.nullable(),
  deal: Named.nullable(),
  case: Named.nullable(),
  project: Named.nullable(),
});
export type Filed = z.infer<typeof Filed>;
export const CompanyFilingInput = z.object({
  company: Choice.optional().describe('which company it is of; by the verdict when left out'),
  companyName: Line(200).optional().describe('its name where it was read wrong or not at all'),
  ownerId: Id.optional(),
});
export const CompanyFiled = Done.extend({ company: Named });
export type CompanyFiled = z.infer<typeof CompanyFiled>;
