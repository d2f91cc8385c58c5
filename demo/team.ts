import { hashPassword } from '@emporikon/server/session/secrets';
import type { DealAsk } from '@emporikon/core/lifecycle/stages';
import { Question, Stage } from '@emporikon/server/db/models/deals';
import { PipelineRow } from '@emporikon/server/db/models/pipelines';
import { User, type UserRole } from '@emporikon/server/db/models/users';
import { loadRules } from '@emporikon/server/lookups/planning/rules';
import { FitRuleRow } from '@emporikon/server/db/models/qualifying';
import type { Context } from '@emporikon/server/commands/context';

/** The password of every demo user; printed by `npm start`. */
export const DEMO_PASSWORD = 'long-bikes-carry';

const TEAM: readonly [string, string, UserRole, string, string][] = [
  ['Mara Quill', 'mara@wharfside.example', 'manager', 'Europe/London', 'north'],
  ['Pell Garrick', 'pell@wharfside.example', 'rep', 'Europe/London', 'north'],
  ['Ines Tolland', 'ines@wharfside.example', 'rep', 'Europe/Lisbon', 'south'],
  ['Joss Ferrow', 'joss@wharfside.example', 'admin', 'Europe/London', ''],
];

/** Name, kind, usual win probability in per cent, typical days of won deals, what it asks for. */
const STAGES: readonly [string, Stage['kind'], number, number, DealAsk[]][] = [
  ['Heard out', 'open', 15, 10, []],
  ['Tried out', 'open', 35, 14, ['company', 'decider']],
  ['Proposal', 'open', 55, 9, ['amount', 'expectedClose', 'lines']],
  ['Terms', 'open', 75, 7, ['payer', 'expectedClose']],
  ['Signed', 'won', 100, 1, ['amount']],
  ['Not for us', 'lost', 0, 1, []],
];

const QUESTIONS: readonly [string, string][] = [
  ['Need', 'What do they want to carry, and how much of it?'],
  ['Timing', 'When do they want to start?'],
  ['Budget', 'What can they spend?'],
  ['Who decides', 'Who signs, and who else has a say?'],
];

/** By what the demo's leads are judged: who buys cargo bikes. */
const FIT: readonly [FitRuleRow['field'], FitRuleRow['condition'], string, number][] = [
  ['industry', 'is', 'Bakeries, Couriers, Florists, Catering', 30],
  ['employees', 'at least', '5', 15],
  ['employees', 'at least', '200', -10],
  ['country', 'is', 'GB, IE, NL, PT, SE, NO, DE', 15],
  ['jobTitle', 'contains', 'owner, head, manager, director, lead', 15],
  ['quantity', 'at least', '4', 20],
  ['technologies', 'is', 'route planner, fleet tracker', 5],
];

/** The team of Wharfside Cargo Cycles, the stages of its pipeline and its qualifying questions. */
export async function loadTeam(context: Context): Promise<Map<string, User>> {
  const now = context.now();
  const users = new Map<string, User>();
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  for (const [name, email, role, timeZone, team] of TEAM)
    users.set(
      name,
      await User.create(
        {
          id: context.newId(),
          name,
          email,
          role,
          timeZone,
          locale: 'en-GB',
          team,
          passwordHash,
          active: true,
          createdAt: now,
        },
        { transaction: context.tx },
      ),
    );
  const pipeline = await PipelineRow.findOne({ transaction: context.tx, rejectOnEmpty: true });
  await context.write.update(pipeline, { name: 'Bikes' });
  for (const [position, [name, kind, probability, typicalDays, asks]] of STAGES.entries())
    await context.write.insert(Stage, {
      id: context.newId(),
      pipelineId: pipeline.id,
      asks,
      name,
      kind,
      probability,
      typicalDays,
      position: position + 1,
    });
  for (const [position, [label, help]] of QUESTIONS.entries())
    await context.write.insert(Question, {
      id: context.newId(),
      label,
      help,
      position: position + 1,
      active: true,
    });
  for (const [position, [field, condition, value, points]] of FIT.entries())
    await context.write.insert(FitRuleRow, {
      id: context.newId(),
      position,
      field,
      condition,
      value,
      points,
    });
  const rules = await loadRules(context);
  await context.write.update(rules, { automatic: true });
  await context.write.event('load demo', 'Set up the team', null);
  return users;
}
