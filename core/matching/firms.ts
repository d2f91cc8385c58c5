import { companyFitsDomain } from '../people/companies';
import { firmParts } from '../people/naming/firms';
import { fold } from '../people/text';
import { reason, USUAL_SCALES, type Reason, type Scales } from './evidence';
import { compareFirmNames } from './firmNames';
import { jaroWinkler } from './similarity';
import { DEFAULT_WEIGHTS } from './weights';

export interface CompanyFacts {
  name: string;
  domain: string | null;
  /** E.164. */
  phone?: string | null;
  address?: string | null;
}

const grown = (records: number): number => Math.log2(Math.max(1, records / DEFAULT_WEIGHTS.records));

/**
 * All that speaks for and against two sets of facts being one company, strongest first: registrable domain, name, number and address. A
 * group shares its domain, and the names of its firms tell them apart.
 */
export function compareCompanyFacts(
  a: CompanyFacts,
  b: CompanyFacts,
  { records }: Pick<Scales, 'records'> = USUAL_SCALES,
): Reason[] {
  const reasons: Reason[] = [];
  const more = grown(records);
  const named = firmParts(a.name).core && firmParts(b.name).core ? compareFirmNames(a.name, b.name) : null;
  if (named) reasons.push(reason(named.text, named.bits + named.grows * more));
  else if (a.domain && b.name && companyFitsDomain(b.name, a.domain))
    reasons.push(reason('name fits the domain', 6));
  const isOfGroup = named?.isRelated ?? false;
  if (a.domain && b.domain) {
    if (a.domain !== b.domain) reasons.push(reason('another domain', -3));
    else
      reasons.push(
        isOfGroup ? reason('same domain, as firms of a group have', 4) : reason('same domain', 17 + more),
      );
  }
  if (a.phone && b.phone)
    reasons.push(
      a.phone === b.phone
        ? reason('same number', (isOfGroup ? 4 : 8) + more)
        : reason('another number', -0.5),
    );
  const [here, there] = [fold(a.address ?? ''), fold(b.address ?? '')];
  if (here && there)
    reasons.push(
      here === there
        ? reason('same address', 5 + more)
        : jaroWinkler(here, there) >= 0.92
          ? reason('nearly the same address', 3 + more)
          : reason('at another address', -2),
    );
  return reasons.sort((x, y) => Math.abs(y.bits) - Math.abs(x.bits));
}
