import { TriangleAlert, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { Button } from './Button';

interface ModalProps {
  open: boolean;
  /** Missing where it cannot be closed: what it asks for has to be done first. */
  onClose?: () => void;
  title: string;
  description?: string;
  wide?: boolean;
  /** Something typed in it is not saved: closing asks first. */
  unsaved?: boolean;
  /** False where what it was opened from is gone once it closes, and the keyboard goes on elsewhere. */
  returnsFocus?: boolean;
  children: ReactNode;
}

/** A dialog over the page: Esc and the cross close it, the focus stays inside and comes back afterwards. */
export function Modal(props: ModalProps) {
  const [asking, setAsking] = useState(false);
  // Closing once more is no answer to the question: it goes back to what is typed.
  const close = () => (props.unsaved || asking ? setAsking(!asking) : props.onClose?.());
  return (
    <Dialog.Root open={props.open} onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/45" />
        <Dialog.Content
          {...(props.description ? {} : { 'aria-describedby': undefined })}
          {...(props.returnsFocus === false ? { onCloseAutoFocus: (event: Event) => event.preventDefault() } : {})}
          className={`fixed z-50 left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 w-[94vw] ${props.wide ? 'max-w-4xl' : 'max-w-xl'} max-h-[88vh] flex flex-col rounded-md border border-line bg-white`}
        >
          <header className="flex items-start justify-between gap-4 px-5 pt-4 pb-3 border-b border-line">
            <div>
              <Dialog.Title className="text-lg font-bold">{props.title}</Dialog.Title>
              {props.description ? <Dialog.Description className="text-soft">{props.description}</Dialog.Description> : null}
            </div>
            {props.onClose ? (
              <Dialog.Close aria-label="Close" title="Close" className="grid place-items-center size-8 rounded-md text-soft hover:bg-band">
                <X size={18} />
              </Dialog.Close>
            ) : null}
          </header>
          <div className="overflow-y-auto px-5 py-4">{props.children}</div>
          {asking ? (
            <footer role="alert" className="flex flex-wrap items-center gap-3 px-5 py-3 border-t border-care bg-care-tint">
              <TriangleAlert size={18} className="shrink-0 text-care" aria-hidden="true" />
              <span className="font-semibold mr-auto">What you typed here is not saved.</span>
              <Button look="main" onClick={() => setAsking(false)}>
                Stay here
              </Button>
              <Button look="danger" onClick={() => props.onClose?.()}>
                Leave without saving
              </Button>
            </footer>
          ) : null}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
