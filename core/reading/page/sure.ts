import { addressLikeness, hasPostcode, hasStreet } from '../../people/addresses';
import { companyFitsDomain, companyLikeness } from '../../people/companies';
import { companyDomain, localPart } from '../../people/emails';
import { nameFitsLocalPart } from '../../people/names';
import { titleLikeness } from '../signature/words';
import type { Claim } from '../types';
import { isKnownName } from './names';
import type { Sheet } from './sheet';

/** What machines say of a page, and where its voices contradict each other, is as sure as it was. */
const KEPT = /data|h-card|contradicts|OpenGraph| and /;
/** How often what is read from the words of a page is right, where something else on it bears it out and where nothing does. */
const SHARES: Partial<Record<Claim['field'], readonly [borne: number, alone: number]>> = {
  fullName: [0.97, 0.85],
  jobTitle: [0.95, 0.75],
  companyName: [0.96, 0.84],
  email: [0.98, 0.9],
  address: [0.93, 0.75],
};

/** Whether something else than where it stands says that a claim is what it is taken for. */
function isBorneOut(claim: Claim, claims: readonly Claim[], { host }: Sheet): boolean {
  const name = claims.find((one) => one.field === 'fullName')?.value ?? '';
  const emails = claims.filter((one) => one.field === 'email').map((one) => one.value);
  switch (claim.field) {
    case 'fullName':
      return (
        isKnownName(claim.value) || emails.some((email) => nameFitsLocalPart(claim.value, localPart(email)))
      );
    case 'jobTitle':
      return titleLikeness(claim.value) >= 1;
    case 'companyName':
      return (
        companyLikeness(claim.value) >= 1 ||
        [host, ...emails.map(companyDomain)].some(
          (domain) => domain !== null && companyFitsDomain(claim.value, domain),
        )
      );
    case 'email':
      return name === '' || nameFitsLocalPart(name, localPart(claim.value));
    default:
      return addressLikeness(claim.value) >= 1 && hasPostcode(claim.value) && hasStreet(claim.value);
  }
}

/** The claims with confidences that say how often such are right: more where something else on the page bears them out. */
export const borneOut = (claims: readonly Claim[], sheet: Sheet): Claim[] =>
  claims.map((claim) => {
    const shares = SHARES[claim.field];
    if (!shares || KEPT.test(claim.source)) return claim;
    return { ...claim, confidence: shares[isBorneOut(claim, claims, sheet) ? 0 : 1] };
  });
