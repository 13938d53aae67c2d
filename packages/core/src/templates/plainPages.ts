import { placeholder, words } from '../elements';
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
    textPart('lead', words({ bound: 'product.description', fallback: product.name })),
    part('form', { button: words('Keep me a place'), note: placeholder('Say what they receive by e-mail, and when.') }),
  ]);
  return pageOf(product.name, `Sign up: ${product.name}`, true, [opening], newId);
}

/** The page that confirms a sign-up. */
export function confirmationPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Confirmation', [
    headlinePart(1, 'large', words('Your place is kept')),
    textPart('lead', placeholder('Say here when it begins, and how they get in.')),
    part('button', { words: words('Watch what has been shown') }),
  ]);
  return pageOf(`You are signed up: ${product.name}`, '', false, [opening], newId);
}

/** The page that shows again what took place, and leads on. */
export function replayPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Replay', [
    headlinePart(1, 'large', words('Watch it again')),
    textPart('lead', placeholder('Say here what was shown, and for how long it can be seen.')),
    part('button', { words: words('See ', { bound: 'product.name', fallback: 'the offer' }) }),
  ]);
  return pageOf(`Replay: ${product.name}`, '', false, [opening], newId);
}

/** The page for those who come when everything is gone. */
export function waitingListPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Waiting list', [
    headlinePart(1, 'medium', words({ bound: 'product.name', fallback: product.name }, ' is not open just now')),
    textPart('lead', words('Leave your address and you are told first when it opens again.')),
    part('form', { button: words('Tell me when it opens'), note: placeholder('Say how often you write to them.') }),
  ]);
  return pageOf(`Waiting list: ${product.name}`, '', false, [opening], newId);
}

/** The page that says something has closed, and leads on to something else. */
export function closedPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening = centred('Closed', [
    headlinePart(1, 'medium', words({ bound: 'product.name', fallback: product.name }, ' has closed')),
    textPart('lead', placeholder('Say here what people can do instead.')),
    part('button', { words: words('See what else there is') }),
  ]);
  return pageOf(`Closed: ${product.name}`, '', false, [opening], newId);
}
