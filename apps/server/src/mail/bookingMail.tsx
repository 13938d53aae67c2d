import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { Frame, sender, TEST_MARK } from './frame';
import type { Letterhead } from './letterhead';

interface BookingWords {
  to: 'buyer' | 'seller';
  what: 'booked' | 'cancelled';
  /** When it is, by the shop's clock. */
  at: string;
  minutes: number;
  subject: string;
  place: string;
  attendee: { name: string; email: string };
  calendar: string;
}

/** Tells one of the two who meet that an appointment is booked or cancelled, with a calendar file. */
export function bookingMail(from: Letterhead, { to, what, at, minutes, subject, place, attendee, calendar }: BookingWords): Mail {
  const { settings } = from;
  const when = `${at} (${settings.timeZone}), ${minutes} minutes`;
  const lines = [
    what === 'cancelled' ? `Cancelled: ${when}.` : to === 'buyer' ? `Your time is booked: ${when}.` : `Booked: ${when}.`,
    // The shop's mail carries no words of a stranger to anybody else.
    ...(to === 'seller' ? [`With ${attendee.name}, ${attendee.email}.`] : [`About: ${subject}.`]),
    ...(place && what === 'booked' ? [`Where: ${place}`] : []),
    ...(to === 'buyer'
      ? [
          what === 'booked'
            ? `If it does not suit you any more, write to ${settings.contactEmail}.`
            : `${settings.name} had to cancel it. To find another time, write to ${settings.contactEmail}.`,
        ]
      : []),
  ];
  const html = renderToStaticMarkup(
    <Frame from={from}>
      {lines.map((line) => (
        <p key={line} style={{ margin: '0 0 12px' }}>
          {line}
        </p>
      ))}
    </Frame>,
  );
  return {
    from: sender(from),
    to: to === 'buyer' ? attendee.email : settings.contactEmail,
    subject: `${settings.mode === 'test' ? TEST_MARK : ''}${what === 'cancelled' ? 'Cancelled: ' : ''}${subject}: ${at}`,
    html: `<!doctype html>${html}`,
    text: lines.join('\n'),
    attachments: [
      { filename: 'appointment.ics', content: calendar, contentType: `text/calendar; charset=utf-8; method=${what === 'cancelled' ? 'CANCEL' : 'REQUEST'}` },
    ],
  };
}
