import { ContactDetailSchema, ContactListQuerySchema, ContactPageSchema } from '@ruta/core/contacts';
import { CountSchema } from '@ruta/core/lists';
import { eq } from 'drizzle-orm';
import type { Api } from '../base/api';
import { outbox } from '../base/outbox/tables';
import type { Services } from '../base/services';
import { storyOf } from '../tracking/story';
import { events } from '../tracking/tables';
import { countContacts, listContacts, loadContact } from './store';

export function contactRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/contacts', summary: 'Contacts, page by page', query: ContactListQuerySchema, response: ContactPageSchema }, ({ query }) =>
    listContacts(db, query),
  );
  api.on(
    { method: 'get', path: '/contacts/count', summary: 'How many contacts a list has', query: ContactListQuerySchema, response: CountSchema },
    ({ query }) => ({ count: countContacts(db, query) }),
  );
  api.on({ method: 'get', path: '/contacts/:id', summary: 'Everything one person did', response: ContactDetailSchema }, ({ params }) => {
    const contact = loadContact(db, params.id ?? '');
    return { ...contact, story: storyOf(services, eq(events.contactId, contact.id), eq(outbox.contactId, contact.id)) };
  });
}
