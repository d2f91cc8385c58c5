import type { PageKind } from './types';

/** Whether a page tells of a company and of nobody in it, so that a company is made of it and no person. */
export const tellsOfCompanyAlone = (read: {
  page: { kind: PageKind } | null;
  claims: readonly { field: string; fate: string }[];
}): boolean =>
  read.page?.kind === 'company' &&
  !read.claims.some(({ field, fate }) => field === 'fullName' && fate !== 'rejected');
