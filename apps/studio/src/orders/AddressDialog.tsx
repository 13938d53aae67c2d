import type { OrderDetail } from '@ruta/core/orders';
import { countryName } from '@ruta/core/shop';
import { useState } from 'react';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Modal } from '../ui/Modal';
import { ordersApi } from './api';

/** Corrects the name and postal address of an order. */
export function AddressDialog({ order, onClose }: { order: OrderDetail; onClose: () => void }) {
  const { buyer } = order;
  const [correct, { error, isLoading }] = ordersApi.useCorrectAddressMutation();
  const before = {
    firstName: buyer.firstName,
    lastName: buyer.lastName,
    street: buyer.address?.street ?? '',
    postcode: buyer.address?.postcode ?? '',
    city: buyer.address?.city ?? '',
  };
  const [typed, setTyped] = useState(before);
  const { firstName, lastName, ...address } = typed;
  // An order without a parcel may have no address at all; half of one is told to be half.
  const isBlank = Object.values(address).every((line) => line.trim() === '');
  const field = (name: keyof typeof typed, label: string, path: string) => (
    <TextField
      label={label}
      dir="auto"
      value={typed[name]}
      error={refusedAt(error, path)}
      onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
    />
  );
  return (
    <Modal
      open
      onClose={onClose}
      title="Edit name and address"
      description={`Parcels and later mails go by it. The country stays ${countryName(buyer.country)}, since the tax was charged for it.`}
      unsaved={JSON.stringify(typed) !== JSON.stringify(before)}
    >
      <form
        noValidate
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void correct({ orderId: order.id, address: { firstName, lastName, address: isBlank && !buyer.address ? null : address } })
            .unwrap()
            .then(onClose)
            .catch(() => undefined);
        }}
      >
        <div className="grid sm:grid-cols-2 gap-3 items-start">
          {field('firstName', 'First name', 'firstName')}
          {field('lastName', 'Last name', 'lastName')}
        </div>
        {field('street', 'Street and number', 'address.street')}
        <div className="grid sm:grid-cols-[1fr_2fr] gap-3 items-start">
          {field('postcode', 'Postcode', 'address.postcode')}
          {field('city', 'Town', 'address.city')}
        </div>
        <FormProblem>{refusedWhole(error)}</FormProblem>
        <Button look="main" type="submit" disabled={isLoading}>
          Save
        </Button>
      </form>
    </Modal>
  );
}
