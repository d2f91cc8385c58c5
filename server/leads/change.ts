import { statusProblem, type LeadRating, type LeadStatus } from '@emporikon/core/lifecycle/statuses';
import { termName } from '@emporikon/core/lifecycle/terms';
import { requireActor, type Context } from '../commands/context';
import { loadTerms, requireTerm } from '../commands/terms';
import { rowOf } from '../commands/writer';
import { Lead } from '../db/models/deals';
import { invalid, notFound, stale } from '../http/problems';

interface LeadPatch {
  version: number;
  title?: string;
  /** The key of a term. */
  status?: string;
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
const comesBackTo = ({ status, parkedFrom }: Lead): 'new' | 'working' | 'qualified' =>
  status === 'parked'
    ? (parkedFrom ?? 'working')
    : status === 'new' || status === 'qualified'
      ? status
      : 'working';

/** How a lead holds a status that was chosen; as it does where none was. @throws 422 for none that is offered */
async function statusOf(
  context: Context,
  lead: Lead,
  key: string | undefined,
): Promise<{ status: LeadStatus; statusTerm: string | null }> {
  const { status, statusTerm } = lead;
  const now = statusTerm ?? status;
  if (key === undefined || key === now) return { status, statusTerm };
  const { countsAs, own } = await requireTerm(context, 'leadStatus', key, { field: 'status', now });
  return { status: countsAs as LeadStatus, statusTerm: own };
}

/** Changes a lead, or moves it to another status. @throws 409 with what stands there when the version is old, 422 where it may not go there */
export async function changeLead(
  context: Context,
  id: string,
  { version, because, status: chosen, ...patch }: LeadPatch,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const lead = await loadLead(context, id);
  if (lead.version !== version) throw stale(rowOf(lead));
  const next = await statusOf(context, lead, chosen);
  const { status } = next;
  const problem = statusProblem(lead.status, status, {
    parkedUntil: patch.parkedUntil ?? lead.parkedUntil,
    dropReason: patch.dropReason ?? lead.dropReason,
  });
  if (problem) throw invalid(problem, { fields: { status: problem } });
  const moved = status !== lead.status || next.statusTerm !== lead.statusTerm;
  await context.write.update(lead, {
    ...patch,
    ...next,
    ...(moved
      ? {
          statusSince: context.now(),
          ...(status === 'parked'
            ? { parkedFrom: comesBackTo(lead) }
            : { parkedUntil: null, parkedFrom: null }),
          ...(status === 'dropped' ? {} : { dropReason: null }),
        }
      : {}),
    updatedAt: context.now(),
  });
  const called = moved ? termName(await loadTerms(context), next.statusTerm ?? status) : '';
  const label = moved ? `Set ${lead.title} to ${called}` : `Changed ${lead.title}`;
  return {
    version: lead.version,
    eventId: await context.write.event('change lead', label, requireActor(context).id),
  };
}
