/** What a calendar file says of one appointment. */
export interface CalendarEntry {
  uid: string;
  start: number;
  end: number;
  /** When it was written, Unix time in milliseconds like the others. */
  at: number;
  subject: string;
  place: string;
  description: string;
  organiser: { name: string; email: string };
  attendee: { name: string; email: string };
  /** Takes the appointment out of the calendars that have it. */
  isCancelled?: boolean;
  /** How often it was changed since it was made: a later word on the same appointment has a higher number (RFC 5546, 2.1.4). */
  changes: number;
}

const LINE_OCTETS = 75;
const stamp = (at: number) => new Date(at).toISOString().replace(/[-:]|\.\d{3}/g, '');
const escaped = (text: string) => text.replace(/[\\;,]/g, '\\$&').replace(/\r?\n/g, '\\n');
/** A value of a parameter stands in quotes, which it cannot hold itself. */
const quoted = (text: string) => `"${text.replace(/["\r\n]/g, ' ')}"`;

/** Lines are broken after 75 octets, never within a letter, and go on after a space (RFC 5545, 3.1). */
function folded(line: string): string {
  const parts: string[] = [];
  let part = '';
  let octets = 0;
  for (const letter of line) {
    const size = new TextEncoder().encode(letter).length;
    if (octets + size > LINE_OCTETS) {
      parts.push(part);
      part = ' ';
      octets = 1;
    }
    part += letter;
    octets += size;
  }
  return [...parts, part].join('\r\n');
}

/** An appointment as a calendar file (RFC 5545), which every calendar reads. */
export function calendarFile(entry: CalendarEntry): string {
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Ruta//Appointments//EN',
    `METHOD:${entry.isCancelled ? 'CANCEL' : 'REQUEST'}`,
    'BEGIN:VEVENT',
    `UID:${entry.uid}`,
    `SEQUENCE:${entry.changes}`,
    `STATUS:${entry.isCancelled ? 'CANCELLED' : 'CONFIRMED'}`,
    `DTSTAMP:${stamp(entry.at)}`,
    `DTSTART:${stamp(entry.start)}`,
    `DTEND:${stamp(entry.end)}`,
    `SUMMARY:${escaped(entry.subject)}`,
    ...(entry.place ? [`LOCATION:${escaped(entry.place)}`] : []),
    ...(entry.description ? [`DESCRIPTION:${escaped(entry.description)}`] : []),
    `ORGANIZER;CN=${quoted(entry.organiser.name)}:mailto:${entry.organiser.email}`,
    `ATTENDEE;CN=${quoted(entry.attendee.name || entry.attendee.email)};PARTSTAT=ACCEPTED:mailto:${entry.attendee.email}`,
    'END:VEVENT',
    'END:VCALENDAR',
  ];
  return `${lines.map(folded).join('\r\n')}\r\n`;
}
