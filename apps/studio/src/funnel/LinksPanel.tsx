import type { FunnelDetail } from '@ruta/core/checks';
import { publicSteps, stopsInOrder } from '@ruta/core/funnel';
import type { ShopView } from '@ruta/core/pricing';
import { paletteOf } from '@ruta/core/shop';
import { ExternalLink } from 'lucide-react';
import { useState } from 'react';
import { withQuery } from '../base/api';
import { openedAs } from '../base/openedAs';
import { ButtonAnchor } from '../ui/Button';
import { CopyCode } from '../ui/CopyCode';
import { SelectField, TextArea, TextField } from '../ui/Field';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Page';

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');

/** Everything by which people are brought to a funnel: its address, a QR code, a button for other pages, a post. */
export function LinksPanel({ funnel, shop }: { funnel: FunnelDetail; shop: ShopView }) {
  const steps = stopsInOrder(funnel.graph).filter((step) => publicSteps(funnel.graph).some(({ id }) => id === step.id));
  const [stepId, setStepId] = useState(funnel.graph.entryId);
  const [code, setCode] = useState('');
  const [source, setSource] = useState('');
  const [campaign, setCampaign] = useState('');
  const [label, setLabel] = useState('Find out more');
  const [post, setPost] = useState<string | null>(null);
  const step = steps.find(({ id }) => id === stepId) ?? steps[0];
  if (!step) return null;
  const plain = funnel.addresses[step.id] ?? shop.siteUrl;
  const address = withQuery(plain, { code: code.trim().toUpperCase(), utm_source: source.trim().toLowerCase(), utm_campaign: campaign.trim().toLowerCase() });
  const colours = paletteOf(funnel.brand ?? shop.brand);
  const words = post ?? `${step.name} by ${shop.settings.name}`;
  const drawn = (as: 'svg' | 'png', download: 'yes' | 'no') => withQuery('/api/qr', { address, as, download });
  return (
    <Panel title="Links">
      <div className="grid gap-5">
        {funnel.version === 0 || funnel.offline ? (
          <Notice tone="info">
            {funnel.offline ? 'The funnel is offline: these links lead to the page you chose instead.' : 'These links work once the funnel is published.'}
          </Notice>
        ) : null}
        <div className="grid sm:grid-cols-2 gap-3 items-start">
          <SelectField label="Step" value={step.id} onChange={(event) => setStepId(event.target.value)}>
            {steps.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
          <TextField
            label="Discount code"
            hint="Optional. It is filled in at the checkout."
            maxLength={40}
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
          <TextField
            label="Source (utm_source)"
            hint="Where the link stands: letter, radio, poster."
            maxLength={100}
            value={source}
            onChange={(event) => setSource(event.target.value)}
          />
          <TextField label="Campaign (utm_campaign)" maxLength={100} value={campaign} onChange={(event) => setCampaign(event.target.value)} />
        </div>
        <section aria-label="Address" className="grid gap-2">
          <h3 className="font-bold">Address</h3>
          <CopyCode code={address} copied="Copied." />
          <p>
            <a href={openedAs(address)} target="_blank" rel="noreferrer" className="text-info underline inline-flex items-center gap-1.5">
              Open it without being counted <ExternalLink size={15} aria-hidden="true" />
            </a>
          </p>
        </section>
        <section aria-label="QR code" className="grid sm:grid-cols-[auto_1fr] gap-4 items-center">
          <img src={drawn('svg', 'no')} alt={`QR code that leads to ${address}`} width={160} height={160} className="border border-line rounded-md" />
          <div className="grid gap-2 justify-items-start">
            <h3 className="font-bold">QR code</h3>
            <p className="text-soft">For print and slides. It leads to exactly this address, so make it again if the address changes.</p>
            <p className="flex flex-wrap gap-2">
              <ButtonAnchor href={drawn('png', 'yes')} download="qr-code.png">
                As PNG
              </ButtonAnchor>
              <ButtonAnchor href={drawn('svg', 'yes')} download="qr-code.svg">
                As SVG
              </ButtonAnchor>
            </p>
          </div>
        </section>
        <section aria-label="Button" className="grid gap-2">
          <h3 className="font-bold">Button for another page</h3>
          <TextField label="Button text" maxLength={60} value={label} onChange={(event) => setLabel(event.target.value)} />
          <CopyCode
            code={`<a href="${escaped(address)}" style="display:inline-block;padding:.75em 1.5em;border-radius:.4em;background:${colours.accent};color:${colours.onAccent};font-weight:700;text-decoration:none">${escaped(label.trim() || 'Find out more')}</a>`}
            copied="Copied. Paste it into the page’s HTML."
          />
        </section>
        <section aria-label="Post" className="grid gap-2">
          <h3 className="font-bold">Social post</h3>
          <TextArea label="Text" maxLength={500} value={words} onChange={(event) => setPost(event.target.value)} />
          <CopyCode code={`${words.trim()}\n${address}`} copied="Copied." />
        </section>
      </div>
    </Panel>
  );
}
