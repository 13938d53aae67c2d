import { optionsOf } from '@ruta/core/catalog';
import { mainOffer } from '@ruta/core/offers';
import { AppWindow } from 'lucide-react';
import { useState } from 'react';
import { catalogApi } from '../catalog/api';
import { funnelApi } from '../funnel/api';
import { CopyCode } from '../ui/CopyCode';
import { SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { connectionsApi } from './api';

/** A button for any other site that opens a checkout over its page: which checkout, with what chosen already. */
export function CheckoutElsewhere({ siteUrl }: { siteUrl: string }) {
  const { data: choices } = connectionsApi.useRuleChoicesQuery();
  const [chosen, setChosen] = useState('');
  const [words, setWords] = useState('Buy now');
  const [option, setOption] = useState('');
  const [code, setCode] = useState('');
  const funnelId = chosen || choices?.funnels[0]?.id || '';
  const { currentData: funnel } = funnelApi.useFunnelQuery(funnelId, { skip: funnelId === '' });
  const checkout = funnel?.graph.steps.find(({ kind }) => kind === 'checkout');
  const productId = (checkout && mainOffer(checkout)?.productId) ?? '';
  const { currentData: product } = catalogApi.useProductQuery(productId, { skip: productId === '' });
  const options = product ? optionsOf(product) : [];
  const query = new URLSearchParams({ ...(option ? { option } : {}), ...(code.trim() ? { code: code.trim().toUpperCase() } : {}) });
  const address = checkout && `${funnel?.addresses?.[checkout.id] ?? siteUrl}${query.size > 0 ? `?${query}` : ''}`;
  const snippet =
    address === undefined
      ? ''
      : `<script src="${siteUrl}/embed/checkout.js"${funnel ? ` data-funnel="${funnel.slug}"` : ''} async></script>\n<a href="${escaped(address)}" data-ruta-checkout>${escaped(words.trim() || 'Buy now')}</a>`;
  return (
    <Panel>
      <div className="flex items-start gap-4">
        <AppWindow size={26} className="mt-1" aria-hidden="true" />
        <div className="flex-1 min-w-0 grid gap-3">
          <div>
            <h2>Checkout on other sites</h2>
            <p className="text-soft">
              A button on any page of yours elsewhere that opens the checkout over it, with its offers and the receipt. Without script it is a plain link. What
              is bought is told to that page’s own tag manager once.
            </p>
          </div>
          <div className="grid gap-3 sm:grid-cols-2 items-start">
            <SelectField
              label="Checkout of"
              value={funnelId}
              onChange={({ target }) => {
                setChosen(target.value);
                setOption('');
              }}
            >
              {choices?.funnels.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </SelectField>
            <TextField label="Words on the button" maxLength={60} value={words} onChange={({ target }) => setWords(target.value)} />
            {options.length > 1 ? (
              <SelectField label="Chosen already" value={option} onChange={({ target }) => setOption(target.value)}>
                <option value="">nothing: they choose there</option>
                {options.map(({ edition, option: price }) => (
                  <option key={price.id} value={price.id}>
                    {[(product?.editions.length ?? 0) > 1 ? edition.name : '', price.name].filter(Boolean).join(', ')}
                  </option>
                ))}
              </SelectField>
            ) : null}
            <TextField label="With a discount code" hint="Empty: without." maxLength={60} value={code} onChange={({ target }) => setCode(target.value)} />
          </div>
          {choices?.funnels.length === 0 ? (
            <p className="text-soft">No funnel is live yet. Publish one that has a checkout; its button stands here then.</p>
          ) : funnel && !checkout ? (
            <p className="text-soft">This funnel has no checkout. Choose another.</p>
          ) : snippet ? (
            <CopyCode code={snippet} copied="Copied. Put it where the button is to stand." />
          ) : null}
        </div>
      </div>
    </Panel>
  );
}

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');
