import type { GoLive, GoLiveNeed } from '@ruta/core/shop';
import { missingToGoLive } from '@ruta/core/shop';
import { Check, Circle } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Page, Panel, Waiting } from '../ui/Page';
import { shopApi } from './api';

/** Test or live, and what a shop needs before it takes real money. */
export function GoLivePage() {
  const { data, error, refetch } = shopApi.useGoLiveQuery();
  if (!data) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Test and live mode" narrow>
      {data.mode === 'test' ? <InTestMode needs={data.needs} /> : <InLiveMode needs={data.needs} />}
    </Page>
  );
}

function InTestMode({ needs }: Pick<GoLive, 'needs'>) {
  const [change, { isLoading, error }] = shopApi.useChangeModeMutation();
  const { data: shop } = shopApi.useShopQuery();
  const [isAsking, setAsking] = useState(false);
  const lacking = missingToGoLive(needs, true);
  const advised = missingToGoLive(needs, false);
  const goLive = () => {
    setAsking(false);
    void change({ mode: 'live', anyway: true });
  };
  return (
    <Panel title="Your shop is in test mode">
      <p className="mb-4">
        Anyone with a link can see your published pages and try the checkout. No money is charged, a test receipt goes to the test mailbox, and test orders are
        not counted.
        {shop?.standinsUrl ? (
          <>
            {' '}
            <a href={shop.standinsUrl} target="_blank" rel="noreferrer" className="text-info underline">
              Open the test mailbox
            </a>
          </>
        ) : null}
      </p>
      <Needs needs={needs} />
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Button look="main" disabled={lacking.length > 0 || isLoading} onClick={() => setAsking(true)}>
          Go live
        </Button>
        {lacking.length > 0 ? <span className="text-soft">First complete: {lacking.map(({ title }) => title.toLowerCase()).join(', ')}.</span> : null}
      </div>
      <Modal open={isAsking} onClose={() => setAsking(false)} title="Go live?" description="From now on every checkout charges real money.">
        {advised.length > 0 ? (
          <>
            <p>You can go live without these, but we advise against it:</p>
            <ul className="my-3 list-disc pl-5">
              {advised.map(({ need, title, detail }) => (
                <li key={need}>
                  <strong>{title}.</strong> {detail}
                </li>
              ))}
            </ul>
          </>
        ) : null}
        <div className="mt-4 flex gap-3">
          <Button look="main" onClick={goLive}>
            {advised.length > 0 ? 'Go live anyway' : 'Go live'}
          </Button>
          <Button onClick={() => setAsking(false)}>Cancel</Button>
        </div>
      </Modal>
    </Panel>
  );
}

function InLiveMode({ needs }: Pick<GoLive, 'needs'>) {
  const [change, { isLoading, error }] = shopApi.useChangeModeMutation();
  const [isAsking, setAsking] = useState(false);
  const missing = needs.filter(({ done }) => !done);
  return (
    <>
      <Panel title="Your shop is live">
        <p className="mb-4">Every checkout charges real money, and orders are counted in your figures.</p>
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <Button look="danger" disabled={isLoading} onClick={() => setAsking(true)}>
          Switch to test mode
        </Button>
        <Modal
          open={isAsking}
          onClose={() => setAsking(false)}
          title="Switch to test mode?"
          description="Customers can no longer buy: every live checkout switches to test mode, with no charges and no deliveries."
        >
          <div className="flex gap-3">
            <Button
              look="danger"
              onClick={() => {
                setAsking(false);
                void change({ mode: 'test', anyway: false });
              }}
            >
              Switch to test mode
            </Button>
            <Button onClick={() => setAsking(false)}>Cancel</Button>
          </div>
        </Modal>
      </Panel>
      {missing.length > 0 ? (
        <Panel title="Still missing">
          <Needs needs={missing} />
        </Panel>
      ) : null}
    </>
  );
}

function Needs({ needs }: { needs: readonly GoLiveNeed[] }) {
  return (
    <ul>
      {needs.map(({ need, done, required, title, detail, link }) => (
        <li key={need} className="flex items-start gap-3 border-b border-line py-2.5 last:border-0">
          {done ? <Check size={18} className="mt-0.5 text-go" aria-label="Done" /> : <Circle size={18} className="mt-0.5 text-no" aria-label="To do" />}
          <span className="flex-1">
            <span className="font-semibold">{title}</span> {done ? null : <span className="text-soft">({required ? 'required' : 'advised'})</span>}
            <span className="block text-soft">{detail}</span>
          </span>
          {done ? null : (
            <Link to={link} className="font-semibold text-info underline">
              Open
            </Link>
          )}
        </li>
      ))}
    </ul>
  );
}
