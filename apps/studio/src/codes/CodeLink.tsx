import { Copy } from 'lucide-react';
import { useState } from 'react';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { SelectField } from '../ui/Field';

/** A code as a link into one of the funnels: it is kept until the checkout, however many pages lie between. */
export function CodeLink({ code }: { code: string }) {
  const { data: shop } = shopApi.useShopQuery();
  const funnels = (useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 100 })).rows ?? []).filter(({ live }) => live);
  const [slug, setSlug] = useState('');
  const [isCopied, setCopied] = useState(false);
  const chosen = funnels.find((funnel) => funnel.slug === slug) ?? funnels[0];
  if (!shop) return null;
  if (!chosen) return <p className="text-soft">Once a funnel is published, a link with this code in it stands here.</p>;
  const link = `${shop.siteUrl}/${chosen.slug}?code=${encodeURIComponent(code)}`;
  return (
    <div className="grid gap-2">
      <SelectField
        label="As a link into"
        value={chosen.slug}
        onChange={(event) => {
          setSlug(event.target.value);
          setCopied(false);
        }}
      >
        {funnels.map((funnel) => (
          <option key={funnel.id} value={funnel.slug}>
            {funnel.name}
          </option>
        ))}
      </SelectField>
      <p className="flex items-center gap-3">
        <code className="font-mono text-ink wrap-anywhere" data-code-link="">
          {link}
        </code>
        <Button
          onClick={() =>
            navigator.clipboard.writeText(link).then(
              () => setCopied(true),
              () => setCopied(false),
            )
          }
        >
          <Copy size={15} aria-hidden="true" /> {isCopied ? 'Copied' : 'Copy'}
        </Button>
      </p>
    </div>
  );
}
