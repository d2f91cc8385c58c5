import type { NoticeKind } from '@emporikon/core/ledger/notices';

/** What somebody is told. */
export interface Told {
  userId: string;
  kind: NoticeKind;
  title: string;
  detail?: string;
  entryId?: string;
  taskId?: string;
  personId?: string | null;
  companyId?: string | null;
  leadId?: string | null;
  dealId?: string | null;
}

export interface Colleague {
  id: string;
  name: string;
  email: string;
  timeZone: string;
}
