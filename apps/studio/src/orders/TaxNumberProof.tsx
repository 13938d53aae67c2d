import type { TaxNumberProof as Proof } from '@ruta/core/orders';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { ordersApi } from './api';

/** What the register said of a buyer's tax number, where tax was left to them; and that somebody has dealt with an unknown one. */
export function TaxNumberProof({ orderId, proof, timeZone }: { orderId: string; proof: Proof | null; timeZone: string }) {
  const [settle, { error, isLoading }] = ordersApi.useSettleTaxNumberMutation();
  if (!proof) return null;
  const { state, name, address, reference, askedAt } = proof;
  const asked = formatTime(askedAt, timeZone);
  if (state === 'known')
    return (
      <p className="text-soft wrap-anywhere">
        Known to the register on {asked}: {[name, address].filter(Boolean).join(', ')} (reference {reference})
      </p>
    );
  return (
    <Notice tone={state === 'unknown' ? 'care' : 'info'} className="my-2">
      {state === 'silent' ? <p>The register did not answer, last on {asked}. It is asked again every ten minutes.</p> : null}
      {state === 'settled' ? <p>The register did not know this number on {asked}; you have dealt with it.</p> : null}
      {state === 'unknown' ? (
        <>
          <p className="font-semibold mb-2">The register does not know this number ({asked}). No tax was charged.</p>
          <Button disabled={isLoading} onClick={() => settle(orderId)}>
            I have dealt with it
          </Button>
        </>
      ) : null}
      {error ? (
        <p role="alert" className="text-stop mt-2">
          {problemOf(error).title}
        </p>
      ) : null}
    </Notice>
  );
}
