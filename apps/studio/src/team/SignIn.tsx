import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { refusedAt } from '../ui/fieldError';
import { teamApi } from './api';
import { Gate } from './Gate';
import { PasswordField } from './PasswordField';

export function SignIn() {
  const [isForgotten, setForgotten] = useState(false);
  const [email, setEmail] = useState('');
  return isForgotten ? (
    <Gate title="A new password">
      <ForgottenForm email={email} onBack={() => setForgotten(false)} />
    </Gate>
  ) : (
    <Gate title="Sign in">
      <SignInForm
        onForgotten={(typed) => {
          setEmail(typed);
          setForgotten(true);
        }}
      />
    </Gate>
  );
}

/** @param props.onForgotten goes to where a new password is had, with the address as it is typed */
export function SignInForm({ onForgotten }: { onForgotten?: (email: string) => void }) {
  const [signIn, { error, isLoading }] = teamApi.useSignInMutation();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [asksCode, setAsksCode] = useState(false);
  const atCode = refusedAt(error, 'code');
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        signIn({ email, password, ...(asksCode ? { code } : {}) })
          .unwrap()
          .catch((refused) => {
            if (problemOf(refused).errors.some(({ path }) => path === 'code')) setAsksCode(true);
          });
      }}
    >
      <FormProblem>{error && !atCode ? problemOf(error).title : null}</FormProblem>
      <TextField label="E-mail" type="email" autoComplete="username" required autoFocus value={email} onChange={(event) => setEmail(event.target.value)} />
      <PasswordField label="Password" autoComplete="current-password" required value={password} onChange={(event) => setPassword(event.target.value)} />
      {asksCode ? (
        <TextField
          label="Code"
          hint="Six digits from your authenticator app, or one of your recovery codes."
          autoComplete="one-time-code"
          required
          autoFocus
          error={code === '' ? undefined : atCode}
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
      ) : null}
      <Button look="main" type="submit" disabled={isLoading}>
        Sign in
      </Button>
      {onForgotten ? (
        <button type="button" className="justify-self-start text-info underline" onClick={() => onForgotten(email)}>
          Forgotten your password?
        </button>
      ) : null}
    </form>
  );
}

function ForgottenForm({ email: typed, onBack }: { email: string; onBack: () => void }) {
  const [send, { error, isLoading, isSuccess }] = teamApi.useForgottenMutation();
  const [email, setEmail] = useState(typed);
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void send({ email });
      }}
    >
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      {isSuccess ? (
        <p role="status" className="rounded-md bg-go-tint px-3 py-2">
          If this address belongs to the team, a link is on its way to it. It is good for half an hour.
        </p>
      ) : (
        <>
          <p>A link by which you choose a new password is sent to your address.</p>
          <TextField label="E-mail" type="email" autoComplete="username" required autoFocus value={email} onChange={(event) => setEmail(event.target.value)} />
          <Button look="main" type="submit" disabled={isLoading}>
            Send the link
          </Button>
        </>
      )}
      <button type="button" className="justify-self-start text-info underline" onClick={onBack}>
        Back to signing in
      </button>
    </form>
  );
}
