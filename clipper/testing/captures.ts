import type { CaptureDetail } from '@emporikon/contract/captures';

/** A capture as the program answers it, as far as the clipper looks at it. */
export const capture = (over: object = {}): CaptureDetail =>
  ({
    id: 'c1',
    state: 'waiting',
    from: 'Ines Duarte',
    claims: [
      { id: 'claim-1', field: 'fullName', value: 'Ines Duarte', fate: 'proposed' },
      { id: 'claim-2', field: 'jobTitle', value: 'Buyer', fate: 'rejected' },
    ],
    listed: [],
    known: null,
    page: { kind: 'person' },
    verdict: { companyName: 'Padaria Sol', person: { kind: 'new', matches: [] } },
    ...over,
  }) as unknown as CaptureDetail;

export const known = {
  person: { id: 'p1', name: 'Ines Duarte' },
  owner: 'Pell Garrick',
  turn: { because: 'they wrote last' },
  nextMove: null,
};
