import { zodResolver } from '@hookform/resolvers/zod';
import type { ShopView } from '@ruta/core/pricing';
import { CONSENT_CATEGORIES, type ConsentSettings, ConsentSettingsSchema, DEFAULT_CONSENT } from '@ruta/core/shop';
import { Download } from 'lucide-react';
import { useForm } from 'react-hook-form';
import { problemOf } from '../base/api';
import { formatCount, formatTime } from '../base/format';
import { forgetDraft, useKeptDraft } from '../base/keptDraft';
import { ButtonAnchor } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { Check, FormProblem, TextArea, TextField } from '../ui/Field';
import { Heads } from '../ui/Heads';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Page, Panel, Waiting } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { useCards } from '../ui/useCards';
import { shopApi } from './api';

/** The question for consent, and the answers that were given to it. */
export function ConsentPage() {
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Consent" narrow>
      <Question shop={shop} />
      <Proofs timeZone={shop.settings.timeZone} />
    </Page>
  );
}

const NAMES = { statistics: 'Statistics', marketing: 'Marketing' } as const;

function Question({ shop }: { shop: ShopView }) {
  const [save, { error, isSuccess }] = shopApi.useSaveShopMutation();
  const form = useForm<ConsentSettings>({ defaultValues: shop.settings.consent ?? DEFAULT_CONSENT, resolver: zodResolver(ConsentSettingsSchema) });
  const { register, handleSubmit, reset, watch, formState } = form;
  const { begun, setBegun, isBack, startOver } = useKeptDraft('consent', form, shop.revisions.settings, formState.isDirty);
  const wrong = formState.errors;
  const now = watch();
  const asksNothing = now.isOn && CONSENT_CATEGORIES.every((category) => !now[category].isAsked);
  async function send(consent: ConsentSettings) {
    const { currency: _currency, ...settings } = shop.settings;
    const saved = await save({ begun, value: { ...settings, consent } })
      .unwrap()
      .catch(() => null);
    if (!saved) return;
    setBegun(saved.revisions.settings);
    reset(consent);
  }
  return (
    <Panel title="The question on your pages">
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form noValidate className="grid gap-4" onSubmit={handleSubmit(send)}>
        <p className="text-soft">
          Until visitors agree, nothing is kept in their browsers but what a cart or an order needs, and your figures count visits instead of visitors: somebody
          who comes back counts again. What you put into pages yourself, and what ad platforms are told, waits for a yes too. Orders are always complete.
        </p>
        <Check
          label="Ask visitors for their consent"
          hint="Off, visitors are known when they come back, your own code runs for everybody, and ad platforms are told of everybody. Whether you must ask is a matter of the law where you sell."
          {...register('isOn')}
        />
        <TextField label="Headline" error={wrong.title?.message} {...register('title')} />
        <TextArea label="Text" rows={3} error={wrong.text?.message} {...register('text')} />
        <TextField
          label="Address of your privacy policy"
          type="url"
          placeholder="https://"
          hint="Left empty, your legal page “Privacy”."
          error={wrong.policyUrl?.message}
          {...register('policyUrl')}
        />
        {CONSENT_CATEGORIES.map((category) => (
          <fieldset key={category} className="grid gap-2 border-t border-line pt-3">
            <legend className="unseen">{NAMES[category]}</legend>
            <Check
              label={`${NAMES[category]} is asked for`}
              hint="Not asked for, nothing of it runs while the question is on."
              {...register(`${category}.isAsked`)}
            />
            <TextArea
              label={`What ${NAMES[category].toLowerCase()} is for`}
              rows={2}
              error={wrong[category]?.words?.message}
              {...register(`${category}.words`)}
            />
          </fieldset>
        ))}
        <p className="text-soft">
          What your rules under Connections tell ad platforms is added to the question by itself; when they change, everybody is asked again.
        </p>
        {asksNothing ? <p className="font-semibold">Nothing is asked for, so that nobody sees the question, and all code runs for everybody.</p> : null}
        <p className="text-soft">
          Each piece of your own code says what it needs: at Shop and brand, in a funnel’s settings and in a page’s. Whoever answered other words than these is
          asked again.
        </p>
        <SaveBar label="Save" busy={formState.isSubmitting} saved={isSuccess && !formState.isDirty} error={error} />
      </form>
      <LeaveGuard active={formState.isDirty && !formState.isSubmitting} onLeave={() => forgetDraft('consent')} />
    </Panel>
  );
}

/** What was answered, by whom and when: the proof that somebody agreed. */
function Proofs({ timeZone }: { timeZone: string }) {
  const cards = useCards();
  const { data: proofs, error } = shopApi.useConsentsQuery();
  if (!proofs) return <FormProblem>{error ? problemOf(error).title : null}</FormProblem>;
  const { answers, statistics, marketing } = proofs.count;
  const words = (of: { statistics: boolean; marketing: boolean }) => CONSENT_CATEGORIES.filter((category) => of[category]).map((category) => NAMES[category]);
  return (
    <Panel
      title="Answers"
      actions={
        <ButtonAnchor href="/api/consents/export" download>
          <Download size={16} aria-hidden="true" /> All as CSV
        </ButtonAnchor>
      }
    >
      {proofs.latest.length === 0 ? (
        <p className="text-soft">Nobody has answered yet. Each answer is kept here with its time, the page, and the words that were answered.</p>
      ) : (
        <>
          <p className="mb-3">
            In the last 30 days {formatCount(answers)} answered: {formatCount(statistics)} agreed to statistics, {formatCount(marketing)} to marketing.
          </p>
          <div className="overflow-x-auto">
            <table {...cards.table} className="w-full text-left tabular-nums">
              <Heads cards={cards} names={['When', 'Who', 'Page', 'Agreed to']} />
              <tbody {...cards.group}>
                {proofs.latest.map((proof) => (
                  <tr key={proof.id} {...cards.row} className="border-t border-line">
                    <td {...cards.cell('')} className="py-1.5 pr-4 whitespace-nowrap">
                      {formatTime(proof.at, timeZone)}
                    </td>
                    <td {...cards.cell('Who')} className="py-1.5 pr-4 wrap-anywhere">
                      {proof.email ?? <code className="font-mono">{proof.visitorId}</code>}
                    </td>
                    <td {...cards.cell('Page')} className="py-1.5 pr-4 wrap-anywhere">
                      {proof.page}
                    </td>
                    <td {...cards.cell('Agreed to')} className="py-1.5">
                      {words(proof).join(', ') || 'Nothing'}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </Panel>
  );
}
