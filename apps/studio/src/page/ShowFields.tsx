import type { Show } from '@ruta/core/elements';
import { namesFor } from '@ruta/core/offers';
import type { PageDocument } from '@ruta/core/page';
import { Split } from 'lucide-react';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { useWorkspace } from '../funnel/useFunnel';
import { Button } from '../ui/Button';

interface ShowProps {
  id: string;
  show: Show | undefined;
  page: PageDocument;
  onChange: (show: Show | undefined) => void;
  onOtherwise: () => void;
  onSelect: (id: string) => void;
}

/** To whom a part of the page is shown, and the version beside it for everybody else. */
export function ShowFields({ id, show, page, onChange, onOtherwise, onSelect }: ShowProps) {
  const { funnel, shop } = useWorkspace();
  const { currency } = shop.settings;
  const parts = page.sections.flatMap((section) => [section, ...section.columns.flatMap((column) => column.elements)]);
  const other = parts.find((part) => part.show?.kind === 'otherwise' && part.show.of === id);
  return (
    <section className="grid grid-cols-[minmax(0,1fr)] gap-2 border-t border-line pt-3 mt-4">
      <h3 className="font-semibold">Who sees it?</h3>
      {show?.kind === 'otherwise' ? (
        <>
          <p>Everybody to whom the version beside it is not shown.</p>
          <p className="flex flex-wrap gap-2">
            <Button look="quiet" onClick={() => onSelect(show.of)}>
              Go to that version
            </Button>
            <Button look="quiet" onClick={() => onChange(undefined)}>
              Show it to everybody
            </Button>
          </p>
        </>
      ) : (
        <>
          <ConditionEditor
            label="Who sees this part of the page?"
            value={show?.condition ?? null}
            onChange={(condition) => onChange(condition ? { kind: 'when', condition } : undefined)}
            names={namesFor(funnel, currency)}
            currency={currency}
          />
          {show && !other ? (
            <Button onClick={onOtherwise}>
              <Split size={15} aria-hidden="true" /> Version for everybody else
            </Button>
          ) : null}
          {other ? (
            <Button look="quiet" onClick={() => onSelect(other.id)}>
              Go to the version for everybody else
            </Button>
          ) : null}
        </>
      )}
    </section>
  );
}
