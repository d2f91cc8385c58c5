import { cornersOf, isInside, type Position } from '../places/area';

export interface PostCode {
  /** ISO 3166-1 alpha-2. */
  country: string;
  /** Of a code, or its first characters. */
  code: string;
}

/** For which places somebody wants to hear of a topic; all of the world where nothing is named. */
export interface Places {
  codes: PostCode[];
  /** Ids of areas that the organisation has drawn. */
  areas: string[];
}

export interface Spot {
  at: Position | null;
  postCode: PostCode | null;
}

/** A post code as it is compared: without spaces and dashes, in capitals. */
export const bareCode = (code: string): string =>
  code
    .normalize('NFKC')
    .toUpperCase()
    .replace(/[\s-]+/g, '');

/**
 * Whether somebody who chose places wants to hear of a spot. A post code stands for all that begin with it, as codes narrow from
 * left to right.
 * @param outlines the corners of the areas that they can have chosen, by id
 */
export function covers(
  places: Places | null,
  { at, postCode }: Spot,
  outlines: ReadonlyMap<string, readonly number[]>,
): boolean {
  if (!places || !(places.codes.length || places.areas.length)) return true;
  const bare = postCode && bareCode(postCode.code);
  if (
    postCode &&
    bare &&
    places.codes.some(({ country, code }) => country === postCode.country && bare.startsWith(bareCode(code)))
  )
    return true;
  if (!at) return false;
  return places.areas.some((id) => isInside(at, cornersOf(outlines.get(id) ?? [])));
}
