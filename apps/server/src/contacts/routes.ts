import { ContactDetailSchema, ContactListQuerySchema, ContactPageSchema, ContactTagsSchema, JudgedLeadSchema } from '@ruta/core/contacts';
import { CountSchema } from '@ruta/core/lists';
import { eq } from 'drizzle-orm';
import { bookingsOf } from '../appointments/store';
import type { Api } from '../base/api';
import { outbox } from '../base/outbox/tables';
import { sendFile } from '../base/sendFile';
import type { Tracked } from '../tracking/recorder';
import { storyOf } from '../tracking/story';
import { events } from '../tracking/tables';
import { answersOfContact, setTags, tagsOf } from './answers';
import { contactsCsv } from './export';
import { judgeLead } from './judge';
import { type ContactRow, countContacts, listContacts, loadContact } from './store';

export function contactRoutes(api: Api, services: Tracked): void {
  const { db } = services;
  api.on({ method: 'get', path: '/contacts', summary: 'Contacts, page by page', query: ContactListQuerySchema, response: ContactPageSchema }, ({ query }) =>
    listContacts(db, query),
  );
  api.on(
    { method: 'get', path: '/contacts/count', summary: 'How many contacts a list has', query: ContactListQuerySchema, response: CountSchema },
    ({ query }) => ({ count: countContacts(db, query) }),
  );
  api.on({ method: 'get', path: '/contacts/export', summary: 'Contacts with their answers as CSV' }, ({ response }) => {
    sendFile(response, 'contacts.csv', contactsCsv(services));
  });
  api.on({ method: 'get', path: '/contacts/:id', summary: 'Everything one person did', response: ContactDetailSchema }, ({ params }) => {
    const contact = loadContact(db, params.id ?? '');
    return detail(contact);
  });
  api.on(
    { method: 'put', path: '/contacts/:id/tags', summary: 'Tag a contact', body: ContactTagsSchema, response: ContactDetailSchema },
    ({ params, body }) => {
      const contact = loadContact(db, params.id ?? '');
      db.transaction((tx) => setTags(tx, services, contact.id, body.tags));
      return detail(contact);
    },
  );
  api.on(
    { method: 'put', path: '/contacts/:id/quality', summary: 'Mark how a lead turned out', body: JudgedLeadSchema, response: ContactDetailSchema },
    ({ params, body }) => detail(judgeLead(services, loadContact(db, params.id ?? ''), body.quality)),
  );
  function detail(contact: ContactRow) {
    return {
      ...contact,
      answers: answersOfContact(db, contact.id),
      tags: tagsOf(db, contact.id),
      bookings: bookingsOf(db, contact.id),
      story: storyOf(services, eq(events.contactId, contact.id), eq(outbox.contactId, contact.id)),
    };
  }
}
