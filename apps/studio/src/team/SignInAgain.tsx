import { Modal } from '../ui/Modal';
import { SignInForm } from './SignIn';

/** Asks for a new sign-in over whatever is open, so that nothing typed there is lost. */
export function SignInAgain() {
  return (
    <Modal open title="Sign in again" description="Your sign-in has ended. Everything you typed is still here, and is saved once you are back.">
      <SignInForm />
    </Modal>
  );
}
