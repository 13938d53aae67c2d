import { BANDS, STEP_KINDS, type StepKind } from '@ruta/core/funnel';
import { Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { StopMark } from '../funnel/StopMark';

export interface AddStopProps {
  /** Where the new stop will stand, in words: `between “Order” and “Thank you”`. */
  place: string;
  onAdd: (kind: StepKind) => void;
  /** Beside the plus; the plus alone on a line. */
  words?: string;
  /** Opened by the keyboard from the stop before it. */
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

/** A plus that puts a stop of any kind where it stands. */
export function AddStop({ place, words, onAdd, open, onOpenChange }: AddStopProps) {
  return (
    <DropdownMenu.Root {...(open === undefined ? {} : { open })} {...(onOpenChange ? { onOpenChange } : {})}>
      <DropdownMenu.Trigger
        aria-label={`Put a stop ${place}`}
        title={`Put a stop ${place}`}
        className={
          words
            ? 'inline-flex items-center gap-2 rounded-md border border-line bg-white px-3.5 min-h-9 font-semibold hover:border-soft'
            : 'grid place-items-center size-6 rounded-full border-2 border-ink bg-white text-ink hover:bg-way'
        }
      >
        <Plus size={words ? 15 : 14} strokeWidth={2.5} aria-hidden="true" /> {words}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="center"
          sideOffset={6}
          collisionPadding={12}
          className="z-50 max-h-[70vh] overflow-y-auto rounded-md border border-line bg-white p-1.5 min-w-52"
          // The stop it makes is looked at next; the plus it came from has moved.
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          {BANDS.map((band) => {
            const kinds = STEP_KINDS.filter((kind) => kind.band === band);
            return kinds.length === 0 ? null : (
              <DropdownMenu.Group key={band}>
                <DropdownMenu.Label className="px-2 pt-1.5 pb-0.5 text-soft text-[0.86rem] font-semibold">{band}</DropdownMenu.Label>
                {kinds.map(({ kind, name }) => (
                  <DropdownMenu.Item
                    key={kind}
                    onSelect={() => onAdd(kind)}
                    className="flex items-center gap-2.5 rounded-sm px-2 py-1.5 cursor-pointer data-highlighted:bg-band outline-none"
                  >
                    <StopMark kind={kind} current={false} size={18} /> {name}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Group>
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
