import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { Modal } from '../ui/Modal';
import { contactsApi } from './api';

/** Cancels an appointment after asking once more, since both are told at once. */
export function CancelAppointment({ id, what }: { id: string; what: string }) {
  const [isAsking, setAsking] = useState(false);
  const [cancel, { isLoading, error, reset }] = contactsApi.useCancelAppointmentMutation();
  const close = () => {
    reset();
    setAsking(false);
  };
  return (
    <>
      <Button look="quiet" aria-label={`Cancel ${what}`} onClick={() => setAsking(true)}>
        Cancel it
      </Button>
      <Modal open={isAsking} onClose={close} title="Cancel this appointment?" description={what}>
        <p>Its time is free again at once. They get a mail that says so and takes it out of their calendar, and so do you.</p>
        {error ? (
          <p role="alert" className="mt-2 text-stop font-semibold">
            {problemOf(error).title}
          </p>
        ) : null}
        <div className="flex flex-wrap justify-end gap-2 mt-4">
          <Button onClick={close}>Keep it</Button>
          <Button
            look="danger"
            disabled={isLoading}
            onClick={() =>
              cancel(id)
                .unwrap()
                .then(close, () => undefined)
            }
          >
            Cancel it and tell them
          </Button>
        </div>
      </Modal>
    </>
  );
}
