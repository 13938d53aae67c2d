import { renderToStaticMarkup } from 'react-dom/server';
import type { Mail } from '../base/outbox/kinds/mail';
import { closingText, Frame, linkStyle, sender, TEST_MARK } from './frame';
import type { Letterhead } from './letterhead';

/** What became of an appointment. */
export type BookingNews = 'booked' | 'moved' | 'cancelled';

interface BookingWords {
  to: 'buyer' | 'seller';
  what: BookingNews;
  by: 'buyer' | 'seller';
  /** When it is, by the clock of whoever is told, and where that clock is. */
  at: string;
  zone: string;
  /** Where it is moved or cancelled; null for who cannot do it there. */
  changeUrl: string | null;
  minutes: number;
  subject: string;
  place: string;
  attendee: { name: string; email: string };
  calendar: string;
}

/** Tells one of the two who meet that an appointment is booked, moved or cancelled, with a calendar file. */
export function bookingMail(from: Letterhead, told: BookingWords): Mail {
  const { to, what, by, at, zone, minutes, subject, place, attendee, calendar, changeUrl } = told;
  const { settings } = from;
  const when = `${at} (${zone} time), ${minutes} minutes`;
  const opening = {
    booked: to === 'buyer' ? `Your appointment is booked: ${when}.` : `Booked: ${when}.`,
    moved: to === 'buyer' ? `Your appointment was moved. It is now on ${when}.` : `Moved to ${when}.`,
    cancelled: `Cancelled: ${when}.`,
  };
  const lines = [
    opening[what],
    // The shop's mail carries no words of a stranger to anybody else.
    ...(to === 'seller' ? [`With ${attendee.name}, ${attendee.email}.`] : [`About: ${subject}.`]),
    ...(place && what !== 'cancelled' ? [`Where: ${place}`] : []),
    ...(what === 'cancelled' && to === 'buyer'
      ? [
          by === 'buyer'
            ? 'You cancelled it; nothing else is needed.'
            : `${settings.name} had to cancel it. To find another time, write to ${settings.contactEmail}.`,
        ]
      : []),
    ...(what !== 'booked' && to === 'seller' && by === 'buyer' ? ['They did this by the link in their email.'] : []),
  ];
  const html = renderToStaticMarkup(
    <Frame from={from}>
      {lines.map((line) => (
        <p key={line} style={{ margin: '0 0 12px' }}>
          {line}
        </p>
      ))}
      {changeUrl ? (
        <p style={{ margin: '0 0 12px' }}>
          Something came up?{' '}
          <a href={changeUrl} style={linkStyle(from)}>
            Move or cancel the appointment
          </a>
          , or write to {settings.contactEmail}.
        </p>
      ) : null}
    </Frame>,
  );
  return {
    from: sender(from),
    to: to === 'buyer' ? attendee.email : settings.contactEmail,
    test: settings.mode === 'test',
    subject: `${settings.mode === 'test' ? TEST_MARK : ''}${{ booked: '', moved: 'Moved: ', cancelled: 'Cancelled: ' }[what]}${subject}: ${at}`,
    html: `<!doctype html>${html}`,
    text: [...lines, ...(changeUrl ? [`Move or cancel the appointment: ${changeUrl}`] : []), ...(to === 'buyer' ? closingText(from) : [])].join('\n'),
    attachments: [
      { filename: 'appointment.ics', content: calendar, contentType: `text/calendar; charset=utf-8; method=${what === 'cancelled' ? 'CANCEL' : 'REQUEST'}` },
    ],
  };
}
