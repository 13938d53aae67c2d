import { CreditCard, GraduationCap, Mail } from 'lucide-react';
import { problemOf } from '../base/api';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { connectionsApi } from './api';
import { CheckoutElsewhere } from './CheckoutElsewhere';
import { Conversions } from './Conversions';
import { LeadSources } from './LeadSources';
import { OutsidePages } from './OutsidePages';
import { UnknownCharges } from './UnknownCharges';
import { Webhooks } from './Webhooks';

export function ConnectionsPage() {
  const { data: quayside, error, refetch } = connectionsApi.useConnectionQuery('quayside');
  const { data: porch } = connectionsApi.useConnectionQuery('studyporch');
  const { data: shop } = shopApi.useShopQuery();
  const [connect, connecting] = connectionsApi.useConnectMutation();
  const [connectPorch, connectingPorch] = connectionsApi.useConnectMutation();
  if (!quayside || !porch || !shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Connections" narrow>
      <UnknownCharges timeZone={shop.settings.timeZone} />
      <Panel>
        <div className="flex items-start gap-4">
          <CreditCard size={26} className="mt-1" aria-hidden="true" />
          <div className="flex-1">
            <h2 className="flex items-center gap-3">
              Quayside, cards {quayside.connected ? <Badge tone="go">Connected</Badge> : <Badge tone="plain">Not connected</Badge>}
            </h2>
            <p className="text-soft mb-2">Takes cards at the checkout. The card number goes from the buyer straight to Quayside and never through your shop.</p>
            {quayside.connected ? (
              <p>
                Account <code className="font-mono">{quayside.account}</code>.{' '}
                {quayside.reachable ? 'It answers.' : 'It does not answer at the moment; buyers cannot pay by card.'}
              </p>
            ) : (
              <Button look="main" disabled={connecting.isLoading} onClick={() => connect('quayside')}>
                Connect Quayside
              </Button>
            )}
            <div className="mt-3">
              <FormProblem>{connecting.error ? problemOf(connecting.error).title : null}</FormProblem>
            </div>
          </div>
        </div>
      </Panel>
      <Panel>
        <div className="flex items-start gap-4">
          <GraduationCap size={26} className="mt-1" aria-hidden="true" />
          <div className="flex-1">
            <h2 className="flex items-center gap-3">
              Studyporch, courses {porch.connected ? <Badge tone="go">Connected</Badge> : <Badge tone="plain">Not connected</Badge>}
            </h2>
            <p className="text-soft mb-2">Buyers of a product with a course are enrolled there as soon as they have paid.</p>
            {porch.connected ? (
              <p>
                School <code className="font-mono">{porch.account}</code>.
              </p>
            ) : (
              <Button disabled={connectingPorch.isLoading} onClick={() => connectPorch('studyporch')}>
                Connect Studyporch
              </Button>
            )}
            <div className="mt-3">
              <FormProblem>{connectingPorch.error ? problemOf(connectingPorch.error).title : null}</FormProblem>
            </div>
          </div>
        </div>
      </Panel>
      <Panel>
        <div className="flex items-start gap-4">
          <Mail size={26} className="mt-1" aria-hidden="true" />
          <div>
            <h2>Mail</h2>
            <p className="text-soft">
              Receipts and notices are sent from <strong className="text-ink">{shop.settings.contactEmail}</strong>.
            </p>
          </div>
        </div>
      </Panel>
      <LeadSources />
      <OutsidePages siteUrl={shop.siteUrl} />
      <CheckoutElsewhere siteUrl={shop.siteUrl} />
      <Conversions />
      <Webhooks />
      {shop.standinsUrl ? (
        <p className="text-soft">
          On this installation the outside services are simulated.{' '}
          <a className="text-info underline" href={shop.standinsUrl} target="_blank" rel="noreferrer">
            See what they received
          </a>
          , the mails and the test cards.
        </p>
      ) : null}
    </Page>
  );
}
