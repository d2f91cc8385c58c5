import { useSession } from './session';

const pad = (part: number): string => String(part).padStart(2, '0');

/** Minutes east of UTC in a zone at a moment. */
function offsetOf(at: Date, zone: string): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    dateStyle: 'short',
    timeStyle: 'medium',
  }).formatToParts(at);
  const of = (type: Intl.DateTimeFormatPartTypes): number =>
    Number(parts.find((part) => part.type === type)?.value ?? 0);
  const there = Date.UTC(of('year'), of('month') - 1, of('day'), of('hour') % 24, of('minute'), of('second'));
  return Math.round((there - at.getTime()) / 60_000);
}

const ownZone = (): string => useSession().me?.timeZone ?? 'UTC';

/** A moment as a date or time field of the page takes it, on the clock of the signed-in person or of another zone. */
export function toField(iso: string, allDay: boolean, zone = ownZone()): string {
  const at = new Date(iso);
  const local = new Date(at.getTime() + offsetOf(at, zone) * 60_000);
  const day = `${local.getUTCFullYear()}-${pad(local.getUTCMonth() + 1)}-${pad(local.getUTCDate())}`;
  return allDay ? day : `${day}T${pad(local.getUTCHours())}:${pad(local.getUTCMinutes())}`;
}

/** The moment a date or time field says, ISO 8601; null while it says none. */
export function fromField(value: string, allDay: boolean, zone = ownZone()): string | null {
  const plain = Date.parse(`${value}${allDay ? 'T00:00' : ''}Z`);
  if (Number.isNaN(plain)) return null;
  return new Date(plain - offsetOf(new Date(plain), zone) * 60_000).toISOString();
}
