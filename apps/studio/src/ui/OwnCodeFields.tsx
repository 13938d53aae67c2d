import { type CodeNeeds, DEFAULT_NEEDS, hasCode, type OwnCode } from '@ruta/core/shop';
import { ORDER_VALUES } from '@ruta/core/tracking';
import { SelectField, TextArea } from './Field';

const MONO = 'w-full rounded-md border bg-white px-3 py-2 font-mono text-sm border-[#98a5a1]';
const NEEDS: Record<CodeNeeds, string> = {
  marketing: 'Once marketing is agreed to',
  statistics: 'Once statistics is agreed to',
  nothing: 'Always: the page needs it',
};
const EMPTY: OwnCode = { head: '', body: '' };

/** Code of the seller's own; it runs on public pages only, never in the studio. */
export function OwnCodeFields({ code, where, onChange }: { code: OwnCode | null | undefined; where: string; onChange: (code: OwnCode | undefined) => void }) {
  const now = code ?? EMPTY;
  const set = (changes: Partial<OwnCode>) => {
    const next = { ...now, ...changes };
    onChange(hasCode(next) ? next : undefined);
  };
  return (
    <div className="grid gap-3">
      <TextArea
        label="In the head"
        rows={4}
        spellCheck={false}
        maxLength={20_000}
        className={MONO}
        value={now.head}
        onChange={(event) => set({ head: event.target.value })}
      />
      <TextArea
        label="At the end of the body"
        rows={4}
        spellCheck={false}
        maxLength={20_000}
        className={MONO}
        value={now.body}
        onChange={(event) => set({ body: event.target.value })}
      />
      <TextArea
        label="Once after a purchase"
        rows={4}
        spellCheck={false}
        maxLength={20_000}
        className={MONO}
        hint={`With the order’s values: ${Object.keys(ORDER_VALUES)
          .map((name) => `{{${name}}}`)
          .join(', ')}. It runs once for an order and once for each thing added to it, however often the page is loaded.`}
        value={now.purchase ?? ''}
        onChange={(event) => set({ purchase: event.target.value || undefined })}
      />
      <SelectField
        label="It runs"
        hint="Where visitors are asked for their consent (Settings, Consent); where they are not, it always runs."
        value={now.needs ?? DEFAULT_NEEDS}
        onChange={(event) => set({ needs: event.target.value as CodeNeeds })}
      >
        {Object.entries(NEEDS).map(([needs, words]) => (
          <option key={needs} value={needs}>
            {words}
          </option>
        ))}
      </SelectField>
      <p className="text-soft">
        A tag manager finds what the page shows and what was bought in <code className="font-mono">window.rutaData</code>; see docs/data-layer.md.
      </p>
      <p className="text-soft">{where} It is put in as it is written, and runs on the public site only.</p>
    </div>
  );
}
