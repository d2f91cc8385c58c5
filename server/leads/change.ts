import { statusProblem, type LeadRating, type LeadStatus } from '@emporikon/core/lifecycle/statuses';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Lead } from '../db/models/deals';
import { invalid, notFound, stale } from '../http/problems';

interface LeadPatch {
  version: number;
  title?: string;
  status?: LeadStatus;
  ownerId?: string;
  parkedUntil?: string | null;
  dropReason?: string | null;
  rating?: LeadRating | null;
  because?: string;
}

async function loadLead(context: Context, id: string): Promise<Lead> {
  const lead = await Lead.findByPk(id, { transaction: context.tx, lock: true });
  if (!lead) throw notFound('There is no such lead.');
  return lead;
}

/** The open status a lead that is parked comes back to. */
const openStatus = (status: LeadStatus): 'new' | 'working' | 'qualified' =>
  status === 'new' || status === 'qualified' ? status : 'working';

/** Changes a lead, or moves it to another status. @throws 409 with what stands there when the version is old, 422 where it may not go there */
export async function changeLead(
  context: Context,
  id: string,
  { version, because, ...patch }: LeadPatch,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const lead = await loadLead(context, id);
  if (lead.version !== version) throw stale(rowOf(lead));
  const status = patch.status ?? lead.status;
  const problem = statusProblem(lead.status, status, {
    parkedUntil: patch.parkedUntil ?? lead.parkedUntil,
    dropReason: patch.dropReason ?? lead.dropReason,
  });
  if (problem) throw invalid(problem, { fields: { status: problem } });
  const moved = status !== lead.status;
  await context.write.update(lead, {
    ...patch,
    ...(moved
      ? {
          statusSince: context.now(),
          ...(status === 'parked'
            ? { parkedFrom: openStatus(lead.status) }
            : { parkedUntil: null, parkedFrom: null }),
          ...(status === 'dropped' ? {} : { dropReason: null }),
        }
      : {}),
    updatedAt: context.now(),
  });
  const label = moved ? `Set ${lead.title} to ${status}` : `Changed ${lead.title}`;
  return {
    version: lead.version,
    eventId: await context.write.event('change lead', label, requireActor(context).id),
  };
}
