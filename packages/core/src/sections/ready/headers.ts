import { one, part, type ReadySection } from '../plan';
import { body, button, note, two, words } from './tools';

export const headers = [
  {
    key: 'header-name',
    purpose: 'header',
    name: 'The shop’s sign',
    plan: () => ({ name: 'Header', ground: 'dark', space: 'tight', columns: one(part('logo')) }),
  },
  {
    key: 'header-links',
    purpose: 'header',
    name: 'Sign and links',
    plan: () => ({
      name: 'Header',
      space: 'tight',
      columns: one(
        part('navigation', {
          withLogo: true,
          items: [
            { label: words('What it is'), action: { kind: 'next' }, style: 'link' },
            { label: words('Questions'), action: { kind: 'next' }, style: 'link' },
            { label: words('Get it'), action: { kind: 'next' }, style: 'button' },
          ],
        }),
      ),
    }),
  },
  {
    key: 'header-news',
    purpose: 'header',
    name: 'One line of news',
    plan: () => ({
      name: 'News',
      ground: 'dark',
      space: 'tight',
      align: 'center',
      columns: one(body(words('New: ', { bound: 'product.name' }, ' is here.'))),
    }),
  },
  {
    key: 'header-progress',
    purpose: 'header',
    name: 'How far they are',
    plan: () => ({ name: 'Progress', space: 'tight', width: 'narrow', columns: one(part('progress')) }),
  },
  {
    key: 'header-centre',
    purpose: 'header',
    name: 'Sign in the middle',
    plan: () => ({ name: 'Header', space: 'tight', align: 'center', columns: one(part('logo')) }),
  },
] as const satisfies readonly ReadySection[];

export const footers = [
  {
    key: 'footer',
    purpose: 'footer',
    name: 'One line',
    plan: () => ({
      name: 'Footer',
      ground: 'tint',
      space: 'tight',
      align: 'center',
      columns: one(note(words({ bound: 'shop.name' }, ' · Questions? Write to ', { bound: 'shop.email' }))),
    }),
  },
  {
    key: 'footer-columns',
    purpose: 'footer',
    name: 'Sign and address',
    plan: () => ({
      name: 'Footer',
      ground: 'dark',
      space: 'tight',
      columns: two(6, [part('logo')], [note(words('Write to us whenever something is unclear: ', { bound: 'shop.email' }))]),
    }),
  },
  {
    key: 'footer-links',
    purpose: 'footer',
    name: 'Links',
    plan: () => ({
      name: 'Footer',
      ground: 'dark',
      space: 'tight',
      columns: one(part('navigation', { withLogo: true, items: [{ label: words('To the start'), action: { kind: 'next' }, style: 'link' }] })),
    }),
  },
  {
    key: 'footer-trust',
    purpose: 'footer',
    name: 'Trust, then the address',
    plan: () => ({
      name: 'Footer',
      ground: 'tint',
      space: 'tight',
      align: 'center',
      columns: one(part('badges'), note(words({ bound: 'shop.name' }, ' · ', { bound: 'shop.email' }))),
    }),
  },
  {
    key: 'footer-quiet',
    purpose: 'footer',
    name: 'A word of thanks',
    plan: () => ({
      name: 'Footer',
      space: 'tight',
      align: 'center',
      columns: one(note(words('Made with care by ', { bound: 'shop.name' }, '.')), button('To the top', { style: 'link' })),
    }),
  },
] as const satisfies readonly ReadySection[];
