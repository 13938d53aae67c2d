import { ContactDetailSchema, ContactListQuerySchema, type ContactPage, ContactPageSchema, ContactTagsSchema, JudgedLeadSchema } from '@ruta/core/contacts';
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
import { judgeLead } from './judge';
import { type ContactRow, loadContact } from './store';

export function contactRoutes(api: Api, services: Tracked): void {
  const { db } = services;
  api.on({ method: 'get', path: '/contacts', summary: 'Contacts, page by page', query: ContactListQuerySchema, response: ContactPageSchema }, ({ query }) =>
    services.reading.ask<ContactPage>('contacts', query),
  );
  api.on(
    { method: 'get', path: '/contacts/count', summary: 'How many contacts a list has', query: ContactListQuerySchema, response: CountSchema },
    async ({ query }) => ({ count: await services.reading.ask<number>('countContacts', query) }),
  );
  api.on(
    { method: 'get', path: '/contacts/export', summary: 'The contacts of a list with their answers as CSV', query: ContactListQuerySchema },
    async ({ query, response }) => {
      sendFile(response, 'contacts.csv', await services.tasks.run<string>('contactsCsv', query));
    },
  );
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
