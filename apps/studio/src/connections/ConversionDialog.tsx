import {
  CONVERSION_MOMENTS,
  type ConversionMoment,
  type ConversionRule,
  KEY_NAMES,
  MATCHING_KEYS,
  MOMENT_NAMES,
  type NewConversionRule,
  NewConversionRuleSchema,
} from '@ruta/core/conversions';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { Check, FormProblem, SelectField, TextField } from '../ui/Field';
import { errorWords, type FieldError, refusedAt } from '../ui/fieldError';
import { Modal } from '../ui/Modal';
import { connectionsApi } from './api';
import { ConversionPlace } from './ConversionPlace';
import { ConversionWorth } from './ConversionWorth';

const NEW: NewConversionRule = {
  name: '',
  isOn: true,
  moment: 'purchase',
  formIds: [],
  funnelId: null,
  destination: { kind: 'skylark', pixelId: '', isInBrowser: true },
  event: CONVERSION_MOMENTS.purchase.event,
  value: { kind: 'own' },
  keys: ['email', 'click', 'browser'],
  testCode: null,
};

/** What of a rule can be changed. */
function draftOf({ name, isOn, moment, formIds, funnelId, destination, event, value, keys, testCode }: ConversionRule): NewConversionRule {
  return { name, isOn, moment, formIds, funnelId, destination, event, value, keys, testCode };
}

/** One rule: when, where to, called what, worth what, and by what its people are known. */
export default function ConversionDialog({ rule, onClose }: { rule: ConversionRule | null; onClose: () => void }) {
  const [add, adding] = connectionsApi.useAddConversionRuleMutation();
  const [change, changing] = connectionsApi.useChangeConversionRuleMutation();
  const { data: choices } = connectionsApi.useRuleChoicesQuery();
  const { data: shop } = shopApi.useShopQuery();
  const [before] = useState(() => (rule ? draftOf(rule) : NEW));
  const [draft, setDraft] = useState(before);
  const [token, setToken] = useState('');
  const [tried, setTried] = useState(false);
  const set = (changes: Partial<NewConversionRule>) => setDraft((now) => ({ ...now, ...changes }));
  const read = NewConversionRuleSchema.safeParse({ ...draft, ...(token ? { token } : {}) });
  const failure = adding.error ?? changing.error;
  const refused = failure ? problemOf(failure).errors : [];
  const wrong = (...path: string[]): FieldError => {
    const at = path.join('.');
    return (tried && !read.success ? read.error.issues.find((issue) => issue.path.join('.') === at)?.message : undefined) ?? refusedAt(failure, at);
  };
  const moment = CONVERSION_MOMENTS[draft.moment];
  const forms = (choices?.forms ?? []).filter(({ funnelId }) => draft.funnelId === null || funnelId === draft.funnelId);

  function chooseMoment(name: ConversionMoment) {
    const { event, hasValue } = CONVERSION_MOMENTS[name];
    // A name that nobody chose follows the moment, and so does a value that the moment does not have.
    set({
      moment: name,
      event: draft.event === moment.event ? event : draft.event,
      formIds: 'ofForms' in CONVERSION_MOMENTS[name] ? draft.formIds : [],
      ...((draft.value.kind === 'own' && !hasValue) || (draft.value.kind === 'average' && !('ofForms' in CONVERSION_MOMENTS[name]))
        ? { value: { kind: 'none' } }
        : {}),
    });
  }

  async function save() {
    setTried(true);
    if (!read.success) return;
    const done = await (rule ? change({ id: rule.id, rule: read.data }) : add(read.data)).unwrap().catch(() => null);
    if (done) onClose();
  }

  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={rule ? `Change ${rule.name}` : 'Add a conversion'}
      unsaved={JSON.stringify(draft) !== JSON.stringify(before) || token !== ''}
    >
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <TextField
          label="Name"
          hint="Only your team sees it."
          maxLength={80}
          value={draft.name}
          error={wrong('name')}
          onChange={({ target }) => set({ name: target.value })}
        />
        <div className="grid gap-4 sm:grid-cols-2">
          <SelectField label="When" value={draft.moment} onChange={({ target }) => chooseMoment(target.value as ConversionMoment)}>
            {MOMENT_NAMES.map((name) => (
              <option key={name} value={name}>
                {CONVERSION_MOMENTS[name].words}
              </option>
            ))}
          </SelectField>
          <SelectField label="In" value={draft.funnelId ?? ''} onChange={({ target }) => set({ funnelId: target.value || null, formIds: [] })}>
            <option value="">Every funnel</option>
            {choices?.funnels.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
        </div>
        {'ofForms' in moment && forms.length > 0 ? (
          <fieldset>
            <legend className="font-semibold mb-1">On which forms? None ticked means all.</legend>
            <div className="grid gap-1.5 sm:grid-cols-2">
              {forms.map(({ id, stop, button }) => (
                <Check
                  key={id}
                  label={stop}
                  hint={`Button “${button}”`}
                  checked={draft.formIds.includes(id)}
                  onChange={({ target }) => set({ formIds: target.checked ? [...draft.formIds, id] : draft.formIds.filter((each) => each !== id) })}
                />
              ))}
            </div>
          </fieldset>
        ) : null}
        <ConversionPlace
          destination={draft.destination}
          token={token}
          hasToken={rule?.hasToken ?? false}
          wrong={wrong}
          onDestination={(destination) => set({ destination })}
          onToken={setToken}
        />
        <div className="grid gap-4 sm:grid-cols-2">
          <TextField label="Called there" maxLength={60} value={draft.event} error={wrong('event')} onChange={({ target }) => set({ event: target.value })} />
          <ConversionWorth
            value={draft.value}
            hasOwn={moment.hasValue}
            isOfLeads={'ofForms' in moment}
            currency={shop?.settings.currency ?? 'EUR'}
            error={wrong('value')}
            onChange={(value) => set({ value })}
          />
        </div>
        <fieldset>
          <legend className="font-semibold mb-1">Its people are known there by</legend>
          <div className="grid gap-1.5 sm:grid-cols-3">
            {KEY_NAMES.map((key) => (
              <Check
                key={key}
                label={MATCHING_KEYS[key].words}
                hint={MATCHING_KEYS[key].isHashed ? 'Hashed' : 'As it is'}
                checked={draft.keys.includes(key)}
                onChange={({ target }) => set({ keys: KEY_NAMES.filter((each) => (each === key ? target.checked : draft.keys.includes(each))) })}
              />
            ))}
          </div>
          {wrong('keys') ? (
            <p role="alert" className="mt-1 text-stop font-semibold">
              {errorWords(wrong('keys'))}
            </p>
          ) : null}
        </fieldset>
        <TextField
          label="Test code"
          hint="While one stands here, everything is sent with it and counts nowhere, so that you can watch it arrive; then sales in test mode are told too."
          maxLength={60}
          value={draft.testCode ?? ''}
          error={wrong('testCode')}
          onChange={({ target }) => set({ testCode: target.value || null })}
        />
        <Check
          label="Switched on"
          hint="Off, nothing is told; what happens meanwhile is not told later."
          checked={draft.isOn}
          onChange={({ target }) => set({ isOn: target.checked })}
        />
        <FormProblem>{failure ? (refused[0]?.message ?? problemOf(failure).title) : null}</FormProblem>
        <div>
          <Button look="main" type="submit" disabled={adding.isLoading || changing.isLoading}>
            {rule ? 'Save' : 'Add it'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
