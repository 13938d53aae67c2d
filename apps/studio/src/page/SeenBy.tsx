import { optionsOf } from '@ruta/core/catalog';
import type { FunnelDetail } from '@ruta/core/checks';
import type { Facts, Purchase } from '@ruta/core/facts';
import { offerRole, type Step } from '@ruta/core/funnel';
import { type Offer, offerOption } from '@ruta/core/offers';
import { lineName } from '@ruta/core/pricing';
import { allCountries } from '@ruta/core/shop';
import { Eye } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';

/** A made-up buyer, by what is known of them. */
interface MadeUp {
  /** Ids of the prices that were bought, by the offer; `DECLINED` where they said no. */
  taken: Record<string, string>;
  /** A step whose page they saw. */
  saw: string;
  openedCheckout: '' | 'yes' | 'no';
  country: string;
  device: '' | 'phone' | 'tablet' | 'desktop';
  returning: '' | 'yes' | 'no';
  code: string;
}

const DECLINED = 'declined';
const NOBODY: MadeUp = { taken: {}, saw: '', openedCheckout: '', country: '', device: '', returning: '', code: '' };

/** Everything that can be bought in a funnel: by which offer, in what role. */
function offersOf({ graph }: FunnelDetail): Array<{ step: Step; offer: Offer; role: Purchase['role'] }> {
  return graph.steps
    .filter((step) => step.kind === 'checkout' || step.kind === 'offer')
    .flatMap((step) => step.sells.map((offer) => ({ step, offer, role: offerRole(graph, step, offer) })));
}

/** What is known of a made-up buyer, as conditions ask for it. */
function factsOf({ taken, saw, openedCheckout, country, device, returning, code }: MadeUp, funnel: FunnelDetail): Facts {
  const bought = offersOf(funnel).flatMap(({ offer, role }): Purchase[] => {
    const product = funnel.products[offer.productId];
    const priceId = taken[offer.id];
    if (!product || !priceId || priceId === DECLINED) return [];
    const { edition, option } = optionsOf(product).find((each) => each.option.id === priceId) ?? offerOption(product, offer);
    const { id, categories, tags } = product;
    return [{ productId: id, editionId: edition.id, priceId: option.id, role, quantity: offer.quantity, categories, tags }];
  });
  return {
    bought,
    owned: bought,
    declined: offersOf(funnel).flatMap(({ step, offer }) => (taken[offer.id] === DECLINED ? [step.id] : [])),
    seen: saw ? [saw] : [],
    tags: [],
    answers: {},
    code: code || null,
    firstCampaign: null,
    lastCampaign: null,
    ...(country ? { country, shippingCountry: country } : {}),
    ...(device ? { device } : {}),
    ...(openedCheckout ? { openedCheckout: openedCheckout === 'yes' } : {}),
    ...(returning ? { returning: returning === 'yes' } : {}),
  };
}

/** Looks at the page as a given buyer: who took what, from where, with what. */
export function SeenBy({ funnel, facts, onChange }: { funnel: FunnelDetail; facts: Facts | null; onChange: (facts: Facts | null) => void }) {
  const [person, setPerson] = useState<MadeUp>(NOBODY);
  const set = (changes: Partial<MadeUp>) => {
    const next = { ...person, ...changes };
    setPerson(next);
    onChange(factsOf(next, funnel));
  };
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look={facts ? 'main' : 'quiet'}>
          <Eye size={15} aria-hidden="true" /> {facts ? 'As one buyer sees it' : 'All versions'}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Look at the page as one buyer"
          align="end"
          sideOffset={6}
          collisionPadding={12}
          className="z-40 w-80 max-h-[76vh] overflow-y-auto rounded-md border border-line bg-white p-4 grid gap-3"
        >
          <p className="font-semibold">Look at the page as somebody who</p>
          {offersOf(funnel).map(({ step, offer, role }) => {
            const product = funnel.products[offer.productId];
            if (!product) return null;
            const options = optionsOf(product);
            return (
              <SelectField
                key={offer.id}
                label={`${product.name}${role === 'main' ? '' : `, ${role}`}`}
                value={person.taken[offer.id] ?? ''}
                onChange={(event) => {
                  const { [offer.id]: _before, ...rest } = person.taken;
                  set({ taken: event.target.value ? { ...rest, [offer.id]: event.target.value } : rest });
                }}
              >
                <option value="">has not taken it</option>
                {step.kind === 'offer' ? <option value={DECLINED}>declined it</option> : null}
                {options.map((each) => (
                  <option key={each.option.id} value={each.option.id}>
                    took it{options.length > 1 ? `: ${lineName(product, each)}${each.option.name ? `, ${each.option.name}` : ''}` : ''}
                  </option>
                ))}
              </SelectField>
            );
          })}
          <SelectField label="Country" value={person.country} onChange={(event) => set({ country: event.target.value })}>
            <option value="">not known</option>
            {allCountries().map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </SelectField>
          <SelectField label="On" value={person.device} onChange={(event) => set({ device: event.target.value as MadeUp['device'] })}>
            <option value="">not known</option>
            <option value="phone">a phone</option>
            <option value="tablet">a tablet</option>
            <option value="desktop">a desktop</option>
          </SelectField>
          <SelectField
            label="Has been here before"
            value={person.returning}
            onChange={(event) => set({ returning: event.target.value as MadeUp['returning'] })}
          >
            <option value="">not known</option>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </SelectField>
          <SelectField label="Saw the page" value={person.saw} onChange={(event) => set({ saw: event.target.value })}>
            <option value="">none that is asked about</option>
            {funnel.graph.steps.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
          <SelectField
            label="Has opened the checkout"
            value={person.openedCheckout}
            onChange={(event) => set({ openedCheckout: event.target.value as MadeUp['openedCheckout'] })}
          >
            <option value="">not known</option>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </SelectField>
          <TextField label="Discount code" value={person.code} onChange={(event) => set({ code: event.target.value.toUpperCase() })} />
          <Button
            onClick={() => {
              setPerson(NOBODY);
              onChange(null);
            }}
          >
            Show all versions again
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
