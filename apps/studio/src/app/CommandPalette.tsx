import { productLabel } from '@ruta/core/catalog';
import { Command } from 'cmdk';
import { type ReactNode, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { catalogApi } from '../catalog/api';
import { codesApi } from '../codes/api';
import { contactsApi } from '../contacts/api';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { ordersApi } from '../orders/api';
import { partnersApi } from '../partners/api';

const COMMANDS = [
  { name: 'Start a funnel', to: '/funnels/new' },
  { name: 'Add a product', to: '/catalog/new' },
  { name: 'Experiments: split tests', to: '/experiments' },
  { name: 'Discount codes', to: '/catalog/codes' },
  { name: 'Calculator: what a buyer pays', to: '/catalog/calculator' },
  { name: 'Abandoned carts', to: '/sales/carts' },
  { name: 'Partners and commissions', to: '/sales/partners' },
  { name: 'Tax rates', to: '/settings/tax' },
  { name: 'Shipping zones and rates', to: '/settings/shipping' },
  { name: 'Domains of your own', to: '/settings/domains' },
  { name: 'Change the brand', to: '/settings#brand' },
  { name: 'Connect payments', to: '/connections' },
];

const SHOWN = 8;
const QUIET_MS = 120;

/** Finds a funnel, a stop, a product, an order, a contact or a command, and goes there. The server searches what may be long. */
export default function CommandPalette({ typed, onTyped, onClose }: { typed: string; onTyped: (typed: string) => void; onClose: () => void }) {
  const navigate = useNavigate();
  const search = useSettled(typed.trim());
  const funnels = useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 100 })).rows ?? [];
  const products = useRows(catalogApi.useProductsInfiniteQuery({ search, limit: SHOWN })).rows ?? [];
  // Of a number the order that has just this one comes first.
  const isNumber = /^#?\d+$/.test(search);
  const byNumber = isNumber ? ({ sort: 'number', direction: 'asc' } as const) : {};
  const orders = useRows(ordersApi.useOrdersInfiniteQuery({ search: search.replace(/^#/, ''), limit: SHOWN, ...byNumber })).rows ?? [];
  const codes = useRows(codesApi.useCodesInfiniteQuery({ search, limit: SHOWN })).rows ?? [];
  const partners = useRows(partnersApi.usePartnersInfiniteQuery({ search, limit: SHOWN })).rows ?? [];
  const contacts = useRows(contactsApi.useContactsInfiniteQuery({ search, limit: SHOWN })).rows ?? [];
  const isMeant = (words: string) => words.toLowerCase().includes(typed.trim().toLowerCase());
  const go = (to: string) => {
    onClose();
    void navigate(to);
  };
  const item = (key: string, words: string, detail: string, to: string) => (
    <Command.Item
      key={key}
      value={key}
      onSelect={() => go(to)}
      className="flex justify-between gap-4 rounded-md px-3 py-2 cursor-pointer data-[selected=true]:bg-way-tint"
    >
      <span className="font-semibold">{words}</span>
      <span className="text-soft truncate">{detail}</span>
    </Command.Item>
  );
  const stops = funnels.flatMap((funnel) => [
    ...(isMeant(funnel.name) ? [item(funnel.id, funnel.name, 'Funnel', `/funnels/${funnel.id}/map`)] : []),
    ...funnel.stops
      .filter((stop) => isMeant(stop.name))
      .map((stop) => item(stop.id, stop.name, `Stop of ${funnel.name}`, `/funnels/${funnel.id}/page/${stop.id}`)),
  ]);
  const orderGroup: [string, ReactNode[]] = [
    'Orders',
    orders.map((order) => item(order.id, `Order ${order.number}`, `${order.firstName}, ${order.email}`, `/sales/orders/${order.id}`)),
  ];
  const groups: Array<[string, ReactNode[]]> = [
    ...(isNumber ? [orderGroup] : []),
    ['Go to and do', COMMANDS.filter((command) => isMeant(command.name)).map((command) => item(command.to, command.name, '', command.to))],
    ['Funnels and stops', stops],
    ['Products', products.map((product) => item(product.id, productLabel(product), product.label ? product.name : '', `/catalog/${product.id}`))],
    ...(isNumber ? [] : [orderGroup]),
    ['Discount codes', search ? codes.map(({ id, terms }) => item(id, terms.code, terms.on ? '' : 'Off', `/catalog/codes?code=${id}`)) : []],
    ['Partners', search ? partners.map(({ id, partner }) => item(id, partner.name, partner.code, `/sales/partners/${id}`)) : []],
    ['People', contacts.map((contact) => item(contact.id, contact.firstName || contact.email, contact.email, `/sales/contacts/${contact.id}`))],
  ];
  return (
    <Command.Dialog
      open
      shouldFilter={false}
      onOpenChange={(open) => !open && onClose()}
      label="Find anything"
      overlayClassName="fixed inset-0 z-40 bg-ink/45"
      contentClassName="fixed z-50 left-1/2 top-[12vh] -translate-x-1/2 w-[92vw] max-w-xl rounded-md border border-line bg-white overflow-hidden"
    >
      <Command.Input
        ref={goOn}
        value={typed}
        onValueChange={onTyped}
        placeholder="Find a funnel, stop, product, order, person or command"
        className="w-full px-4 py-3 border-b border-line outline-none text-[1.05rem]"
      />
      <Command.List className="max-h-[56vh] overflow-y-auto p-2">
        <Command.Empty className="px-3 py-6 text-soft">
          {typed.trim() === '' ? 'Nothing is here yet.' : `Nothing fits “${typed.trim()}”. Look for a name, an address, a code, an SKU or an order’s number.`}
        </Command.Empty>
        {groups.map(([heading, items]) =>
          items.length > 0 ? (
            <Command.Group
              key={heading}
              heading={heading}
              className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:font-semibold"
            >
              {items}
            </Command.Group>
          ) : null,
        )}
      </Command.List>
    </Command.Dialog>
  );
}

/** The field has the focus as soon as it stands, or the dialog would select what was typed before, for the next key to replace. */
function goOn(field: HTMLInputElement | null): void {
  field?.focus();
  field?.setSelectionRange(field.value.length, field.value.length);
}

/** What is typed, once nothing more has been for a moment. */
function useSettled(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), QUIET_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}
