import { type PartnerRow, PartnerSchema } from '@ruta/core/partners';
import type { ShopView } from '@ruta/core/pricing';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { Button } from '../ui/Button';
import { Check, FormProblem, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { partnersApi } from './api';
import { draftOf, RateRules, ruleOf } from './RateRules';

const EMPTY = { name: '', email: '', code: '', isOn: true, recruitedBy: null as string | null, landingFunnelId: null as string | null };
const DASHES = /[^a-z0-9]+/g;

/** The code that a name suggests: its letters, with dashes between the words. */
const codeFrom = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f’']/g, '')
    .toLowerCase()
    .replace(DASHES, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40);

/** One partner: who they are, their link, and rates of their own. */
export function PartnerDialog({ row, shop, onClose }: { row: PartnerRow | null; shop: ShopView; onClose: () => void }) {
  const [save, { isLoading }] = partnersApi.useSavePartnerMutation();
  const [begun] = useState(row?.revision ?? null);
  const [draft, setDraft] = useState(row ? row.partner : EMPTY);
  const [rules, setRules] = useState((row?.partner.rules ?? []).map(draftOf));
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [first] = useState(JSON.stringify([draft, rules]));
  const others = useRows(partnersApi.usePartnersInfiniteQuery({ sort: 'name', direction: 'asc' }));
  const { rows: funnels = [] } = useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' }));
  const change = (changes: Partial<typeof draft>) => setDraft((now) => ({ ...now, ...changes }));
  const isNewCode = row === null && (draft.code === '' || draft.code === codeFrom(draft.name));

  async function send() {
    setProblem(null);
    const read = PartnerSchema.safeParse({ ...draft, rules: rules.map(ruleOf) });
    if (!read.success) {
      setErrors(Object.fromEntries(read.error.issues.map(({ path, message }) => [path.slice(0, 2).join('.'), message]).reverse()));
      return;
    }
    setErrors({});
    try {
      await save({ id: row?.id ?? null, partner: read.data, begun }).unwrap();
      onClose();
    } catch (error) {
      const refusal = problemOf(error);
      setErrors(Object.fromEntries(refusal.errors.map(({ path, message }) => [path, message])));
      if (refusal.errors.length === 0) setProblem(refusal.title);
    }
  }

  return (
    <Modal open wide onClose={onClose} title={row ? row.partner.name : 'Add a partner'} unsaved={JSON.stringify([draft, rules]) !== first}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div className="grid gap-4 sm:grid-cols-2 items-start">
          <TextField
            label="Name"
            autoFocus={!row}
            value={draft.name}
            error={errors.name}
            onChange={({ target }) => change({ name: target.value, ...(isNewCode ? { code: codeFrom(target.value) } : {}) })}
          />
          <TextField label="E-mail" type="email" value={draft.email} error={errors.email} onChange={({ target }) => change({ email: target.value })} />
          <TextField
            label="Code in links"
            hint={`Their link: ${shop.siteUrl}/with/${draft.code || '…'}`}
            value={draft.code}
            error={errors.code}
            onChange={({ target }) => change({ code: target.value })}
          />
          <SelectField
            label="Their short link leads to"
            value={draft.landingFunnelId ?? ''}
            onChange={({ target }) => change({ landingFunnelId: target.value || null })}
          >
            <option value="">the first live funnel</option>
            {funnels.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
          <SelectField
            label="Recruited by"
            hint="They earn the second tier."
            error={errors.recruitedBy}
            value={draft.recruitedBy ?? ''}
            onChange={({ target }) => change({ recruitedBy: target.value || null })}
          >
            <option value="">nobody</option>
            {(others.rows ?? [])
              .filter(({ id }) => id !== row?.id)
              .map(({ id, partner }) => (
                <option key={id} value={id}>
                  {partner.name}
                </option>
              ))}
          </SelectField>
        </div>
        <RateRules
          legend="Rates of their own"
          hint="They come before those of everybody. Without any, the general terms hold."
          rules={rules}
          currency={shop.settings.currency}
          wrong={(index) => errors[`rules.${index}`]}
          onChange={setRules}
        />
        <Check
          label="Earns by new sales"
          hint="What was earned before stays theirs."
          checked={draft.isOn}
          onChange={({ target }) => change({ isOn: target.checked })}
        />
        <FormProblem>{problem}</FormProblem>
        <div>
          <Button look="main" type="submit" disabled={isLoading}>
            {row ? 'Save' : 'Add the partner'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
