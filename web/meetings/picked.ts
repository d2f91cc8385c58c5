import type { Attendee } from '@emporikon/contract/tasks';

/** Somebody who was picked to come to a meeting. */
export interface Picked {
  /** Tells them apart: the id of a person or colleague, or an address. */
  key: string;
  name: string;
  hint?: string;
  personId?: string;
  userId?: string;
  email?: string;
}

/** As it is sent. */
export const wantedOf = ({ personId, userId, email, name }: Picked) =>
  personId ? { personId } : userId ? { userId } : { email: email ?? '', ...(name === email ? {} : { name }) };

/** Those who come already, as they would be picked. */
export const pickedOf = ({ personId, userId, email, name }: Attendee): Picked => ({
  key: personId ?? userId ?? email,
  name: name || email,
  ...(personId ? { personId } : userId ? { userId } : { email }),
});
