import { Globe } from 'lucide-react';
import { useState } from 'react';
import { CopyCode } from '../ui/CopyCode';
import { SelectField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { connectionsApi } from './api';

/** Pages on other sites whose visits count here: the piece of code that is put into them. */
export function OutsidePages({ siteUrl }: { siteUrl: string }) {
  const { data: choices } = connectionsApi.useRuleChoicesQuery();
  const [slug, setSlug] = useState('');
  const code = `<script src="${siteUrl}/embed/outside.js"${slug ? ` data-funnel="${slug}"` : ''} async></script>`;
  return (
    <Panel>
      <div className="flex items-start gap-4">
        <Globe size={26} className="mt-1" aria-hidden="true" />
        <div className="flex-1 min-w-0 grid gap-3">
          <div>
            <h2>Pages elsewhere</h2>
            <p className="text-soft">
              A sales page of yours on another site that leads into a funnel: with this in it, its visits and their campaigns count, and whoever follows a link
              here is the same visitor. It keeps an id in that site’s own storage; whether you must ask there is a matter of that site.
            </p>
          </div>
          <SelectField label="Leads into" value={slug} onChange={({ target }) => setSlug(target.value)}>
            <option value="">Several funnels, or none in particular</option>
            {choices?.funnels.map(({ id, name, slug: address }) => (
              <option key={id} value={address}>
                {name}
              </option>
            ))}
          </SelectField>
          <CopyCode code={code} copied="Copied. Put it into the page’s head or at the end of its body." />
        </div>
      </div>
    </Panel>
  );
}
