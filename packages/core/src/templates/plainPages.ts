import { words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { type NamedProduct, pageOf } from './pageOf';

const centred = (name: string, parts: SectionPlan['columns'][number]['parts']): SectionPlan => ({
  name,
  space: 'wide',
  align: 'center',
  width: 'narrow',
  columns: one(...parts),
});

/** The page on which visitors sign up for something that takes place later. */
export function registrationPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Opening', [
    textPart('eyebrow', words('Free, and live')),
    headlinePart(1, 'large', words({ bound: 'product.name', fallback: product.name })),
    textPart('lead', words({ bound: 'product.description', fallback: 'Say here what takes place, and when.' })),
    part('form', { button: words('Keep me a place'), note: words('The link comes by e-mail, with a reminder.') }),
  ]);
  return pageOf(product.name, `Sign up: ${product.name}`, true, [opening], newId);
}

/** The page that confirms a sign-up. */
export function confirmationPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Confirmation', [
    headlinePart(1, 'large', words('Your place is kept')),
    textPart('lead', words('Look into your mailbox: the link and the time are on their way. Say here when it begins.')),
    part('button', { words: words('Watch what has been shown') }),
  ]);
  return pageOf(`You are signed up: ${product.name}`, '', false, [opening], newId);
}

/** The page that shows again what took place, and leads on. */
export function replayPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Replay', [
    headlinePart(1, 'large', words('Watch it again')),
    textPart('lead', words('Everything that was shown, for a few days. What it led up to is one click away.')),
    part('button', { words: words('See ', { bound: 'product.name', fallback: 'the offer' }) }),
  ]);
  return pageOf(`Replay: ${product.name}`, '', false, [opening], newId);
}

/** The page for those who come when everything is gone. */
export function waitingListPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Waiting list', [
    headlinePart(1, 'medium', words({ bound: 'product.name', fallback: product.name }, ' is not open just now')),
    textPart('lead', words('Leave your address and you are told first when it opens again.')),
    part('form', { button: words('Tell me when it opens'), note: words('One mail when it opens, nothing else.') }),
  ]);
  return pageOf(`Waiting list: ${product.name}`, '', false, [opening], newId);
}

/** The page that says something has closed, and leads on to something else. */
export function closedPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Closed', [
    headlinePart(1, 'medium', words({ bound: 'product.name', fallback: product.name }, ' has closed')),
    textPart('lead', words('Thank you for coming. Say here what people can do instead.')),
    part('button', { words: words('See what else there is') }),
  ]);
  return pageOf(`Closed: ${product.name}`, '', false, [opening], newId);
}
