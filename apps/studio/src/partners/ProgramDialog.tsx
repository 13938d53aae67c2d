import { ProgramSchema } from '@ruta/core/partners';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { Check, FormProblem, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { type ProgramView, partnersApi } from './api';
import { draftOf, RateRules, ruleOf } from './RateRules';

const numberOf = (text: string): number => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')));

/** The terms on which everybody earns who has none of their own. */
export function ProgramDialog({ view, currency, onClose }: { view: ProgramView; currency: string; onClose: () => void }) {
  const { program } = view;
  const [begun] = useState(view.revision);
  const [save, { isLoading }] = partnersApi.useSaveProgramMutation();
  const [rules, setRules] = useState(program.rules.map(draftOf));
  const [typed, setTyped] = useState({
    secondTierPercent: String(program.secondTierPercent),
    holdingDays: String(program.holdingDays),
    linkDays: String(program.linkDays),
  });
  const [earns, setEarns] = useState({ bumps: program.bumps, upsells: program.upsells, laterCharges: program.laterCharges });
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [first] = useState(JSON.stringify([rules, typed, earns]));

  async function send() {
    setProblem(null);
    const numbers = Object.fromEntries(Object.entries(typed).map(([name, text]) => [name, numberOf(text)]));
    const read = ProgramSchema.safeParse({ ...earns, ...numbers, rules: rules.map(ruleOf) });
    if (!read.success) return setErrors(Object.fromEntries(read.error.issues.map(({ path, message }) => [path.slice(0, 2).join('.'), message]).reverse()));
    setErrors({});
    await save({ program: read.data, begun })
      .unwrap()
      .then(onClose)
      .catch((error) => setProblem(problemOf(error).errors[0]?.message ?? problemOf(error).title));
  }

  const number = (name: keyof typeof typed, label: string, hint: string) => (
    <TextField
      label={label}
      hint={hint}
      inputMode="decimal"
      value={typed[name]}
      error={errors[name]}
      onChange={({ target }) => setTyped({ ...typed, [name]: target.value })}
    />
  );
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title="Terms for partners"
      description="What was earned already keeps the rate of its day."
      unsaved={JSON.stringify([rules, typed, earns]) !== first}
    >
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <RateRules
          legend="What they get"
          hint="Of each line without tax, shipping and discounts. The narrowest rate that fits counts; nothing is paid for what none fits."
          rules={rules}
          currency={currency}
          wrong={(index) => errors[`rules.${index}`]}
          onChange={setRules}
        />
        <fieldset className="grid gap-1">
          <legend className="font-semibold mb-1">What earns too</legend>
          <Check label="Order bumps" checked={earns.bumps} onChange={({ target }) => setEarns({ ...earns, bumps: target.checked })} />
          <Check label="Upsells and downsells" checked={earns.upsells} onChange={({ target }) => setEarns({ ...earns, upsells: target.checked })} />
          <Check label="Later charges of plans" checked={earns.laterCharges} onChange={({ target }) => setEarns({ ...earns, laterCharges: target.checked })} />
        </fieldset>
        <div className="grid gap-4 sm:grid-cols-3 items-start">
          {number('secondTierPercent', 'Second tier, %', 'For whoever recruited the partner, of the same sale.')}
          {number('holdingDays', 'Held for, days', 'So long it waits for refunds.')}
          {number('linkDays', 'A link counts for, days', 'The last partner’s link before the sale counts.')}
        </div>
        <FormProblem>{problem}</FormProblem>
        <div>
          <Button look="main" type="submit" disabled={isLoading}>
            Save
          </Button>
        </div>
      </form>
    </Modal>
  );
}
