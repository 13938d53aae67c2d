import { Command } from 'cmdk';
import { useNavigate } from 'react-router';
import { api } from './api';

const COMMANDS = [
  { name: 'Start a funnel', to: '/funnels/new' },
  { name: 'Add a product', to: '/catalog/new' },
  { name: 'Discount codes', to: '/catalog/codes' },
  { name: 'Calculator: what a buyer pays', to: '/catalog/calculator' },
  { name: 'Tax rates', to: '/settings/tax' },
  { name: 'Shipping zones and rates', to: '/settings/shipping' },
  { name: 'Change the brand', to: '/settings#brand' },
  { name: 'Connect payments', to: '/connections' },
];

const SHOWN_PEOPLE = 400;

/** Finds a funnel, a stop, a product, an order, a contact or a command, and goes there. */
export default function CommandPalette({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const { data: funnels = [] } = api.useFunnelsQuery();
  const { data: products = [] } = api.useProductsQuery();
  const { data: orders = [] } = api.useOrdersQuery();
  const { data: contacts = [] } = api.useContactsQuery();
  const go = (to: string) => {
    onClose();
    void navigate(to);
  };
  const item = (key: string, words: string, detail: string, to: string) => (
    <Command.Item
      key={key}
      value={`${words} ${detail} ${key}`}
      onSelect={() => go(to)}
      className="flex justify-between gap-4 rounded-md px-3 py-2 cursor-pointer data-[selected=true]:bg-way-tint"
    >
      <span className="font-semibold">{words}</span>
      <span className="text-soft truncate">{detail}</span>
    </Command.Item>
  );
  const heading =
    '[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:font-semibold';
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label="Find anything"
      overlayClassName="fixed inset-0 z-40 bg-ink/45"
      contentClassName="fixed z-50 left-1/2 top-[12vh] -translate-x-1/2 w-[92vw] max-w-xl rounded-md border border-line bg-white overflow-hidden"
    >
      <Command.Input
        placeholder="Find a funnel, stop, product, order, person or command"
        className="w-full px-4 py-3 border-b border-line outline-none text-[1.05rem]"
      />
      <Command.List className="max-h-[56vh] overflow-y-auto p-2">
        <Command.Empty className="px-3 py-6 text-soft">Nothing found.</Command.Empty>
        <Command.Group heading="Go to and do" className={heading}>
          {COMMANDS.map((command) => item(command.to, command.name, '', command.to))}
        </Command.Group>
        <Command.Group heading="Funnels and stops" className={heading}>
          {funnels.flatMap((funnel) => [
            item(funnel.id, funnel.name, 'Funnel', `/funnels/${funnel.id}/map`),
            ...funnel.stops.map((stop) => item(stop.id, stop.name, `Stop of ${funnel.name}`, `/funnels/${funnel.id}/page/${stop.id}`)),
          ])}
        </Command.Group>
        <Command.Group heading="Products" className={heading}>
          {products.map((product) => item(product.id, product.name, product.label, `/catalog/${product.id}`))}
        </Command.Group>
        <Command.Group heading="Orders" className={heading}>
          {orders
            .slice(0, SHOWN_PEOPLE)
            .map((order) => item(order.id, `Order ${order.number}`, `${order.firstName}, ${order.email}`, `/sales/orders/${order.id}`))}
        </Command.Group>
        <Command.Group heading="People" className={heading}>
          {contacts
            .slice(0, SHOWN_PEOPLE)
            .map((contact) => item(contact.id, contact.firstName || contact.email, contact.email, `/sales/contacts/${contact.id}`))}
        </Command.Group>
      </Command.List>
    </Command.Dialog>
  );
}
